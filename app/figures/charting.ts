import type { ChartAsked, ChartKind, HungChart, Series, ShownChart, TopicId } from '#core/tree'
import { allTopics, inOrder, isLive, keysAt, topicOf } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/* Which face the figures show, and which chart: kept while one looks at something else, and what a kept view asks for. */

export const FACES = [
  { id: 'sheet', name: 'Sheet' },
  { id: 'charts', name: 'Charts' },
  { id: 'what-if', name: 'What if' },
  { id: 'choosing', name: 'Choosing' },
] as const

/** The ways a branch is charted; how sure its sum is stands beside them, and is worked out anew each time. */
export const KINDS: readonly { readonly id: ChartKind | 'sure'; readonly name: string }[] = [
  { id: 'bars', name: 'Parts' },
  { id: 'share', name: 'Shares' },
  { id: 'rings', name: 'Rings' },
  { id: 'target', name: 'Against target' },
  { id: 'steps', name: 'To the whole' },
  { id: 'time', name: 'Over time' },
  { id: 'years', name: 'Over the years' },
  { id: 'sure', name: 'How sure' },
]
export const kindName = (kind: ChartKind): string => KINDS.find(({ id }) => id === kind)!.name

interface Charting {
  readonly face: Ref<(typeof FACES)[number]['id']>
  readonly kind: Ref<ChartKind | 'sure'>
  /** Null: the first. */
  readonly measure: Ref<string | null>
  readonly each: Ref<Series['each']>
}
const held = new WeakMap<Desk, Charting>()

export function chartingOf(desk: Desk): Charting {
  let charting = held.get(desk)
  if (!charting)
    held.set(desk, (charting = { face: ref('sheet'), kind: ref('bars'), measure: ref(null), each: ref('year') }))
  return charting
}

/** The branch that is charted: the one that has the focus, or the one around it, so that there is something below it. */
export function chartedAt(desk: Desk): TopicId {
  const { tree } = desk
  const id = desk.focus.value
  if (!tree.topics.has(id)) return tree.centre
  return (tree.children.get(id)?.length ?? 0) > 0 ? id : (topicOf(tree, id).parent ?? tree.centre)
}

/** The chart that is looked at just now, for a view that is kept; null where none is. */
export function shownChartNow(desk: Desk): ShownChart | null {
  const { face, kind, measure, each } = chartingOf(desk)
  const of = measure.value ?? inOrder(desk.tree.fields.measures)[0]?.id
  if (desk.view.value !== 'figures' || face.value !== 'charts' || kind.value === 'sure' || of === undefined) return null
  return { at: chartedAt(desk), kind: kind.value, measure: of, each: each.value }
}

/** Shows a chart of a branch, that of a kept view or one that hangs on a topic. */
export function showChart(desk: Desk, { at, ...asked }: ShownChart): void {
  const charting = chartingOf(desk)
  charting.face.value = 'charts'
  charting.kind.value = asked.kind
  charting.measure.value = asked.measure
  charting.each.value = asked.each
  if (isLive(desk.tree, at)) desk.select(at)
  else {
    desk.select(desk.tree.centre)
    desk.say('The branch that this chart is of isn’t there any more: the whole tree is charted.')
  }
  desk.view.value = 'figures'
}

/** The very chart among those that hang on a topic. */
export function hungOn(desk: Desk, at: TopicId, { kind, measure, each }: ChartAsked): HungChart | undefined {
  return topicOf(desk.tree, at).charts.find(
    one => one.kind === kind && one.measure === measure && (kind !== 'years' || one.each === each),
  )
}

/** Hangs a chart on its branch's topic, behind those that hang there; or takes it off again. */
export function hangChart(desk: Desk, { at, ...asked }: ShownChart): void {
  if (!desk.guard()) return
  const there = hungOn(desk, at, asked)
  if (there) {
    desk.run({ changes: [{ op: 'take', topic: at, set: 'charts', member: there.id }] })
    return
  }
  const orders = inOrder(topicOf(desk.tree, at).charts).map(({ order }) => order)
  const member = { id: newId(), order: keysAt(orders, orders.length, 1).keys[0]!, ...asked }
  desk.run({ changes: [{ op: 'put', topic: at, set: 'charts', member }] })
}

/** Every chart that hangs in the tree, in reading order. */
export function allCharts(desk: Desk): { readonly at: TopicId; readonly title: string; readonly chart: HungChart }[] {
  return Array.from(allTopics(desk.tree)).flatMap(({ id, title, charts }) =>
    inOrder(charts).map(chart => ({ at: id, title, chart })),
  )
}
