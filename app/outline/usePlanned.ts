import type { PlannedDays } from '#core/find/rows'
import type { TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'

/** What the plan says of topics, for whoever wants a column of it. What works it out is loaded when somebody first does. */
export function usePlanned(desk: Desk, wanted: () => boolean): ComputedRef<(id: TopicId) => PlannedDays | null> {
  const of = shallowRef<((id: TopicId) => PlannedDays | null) | null>(null)
  watch(
    wanted,
    async now => {
      if (!now || of.value) return
      const { planningOf } = await import('~/schedule/planning')
      const planning = planningOf(desk)
      of.value = id => planning.of(id)
    },
    { immediate: true },
  )
  return computed(() => {
    void desk.tick.value
    const ask = of.value
    return id => ask?.(id) ?? null
  })
}
