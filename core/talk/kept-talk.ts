import { z } from 'zod'
import { id } from '../tree/atoms'
import { type Block, type Body, bodySchema, MOST_SAID, textOf } from './body'
import { BECAME, BENCH, placeSchema } from './saying'

/** What was said in a tree, as it goes along in the tree's own format. Withdrawn comments don't. */
export const keptThread = z.strictObject({
  id,
  place: placeSchema,
  settled: z.boolean(),
  comments: z
    .array(
      z.strictObject({
        id,
        by: id,
        /** ISO 8601 instant. */
        at: z.iso.datetime(),
        body: bodySchema,
        became: z.strictObject({ as: z.enum(BECAME), topic: id }).nullable(),
      }),
    )
    .max(100_000),
})
export type KeptThread = z.infer<typeof keptThread>

/**
 * A body that was said elsewhere by somebody else, as whoever brings it in says it: with the name and the day before it, since a file
 * may claim anything about who said what. What would be too long then is told without its formatting, and cut.
 */
export function quoted(body: Body, name: string, at: string): Body {
  const said: Block = {
    type: 'paragraph',
    content: [
      {
        type: 'text',
        text: `${name.slice(0, 200) || 'Somebody'}, ${at.slice(0, 10)}:`.toWellFormed(),
        marks: [{ type: 'bold' }],
      },
    ],
  }
  const whole: Body = { type: 'doc', content: [said, ...body.content] }
  if (bodySchema.safeParse(whole).success) return whole
  const text = textOf(body)
    .slice(0, MOST_SAID - 300)
    .toWellFormed()
  return { type: 'doc', content: [said, { type: 'paragraph', content: [{ type: 'text', text }] }] }
}

/** Threads that can be kept with a tree: each once, on a topic of it, with comments that are there once. */
export function soundThreads(threads: readonly KeptThread[], has: (topic: string) => boolean): KeptThread[] {
  const known = new Set<string>()
  return threads.flatMap(thread => {
    const bench = thread.id === BENCH
    if (known.has(thread.id) || bench !== (thread.place.on === 'tree')) return []
    if (thread.place.on !== 'tree' && !has(thread.place.topic)) return []
    known.add(thread.id)
    const comments = thread.comments.filter(one => !known.has(`c ${one.id}`) && known.add(`c ${one.id}`))
    return comments.length === 0 ? [] : [{ ...thread, comments }]
  })
}
