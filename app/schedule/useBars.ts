import { addDays } from '#core/schedule/days'
import { type Baseline, slipBetween } from '#core/schedule/baseline'
import type { Plan, Planned, PlannedBranch } from '#core/schedule/plan'
import { topicOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { bracketBetween } from './brackets'
import type { Scale } from './scale'

/** A topic on the days: px from the first of them. */
export interface Bar {
  readonly x: number
  readonly width: number
  readonly planned: Planned | null
  readonly branch: PlannedBranch | null
  readonly due: number | null
  /** How far it may slip, px beyond its end; 0 where it mustn't. */
  readonly float: number
  /** Where it stood in the baseline, and by how many working days it ends later now. */
  readonly agreed: { readonly x: number; readonly width: number; readonly slip: number } | null
}

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
  function barOf(id: TopicId): Bar | null {
    const { x, perDay } = on.scale()
    const task = on.plan().tasks.get(id)
    const made = task ?? on.plan().branches.get(id)
    if (!made) return null
    const left = x(made.start)
    const { due } = topicOf(desk.tree, id)
    const agreed = task ? on.against()?.tasks[id] : undefined
    return {
      agreed: agreed
        ? {
            x: x(agreed.start),
            width: Math.max(3, x(addDays(agreed.finish, 1)) - x(agreed.start)),
            slip: slipBetween(on.plan().calendar, agreed.finish, made.finish),
          }
        : null,
      x: left,
      width: task?.milestone ? 0 : Math.max(3, x(addDays(made.finish, 1)) - left),
      planned: task ?? null,
      branch: task ? null : (made as PlannedBranch),
      due: due === null ? null : x(addDays(due, 1)),
      float:
        task && task.totalFloat !== null && task.totalFloat > 0
          ? Math.max(0, x(addDays(task.lateFinish, 1)) - x(addDays(task.finish, 1)) - (perDay < 1 ? 1 : 0))
          : 0,
    }
  }
  const bars = computed(() => {
    void desk.tick.value
    return new Map(on.items().map(({ id }) => [id, barOf(id)]))
  })

  /** Every dependency of the tree between topics that are planned. */
  const waits = computed(() => {
    const found: { by: TopicId; on: TopicId; kind: string; broken: boolean; drives: boolean }[] = []
    const broken = new Set(on.plan().broken.map(({ by, wait }) => `${by} ${wait.id}`))
    for (const id of [...on.plan().tasks.keys(), ...on.plan().branches.keys()]) {
      const because = on.plan().tasks.get(id)?.because
      for (const wait of topicOf(desk.tree, id).waits)
        found.push({
          by: id,
          on: wait.on,
          kind: wait.kind,
          broken: broken.has(`${id} ${wait.id}`),
          drives:
            because?.kind === 'waits' && because.wait.id === wait.id && (on.plan().tasks.get(id)?.critical ?? false),
        })
    }
    return found
  })
  const brackets = computed(() => {
    const [first, last] = [on.items()[0]?.index ?? 0, on.items().at(-1)?.index ?? 0]
    return waits.value.flatMap(({ by, on: waitsFor, kind, broken, drives }) => {
      const [from, to] = [on.indexOf(waitsFor), on.indexOf(by)]
      if (from === undefined || to === undefined || Math.max(from, to) < first || Math.min(from, to) > last) return []
      const [one, other] = [bars.value.get(waitsFor) ?? barOf(waitsFor), bars.value.get(by) ?? barOf(by)]
      if (!one || !other) return []
      const [x1, x2] = [kind[0] === 'F' ? one.x + one.width : one.x, kind[1] === 'F' ? other.x + other.width : other.x]
      const path = bracketBetween(
        { x: x1, y: from * on.row + on.row / 2, out: kind[0] === 'F' },
        { x: x2, y: to * on.row + on.row / 2, out: kind[1] === 'F' },
        on.row,
      )
      return [{ key: `${waitsFor} ${by} ${kind}`, path, broken, drives }]
    })
  })
  return { barOf, bars, brackets }
}
