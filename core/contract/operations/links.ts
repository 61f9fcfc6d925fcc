import { z } from 'zod'
import { LINK_RIGHTS } from '../../access/principal'
import { whole } from '../../tree/atoms'
import { handedPart, TAKEN } from '../../tree/hand-out'
import { idSchema, operation, tree } from '../operation'

/** Another site, by its origin: "https://www.haven.example". */
const host = z
  .string()
  .max(200)
  .regex(
    /^https?:\/\/(?:[a-z\d-]+\.)*[a-z\d-]+(?::\d{1,5})?$/,
    'must be the beginning of an address, like https://haven.example',
  )
/** Sites on which one link's page may stand in a frame. */
const hosts = z.array(host).max(20)

/** What a link opens, and how. Nothing is open before somebody says so here. */
export const linkSettings = z.strictObject({
  name: z.string().trim().max(120).refine(whole, 'must be well-formed text').default(''),
  part: handedPart,
  with: z.array(z.enum(TAKEN)),
  /** Besides looking: to comment, or to edit as well. Whoever does gives a name. */
  may: z.enum(LINK_RIGHTS).default('look'),
  /** Sites whose pages may show this one in a frame, read-only; none at first. */
  hosts: hosts.default([]),
  /** Whether a guest may take it along as a file. */
  copying: z.boolean().default(false),
  /** A word that has to be known too; null for none. */
  word: z.string().min(4, 'A word has at least 4 letters.').max(200).nullable().default(null),
  /** The last day on which it holds, ISO 8601 (UTC); null for as long as it isn't withdrawn. */
  until: z.iso.date().nullable().default(null),
  /** Whether search engines may list it. */
  listed: z.boolean().default(false),
})
export type LinkSettings = z.output<typeof linkSettings>

/** A link as its owner sees it. The address itself is told once, when it's made. */
export interface LinkShown extends Omit<LinkSettings, 'word'> {
  readonly id: string
  readonly hasWord: boolean
  readonly by: string
  /** ISO 8601 instants. */
  readonly at: string
  readonly opened: number
  readonly lastOpened: string | null
}

const link = z.object({ id: idSchema, link: idSchema })

/** Addresses that need no account. */
export const LINKS = {
  listLinks: operation('GET', '/api/trees/{id}/links', 'owner', 'The links that open the tree or a part of it.', {
    params: tree,
  }),
  makeLink: operation(
    'POST',
    '/api/trees/{id}/links',
    'owner',
    'Makes a link. The answer holds its address, which is told this once.',
    { params: tree, body: linkSettings },
  ),
  changeLink: operation(
    'PATCH',
    '/api/trees/{id}/links/{link}',
    'owner',
    'Changes what a link opens; what isn’t said stays. The address stays too.',
    {
      params: link,
      body: z.strictObject({
        name: linkSettings.shape.name.removeDefault().optional(),
        part: handedPart.optional(),
        with: z.array(z.enum(TAKEN)).optional(),
        may: z.enum(LINK_RIGHTS).optional(),
        hosts: hosts.optional(),
        copying: z.boolean().optional(),
        word: z.string().min(4).max(200).nullable().optional(),
        until: z.iso.date().nullable().optional(),
        listed: z.boolean().optional(),
      }),
    },
  ),
  renewLink: operation(
    'POST',
    '/api/trees/{id}/links/{link}/address',
    'owner',
    'Gives a link a new address; the old one leads nowhere from then on.',
    { params: link },
  ),
  withdrawLink: operation(
    'DELETE',
    '/api/trees/{id}/links/{link}',
    'owner',
    'Withdraws a link: it leads nowhere from then on.',
    { params: link },
  ),
} as const
