import { z } from 'zod'
import { idSchema, operation } from '../operation'

/** The Letterbox. */
export const LETTERS = {
  countLetters: operation('GET', '/api/letters/unread', 'person', 'How many letters one hasn’t read.'),
  listLetters: operation(
    'GET',
    '/api/letters',
    'person',
    'Letters to one’s mail address, or those one has sent, newest first.',
    { query: z.object({ box: z.enum(['in', 'sent']).default('in') }) },
  ),
  openLetterFile: operation('GET', '/api/letters/{id}/files/{number}', 'person', 'A file that came with a letter.', {
    params: z.object({ id: idSchema, number: z.coerce.number().int().min(0).max(20) }),
  }),
  readLetter: operation('POST', '/api/letters/{id}/read', 'person', 'Marks a letter as read.', {
    params: z.object({ id: idSchema }),
  }),
} as const
