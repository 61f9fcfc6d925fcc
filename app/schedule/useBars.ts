import type { Baseline } from '#core/schedule/baseline'
import type { Plan } from '#core/schedule/plan'
import { barOf as barAt, waitingIn, waitPath } from '#core/scene/bars'
import type { Scale } from '#core/scene/day-scale'
import type { TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'

/** The bars of the rows in sight, and the brackets of what waits for what. */
export function useBars(
  desk: Desk,
  on: {
    plan(): Plan
    /** What the plan is held against. */
    against(): Baseline | null
    scale(): Scale
    /** The rows in sight, from the top down. */
    items(): readonly { readonly id: TopicId; readonly index: number }[]
    indexOf(id: TopicId): number | undefined
    /** Height of a row, px. */
    readonly row: number
  },
) {
  const barOf = (id: TopicId) => barAt(desk.tree, on.plan(), on.scale(), id, on.against())
  const bars = computed(() => {
    void desk.tick.value
    return new Map(on.items().map(({ id }) => [id, barOf(id)]))
  })

  /** Every dependency of the tree between topics that are planned. */
  const waits = computed(() => waitingIn(desk.tree, on.plan()))
  const brackets = computed(() => {
    const [first, last] = [on.items()[0]?.index ?? 0, on.items().at(-1)?.index ?? 0]
    return waits.value.flatMap(({ by, on: waitsFor, kind, broken, drives }) => {
      const [from, to] = [on.indexOf(waitsFor), on.indexOf(by)]
      if (from === undefined || to === undefined || Math.max(from, to) < first || Math.min(from, to) > last) return []
      const [one, other] = [bars.value.get(waitsFor) ?? barOf(waitsFor), bars.value.get(by) ?? barOf(by)]
      if (!one || !other) return []
      const lane = (bar: typeof one, index: number) => ({ bar, y: index * on.row + on.row / 2 })
      const path = waitPath(kind, lane(one, from), lane(other, to), on.row)
      return [{ key: `${waitsFor} ${by} ${kind}`, path, broken, drives }]
    })
  })
  return { barOf, bars, brackets }
}
