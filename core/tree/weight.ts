import { CONTENT_NAMES, isBlank, type Topic } from './topic'
import type { Patch } from './apply'

/* What trees weigh: the bytes of their snapshot as JSON in UTF-8. Counted as a tree is altered, never by going through it. */

const utf8 = new TextEncoder()
const bytesOf = (text: string): number =>
  // eslint-disable-next-line no-control-regex -- ASCII, which is most of it, has a byte a character
  /^[\u0000-\u007f]*$/.test(text) ? text.length : utf8.encode(text).length

const weighed = new WeakMap<Topic, number>()

/** Bytes of one topic, its note included. Topics are never altered in place, so each is weighed once. */
export function weightOf(topic: Topic): number {
  const known = weighed.get(topic)
  if (known !== undefined) return known
  const rest: Record<string, unknown> = { id: topic.id, parent: topic.parent, order: topic.order }
  for (const name of CONTENT_NAMES) if (name !== 'note' && !isBlank(name, topic[name])) rest[name] = topic[name]
  const weight = bytesOf(JSON.stringify(rest)) + (topic.note?.length ?? 0)
  weighed.set(topic, weight)
  return weight
}

/** Bytes of a note, as a Yjs update. */
export const noteBytes = (note: string | null): number => Math.floor(((note?.length ?? 0) * 3) / 4)

/** Bytes that changes add to a tree; less than none when it became lighter. */
export function addedWeight(patches: readonly Patch[], fieldsAfter: unknown): number {
  let added = 0
  let dressed: Patch | undefined
  for (const patch of patches) {
    if (patch.id === null) dressed ??= patch
    else if (patch.before !== patch.after)
      added += (patch.after ? weightOf(patch.after) : 0) - (patch.before ? weightOf(patch.before) : 0)
  }
  if (dressed) added += bytesOf(JSON.stringify(fieldsAfter)) - bytesOf(JSON.stringify(dressed.fields))
  return added
}
