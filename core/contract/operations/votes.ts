import { z } from 'zod'
import { words } from '../../tree/atoms'
import { castSchema, MOST_CHOICES, MOST_POINTS, VOTE_KINDS } from '../../tree/vote'
import { idSchema, operation, tree } from '../operation'

const vote = tree.extend({ vote: idSchema })

/** Quick votes on a topic. */
export const VOTES = {
  listVotes: operation('GET', '/api/trees/{id}/votes', 'viewer', 'The votes that run in a tree.', { params: tree }),
  beginVote: operation(
    'POST',
    '/api/trees/{id}/votes',
    'editor',
    'Asks everybody in the tree about a topic: yes or no, by points, or by order; openly or in secret. The same id once more asks once.',
    {
      params: tree,
      body: z.strictObject({
        id: z.string().regex(/^[\w-]{1,32}$/),
        topic: idSchema,
        question: words(500),
        kind: z.enum(VOTE_KINDS),
        choices: z
          .array(z.string().trim().pipe(words(200).min(1)))
          .min(2)
          .max(MOST_CHOICES)
          .refine(list => new Set(list).size === list.length, 'must all be different'),
        points: z.int().min(1).max(MOST_POINTS).default(3),
        secret: z.boolean(),
      }),
    },
  ),
  castVote: operation(
    'POST',
    '/api/trees/{id}/votes/{vote}',
    'commenter',
    'Says what one thinks: a number for each choice. In an open vote it can be said anew; in a secret one it can’t, since nobody keeps who said what.',
    { params: vote, body: z.strictObject({ cast: castSchema }) },
  ),
  closeVote: operation(
    'POST',
    '/api/trees/{id}/votes/{vote}/close',
    'editor',
    'Closes a vote. What it came to is kept with the topic, as one edit.',
    { params: vote },
  ),
  dropVote: operation('DELETE', '/api/trees/{id}/votes/{vote}', 'editor', 'Lets a vote go, with all that was said.', {
    params: vote,
  }),
} as const
