import { z } from 'zod'
import { operation, tree } from '../operation'

const address = z.string().min(8).max(2000)

/** What a page behind a link says of itself. */
export interface LinkedPage {
  readonly address: string
  /** Both '' where nothing could be had. */
  readonly title: string
  readonly summary: string
  /** A file of the tree; null for none. */
  readonly picture: string | null
  /** When it was asked, ISO 8601 instant. */
  readonly at: string
}
export interface LinkedPages {
  /** Whether the tree's owners let pages be asked. */
  readonly on: boolean
  readonly pages: readonly LinkedPage[]
}
/** What became of asking an address. `elsewhere`: it leads on too often. `closed`: it isn't asked, or whoever answers doesn't let one in. */
export type AddressState = 'there' | 'gone' | 'silent' | 'closed' | 'elsewhere'
export interface CheckedAddress {
  readonly address: string
  readonly is: AddressState
  /** The HTTP status that was answered, where one was. */
  readonly status: number | null
}

/** The web pages behind a tree's links: asked only where its owners let that be. */
export const PAGES = {
  readPages: operation(
    'GET',
    '/api/trees/{id}/pages',
    'viewer',
    'Whether pages behind links may be asked here, and what those that were say of themselves.',
    { params: tree },
  ),
  letPages: operation(
    'PUT',
    '/api/trees/{id}/pages',
    'owner',
    'Lets pages behind the tree’s links be asked what they say of themselves, or not any more: then what was kept goes.',
    { params: tree, body: z.strictObject({ on: z.boolean() }) },
  ),
  lookAtPage: operation(
    'POST',
    '/api/trees/{id}/pages',
    'viewer',
    'Title, summary and picture of a page that a link of the tree leads to: fetched once, then kept. `again`, for editors: fetched anew.',
    { params: tree, body: z.strictObject({ address, again: z.boolean().default(false) }) },
  ),
  checkAddresses: operation(
    'POST',
    '/api/trees/{id}/pages/check',
    'editor',
    'Asks web addresses that links of the tree lead to whether they answer.',
    { params: tree, body: z.strictObject({ addresses: z.array(address).min(1).max(20) }) },
  ),
} as const
