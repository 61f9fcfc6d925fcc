/** An error that the caller should hear about, in words for a person and a code for a program. */
export class Fault extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly details?: unknown,
  ) {
    super(message)
    this.name = 'Fault'
  }
}
