import { z } from 'zod'
import { choiceSchema } from '../../handing/choice'
import { isZone } from '../../meeting/zones'
import { operation, tree } from '../operation'

/** What leaves a tree. */
export const HANDING = {
  handOut: operation(
    'POST',
    '/api/trees/{id}/hand-out',
    'viewer',
    'Makes a file of a tree or a part of it: a document, slides, an outline or a picture. What isn’t chosen isn’t in it.',
    {
      params: tree,
      // `today` and `zone`: the present day of whoever asks, and where that is.
      body: choiceSchema.extend({
        today: z.iso.date().optional(),
        zone: z.string().max(64).refine(isZone, 'must be an IANA zone').default('UTC'),
      }),
    },
  ),
} as const
