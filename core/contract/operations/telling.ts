import { z } from 'zod'
import { waysChangeSchema } from '../../telling/kinds'
import { idSchema, operation, tree } from '../operation'

const told = z.coerce.number().int().min(0)
const watched = tree.extend({ topic: idSchema })

/** What one is told of what others do. */
export const TELLING = {
  listTold: operation('GET', '/api/told', 'person', 'What one was told, newest first, a hundred at a time.', {
    query: z.object({ before: told.optional() }),
  }),
  countTold: operation(
    'GET',
    '/api/told/count',
    'person',
    'How much of what one was told one hasn’t read. `zone`: the zone of the browser, for those whose account names none.',
    { query: z.object({ zone: z.string().max(64).optional() }) },
  ),
  readTold: operation(
    'POST',
    '/api/told/read',
    'person',
    'Marks as read, on every device: some by id, all up to one, what was watched in a tree, or what was said on a topic.',
    {
      body: z.union([
        z.strictObject({ ids: z.array(z.int().min(1)).min(1).max(1000) }),
        z.strictObject({ upTo: z.int().min(1) }),
        z.strictObject({ tree: idSchema, topic: idSchema.optional() }),
      ]),
    },
  ),
  toldWays: operation('GET', '/api/told/ways', 'person', 'How one wants to be told, and what one watches.'),
  changeToldWays: operation(
    'PATCH',
    '/api/told/ways',
    'person',
    'Says how one wants to be told; what isn’t named stays as it was.',
    { body: waysChangeSchema },
  ),
  watchTopic: operation(
    'PUT',
    '/api/trees/{id}/watched/{topic}',
    'viewer',
    'From now on one is told of changes by others in a branch; the centre stands for the whole tree.',
    { params: watched },
  ),
  unwatchTopic: operation('DELETE', '/api/trees/{id}/watched/{topic}', 'person', 'Watches it no more.', {
    params: watched,
  }),
  listWatched: operation('GET', '/api/trees/{id}/watched', 'viewer', 'The topics of the tree that one watches.', {
    params: tree,
  }),
} as const
