import { z } from 'zod'
import { choiceSchema } from '../../handing/choice'
import { isZone } from '../../meeting/zones'
import { fileId, whole } from '../../tree/atoms'
import { idSchema, operation, tree } from '../operation'

/** `today` and `zone`: the present day of whoever asks, and where that is. */
const asked = choiceSchema.extend({
  today: z.iso.date().optional(),
  zone: z.string().max(64).refine(isZone, 'must be an IANA zone').default('UTC'),
})
/** Addresses that one file goes to at once. */
export const MOST_ADDRESSEES = 30

const made = z.object({ id: idSchema, made: idSchema })

const ownTemplate = z.object({ template: idSchema })

/** What leaves a tree. */
export const HANDING = {
  handOut: operation(
    'POST',
    '/api/trees/{id}/hand-out',
    'viewer',
    'Makes a file of a tree or a part of it: a document, slides, an outline or a picture. What isn’t chosen isn’t in it.',
    { params: tree, body: asked },
  ),
  makeMeanwhile: operation(
    'POST',
    '/api/trees/{id}/made',
    'viewer',
    'Makes a file as `hand-out` does, without being waited for. It’s found under its `id` for a day, by whoever asked alone. `letter`: says by letter when it’s made.',
    { params: tree, body: asked.extend({ letter: z.boolean().default(false) }) },
  ),
  listMade: operation(
    'GET',
    '/api/trees/{id}/made',
    'viewer',
    'What one had made of the tree within a day: `making`, `made`, or `failed` with why.',
    { params: tree },
  ),
  readMade: operation('GET', '/api/trees/{id}/made/{made}', 'viewer', 'A file that was made for one.', {
    params: made,
  }),
  dropMade: operation(
    'DELETE',
    '/api/trees/{id}/made/{made}',
    'viewer',
    'Takes away what was made for one, and stops it where it’s being made.',
    { params: made },
  ),
  readTemplate: operation(
    'GET',
    '/api/trees/{id}/templates/{file}',
    'viewer',
    'What a Word document among the tree’s files holds and lacks as a template: fields, styles.',
    { params: z.object({ id: idSchema, file: fileId }) },
  ),
  listOwnTemplates: operation(
    'GET',
    '/api/templates',
    'person',
    'The Word documents that one keeps as templates of one’s own, for every tree. A choice names one by its `id`, as those of the tree.',
  ),
  keepOwnTemplate: operation(
    'POST',
    '/api/templates',
    'person',
    'Keeps a Word document, sent as it is, as a template of one’s own, in place of one of its name. What can’t be filled in is refused.',
    { query: z.object({ name: z.string().trim().min(1).max(120).refine(whole, 'must be well-formed text') }) },
  ),
  readOwnTemplate: operation(
    'GET',
    '/api/templates/{template}',
    'person',
    'What a template of one’s own holds and lacks: fields, styles.',
    { params: ownTemplate },
  ),
  dropOwnTemplate: operation('DELETE', '/api/templates/{template}', 'person', 'Forgets a template of one’s own.', {
    params: ownTemplate,
  }),
  mailHandOut: operation(
    'POST',
    '/api/trees/{id}/hand-out/letters',
    'viewer',
    'Makes a file as `hand-out` does and sends it by letter to each of the addresses.',
    {
      params: tree,
      body: asked.extend({
        to: z.array(z.email().max(254)).min(1).max(MOST_ADDRESSEES),
        subject: z
          .string()
          .trim()
          .min(1)
          .max(200)
          .regex(/^[^\r\n]*$/, 'must be one line')
          .refine(whole, 'must be well-formed text'),
        words: z.string().trim().max(5000).refine(whole, 'must be well-formed text').default(''),
      }),
    },
  ),
} as const
