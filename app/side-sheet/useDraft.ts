import type { TopicId } from '#core/tree'
import { forgottenWith } from '~/session/forgetting'

/**
 * What was begun in a field and not kept yet. It belongs to its topic: it's there again when one comes back, and
 * nowhere else.
 */
const drafts = new Map<string, string>()
forgottenWith(() => {
  drafts.clear()
})

/** A draft for one field of one topic, for as long as the page is open. */
export function useDraft(field: string, topic: TopicId): Ref<string> {
  const key = `${field} ${topic}`
  return customRef((track, trigger) => ({
    get() {
      track()
      return drafts.get(key) ?? ''
    },
    set(value) {
      if (value === '') drafts.delete(key)
      else drafts.set(key, value)
      trigger()
    },
  }))
}
