import type { ComputedRef } from 'vue'
import type { TopicId } from '#core/tree'

/**
 * The topics that a field was opened for. A click on another topic selects that one before the field is left, and what
 * was typed is still for these.
 */
export function useMeant(ids: ComputedRef<readonly TopicId[]>): {
  meant: () => readonly TopicId[]
  hold: () => void
  letGo: () => void
} {
  let opened: readonly TopicId[] | null = null
  return {
    meant: () => opened ?? ids.value,
    hold: () => {
      opened ??= ids.value
    },
    letGo: () => {
      opened = null
    },
  }
}
