import { z } from 'zod'

/* How the cards of a tree's board stand, and how many a column is to hold. */

/** By what cards stand in columns: their state, who does them, priority, any marker, or the markers of one set. */
export const boardBy = z.string().regex(/^(state|person|priority|marker|set-[\w-]{1,40})$/)

/** What the board shows; nothing of it changes the tree. */
export const boardShape = z.strictObject({
  by: boardBy,
  /** Whether each main branch has a row of its own. */
  rows: z.boolean(),
})
export type BoardShape = Readonly<z.infer<typeof boardShape>>

/** How many cards a column is to hold at most; more is told, never refused. Its id is the column's. */
export const columnLimitSchema = z.strictObject({
  id: z.string().regex(/^(state|person|priority|marker)-[\w-]{1,40}$/, 'must be a column'),
  most: z.int().min(1).max(999),
})
