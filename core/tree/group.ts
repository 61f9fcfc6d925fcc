import { z } from 'zod'
import { id, words } from './atoms'

/*
 * Named groups of people: "Board", "Volunteers". A tree's own are edited as everything else in it; one's own are kept beside the
 * account.
 */

export const GROUP_LIMITS = { people: 200, groups: 40 } as const

/** Somebody in a group: an account's id, or, who has none in this tree, a mail address in small letters. */
const somebody = z.union([
  id,
  z
    .email()
    .max(254)
    .refine(mail => mail === mail.toLowerCase(), 'is written in small letters'),
])

/** What a group was let in with, and who was in it then: whoever came or went since is offered. */
export const groupShared = z.strictObject({
  role: z.enum(['viewer', 'commenter', 'editor']),
  who: z.array(somebody).max(GROUP_LIMITS.people),
})
export type GroupShared = z.infer<typeof groupShared>

export const groupFields = {
  id,
  name: words(80).refine(text => text.trim() !== '', 'must say something'),
  who: z.array(somebody).max(GROUP_LIMITS.people),
}
export const groupSchema = z.strictObject({ ...groupFields, shared: groupShared.nullable() })
export type PeopleGroup = Readonly<z.infer<typeof groupSchema>>
