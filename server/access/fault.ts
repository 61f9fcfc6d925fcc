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

/** The database has no room: what was sent isn't stored, and will be when there is. */
export const diskFull = (): Fault =>
  new Fault(
    507,
    'disk-full',
    'The disk of Sun Porch is full. Your edits wait and will be stored as soon as there’s room.',
  )
