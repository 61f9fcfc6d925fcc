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

/** The database can't hold what was sent. Sent again it would be refused again, and what comes after it would wait for ever. */
export const unstorable = (): Fault =>
  new Fault(422, 'unstorable', 'The database can’t hold this, which is our fault. Nothing of it was stored.')
