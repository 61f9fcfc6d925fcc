import { users } from '../database/schema'

/** What every request needs to know of whoever sends it, and no more: the row holds a picture too. */
export const IDENTITY = { id: users.id, name: users.name, email: users.email, confirmedAt: users.confirmedAt }
