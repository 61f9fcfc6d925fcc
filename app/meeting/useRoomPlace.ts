import { branch, type TopicId } from '#core/tree'
import type { Meeting } from './useMeeting'

/** Which item is looked at: the chair's, or one's own for as long as one looks around. */
export function useRoomPlace({ desk, brief, items }: Meeting) {
  const looking = ref<TopicId | null>(null)
  const current = computed<TopicId | null>(() => brief.value.run?.current ?? null)
  const shown = computed<TopicId | null>(() => {
    const wanted =
      looking.value ?? current.value ?? (brief.value.stage === 'running' ? null : (items.value[0]?.id ?? null))
    return items.value.some(({ id }) => id === wanted) ? wanted : null
  })
  const item = computed(() => items.value.find(({ id }) => id === shown.value) ?? null)
  const number = computed(() => items.value.findIndex(({ id }) => id === shown.value) + 1)
  const isAhead = computed(() => looking.value !== null && looking.value !== current.value)
  /** The branch of the item is shown alone, and the whole tree again when one leaves. */
  const came = desk.only.value
  watch(
    shown,
    id => {
      // A title that somebody is typing in the branch is kept before it goes out of sight.
      if (desk.editing.value) desk.keep()
      if (id !== null && desk.tree.topics.has(id) && desk.only.value !== id) desk.showOnly(id)
    },
    { immediate: true },
  )
  onBeforeUnmount(() => {
    if (desk.only.value !== came) desk.showOnly(came)
  })
  // What is captured is in sight in the branch too.
  const size = computed(() => {
    void desk.lateTick.value
    return shown.value === null || !desk.tree.topics.has(shown.value) ? 0 : [...branch(desk.tree, shown.value)].length
  })
  watch(size, () => {
    if (size.value < 60) desk.fitSoon()
  })
  // Whoever follows goes along when the chair moves on.
  watch(current, now => {
    if (looking.value === now) looking.value = null
  })
  function lookAt(id: TopicId): void {
    looking.value = id === current.value ? null : id
  }
  /** Whoever can't move everybody goes from item to item alone. */
  function lookOn(by: 1 | -1): void {
    const at = items.value.findIndex(({ id }) => id === shown.value)
    const next = items.value[at + by]
    if (next) lookAt(next.id)
  }
  function comeBack(): void {
    looking.value = null
  }

  return { current, shown, item, number, isAhead, lookAt, lookOn, comeBack }
}
