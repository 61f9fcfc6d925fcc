import { z } from 'zod'
import { operation, tree } from '../operation'

/** A picture of the shelf that ships with the app. */
export interface ShelfPicture {
  readonly id: string
  /** What it is called, in the language that was asked for. */
  readonly label: string
  /** The character that it draws; null for a plain symbol. */
  readonly emoji: string | null
  /** SVG. */
  readonly drawing: string
}

/** The shelf of pictures. */
export const SHELF = {
  findOnShelf: operation('GET', '/api/shelf', 'person', 'Pictures that ship with the app, by words for them.', {
    query: z.object({ words: z.string().max(100), language: z.string().max(12).default('en') }),
  }),
  addPictureFromShelf: operation(
    'POST',
    '/api/trees/{id}/pictures/from-shelf',
    'editor',
    'Stores a picture of the shelf with the tree.',
    { params: tree, body: z.strictObject({ picture: z.string().max(200) }) },
  ),
} as const
