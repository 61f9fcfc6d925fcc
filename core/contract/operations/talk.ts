import { z } from 'zod'
import { sayingSchema } from '../../talk/saying'
import { idSchema, operation, tree } from '../operation'

const flag = z.enum(['true', 'false']).transform(said => said === 'true')
const number = z.coerce.number().int().min(0)
const text = z.string().max(200)

/** What is said in a tree: comments, and the talk of the tree. */
export const TALK = {
  say: operation(
    'POST',
    '/api/trees/{id}/talk',
    'commenter',
    'Says something: begins a thread, goes on in one, settles it; rewords or withdraws what one said. The same id once more says it once.',
    { params: tree, body: sayingSchema },
  ),
  talkOverview: operation(
    'GET',
    '/api/trees/{id}/talk',
    'viewer',
    'Every thread without its words, and how much of the talk of the tree one hasn’t read.',
    { params: tree },
  ),
  talkNews: operation('GET', '/api/trees/{id}/talk/news', 'viewer', 'What was said after a number.', {
    params: tree,
    query: z.object({ since: number }),
  }),
  listThreads: operation(
    'GET',
    '/api/trees/{id}/talk/threads',
    'viewer',
    'Threads of comments with their words, the one in which something happened last first.',
    {
      params: tree,
      query: z.object({
        thread: idSchema.optional(),
        topic: idSchema.optional(),
        settled: flag.optional(),
        by: idSchema.optional(),
        mentions: idSchema.optional(),
        text: text.optional(),
        before: number.optional(),
      }),
    },
  ),
  listBench: operation(
    'GET',
    '/api/trees/{id}/talk/bench',
    'viewer',
    'The talk of the tree: its newest lines, or those before a number.',
    { params: tree, query: z.object({ text: text.optional(), before: number.optional() }) },
  ),
  seenBench: operation(
    'POST',
    '/api/trees/{id}/talk/seen',
    'viewer',
    'Says up to where one has read the talk of the tree.',
    { params: tree, body: z.strictObject({ number: z.int().min(0) }) },
  ),
  addTalkPicture: operation(
    'POST',
    '/api/trees/{id}/talk/pictures',
    'commenter',
    'Stores a picture for a comment, sent as it is. It’s drawn anew; what isn’t a picture is refused.',
    { params: tree },
  ),
} as const
