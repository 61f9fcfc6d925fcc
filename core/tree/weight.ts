import { type Content, CONTENT_NAMES, isBlank, type Topic } from './topic'
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
  let weight = frameOf(topic)
  for (const name of CONTENT_NAMES) weight += partOf(topic, name)
  weighed.set(topic, weight)
  return weight
}

/** Bytes of what every topic has. */
const frameOf = ({ id, parent, order }: Topic): number => bytesOf(JSON.stringify({ id, parent, order }))

/** Bytes of one thing that a topic holds, with its name and its comma; a note is counted as its letters. */
function partOf(topic: Topic, name: keyof Content): number {
  if (name === 'note') return topic.note?.length ?? 0
  return isBlank(name, topic[name]) ? 0 : name.length + 4 + bytesOf(JSON.stringify(topic[name]))
}

/** Bytes by which a topic grew: of what changed alone, and its new weight is known by it. */
function grown(before: Topic, after: Topic): number {
  const weight = weightOf(before)
  if (weighed.has(after)) return weightOf(after) - weight
  let added = before.parent === after.parent && before.order === after.order ? 0 : frameOf(after) - frameOf(before)
  for (const name of CONTENT_NAMES)
    if (before[name] !== after[name]) added += partOf(after, name) - partOf(before, name)
  weighed.set(after, weight + added)
  return added
}

/** Bytes of a note, as a Yjs update. */
export const noteBytes = (note: string | null): number => Math.floor(((note?.length ?? 0) * 3) / 4)

/** Bytes that changes add to a tree; less than none when it became lighter. */
export function addedWeight(patches: readonly Patch[], fieldsAfter: unknown): number {
  let added = 0
  let dressed: Patch | undefined
  for (const patch of patches) {
    if (patch.id === null) dressed ??= patch
    else if (patch.before && patch.after) added += grown(patch.before, patch.after)
    else if (patch.before !== patch.after)
      added += (patch.after ? weightOf(patch.after) : 0) - (patch.before ? weightOf(patch.before) : 0)
  }
  if (dressed) added += bytesOf(JSON.stringify(fieldsAfter)) - bytesOf(JSON.stringify(dressed.fields))
  return added
}
