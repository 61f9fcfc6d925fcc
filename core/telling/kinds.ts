import { z } from 'zod'

/* What somebody is told of, and how soon: the rules of it, the same for the sign in the app and for letters. */

/** The kinds of things that somebody is told. */
export const TOLD_KINDS = ['mention', 'reply', 'task', 'date', 'section', 'invited', 'watched'] as const
export type ToldKind = (typeof TOLD_KINDS)[number]

export const KIND_WORDS: Record<ToldKind, string> = {
  mention: 'Somebody mentions me, a group I am in, or all',
  reply: 'Replies where I have talked',
  task: 'Tasks given to me, or taken',
  date: 'Dates of my tasks moved by others',
  section: 'Sections that I am asked to fill in',
  invited: 'Invitations, and what I may do',
  watched: 'Changes in what I watch',
}

/** 'now': at once, by letter too. 'daily' and 'weekly': shown at once, by letter in the morning, or on Monday morning. */
export const WHEN = ['now', 'daily', 'weekly', 'never'] as const
export type When = (typeof WHEN)[number]

/** Kinds that a letter of its own goes out for anyhow. */
export const LETTERED: ReadonlySet<ToldKind> = new Set(['section', 'invited'])

const when = z.enum(WHEN)
const kinds = z.strictObject({
  mention: when,
  reply: when,
  task: when,
  date: when,
  section: when,
  invited: when,
  watched: when,
} satisfies Record<ToldKind, typeof when>)
const time = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'must be a time such as 22:00')

/** How one person wants to be told. */
export const waysSchema = z.strictObject({
  kinds,
  /** Whether letters are written at all. */
  letters: z.boolean(),
  /** Between these times of their own day nothing rings and no letter goes out. Null: no quiet hours. */
  quiet: z.strictObject({ from: time, to: time }).nullable(),
})
export type Ways = Readonly<z.infer<typeof waysSchema>>

/** What somebody chooses anew; all else stays, whatever another of their devices chose meanwhile. */
export const waysChangeSchema = waysSchema.extend({ kinds: kinds.partial() }).partial()
export type WaysChange = Readonly<z.infer<typeof waysChangeSchema>>

export const changedWays = (ways: Ways, change: WaysChange): Ways =>
  waysSchema.parse({ ...ways, ...change, kinds: { ...ways.kinds, ...change.kinds } })

/** How everybody is told until they say otherwise. */
export const USUAL_WAYS: Ways = {
  kinds: { mention: 'now', reply: 'now', task: 'now', date: 'daily', section: 'now', invited: 'now', watched: 'daily' },
  letters: true,
  quiet: { from: '20:00', to: '07:00' },
}
