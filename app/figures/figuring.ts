import { type BEGINNINGS, measuresFor } from '#core/figures/beginnings'
import { figureChanges, type Given, readEntry, typedText } from '#core/figures/entry'
import { Figures, type Result } from '#core/figures/figures'
import { sayFigure } from '#core/figures/numbers'
import type { FormulaNames } from '#core/figures/parse'
import { namesOf } from '#core/figures/shown'
import { FAULT_SIGNS, faultInWords, type FaultNames } from '#core/figures/words'
import type { Cell } from '#core/figures/values'
import { inOrder, type Measure, type Series, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { planningOf } from '~/schedule/planning'
import { newShortId, ownCurrency } from './naming'

/* The figures of an open tree, loaded and worked out from the moment on at which somebody first asks. */

const held = new WeakMap<Desk, Map<string | null, Figures>>()

export function figuresOf(desk: Desk, whatIf: string | null = null): Figures {
  let all = held.get(desk)
  if (!all) held.set(desk, (all = new Map()))
  let figures = all.get(whatIf)
  if (!figures) {
    const planning = planningOf(desk)
    figures = desk.derive(
      new Figures(
        () => desk.tree,
        planning,
        () => desk.then.value ?? desk.treeDay,
        whatIf,
      ),
    )
    all.set(whatIf, figures)
  }
  return figures
}

/** A series as it's begun: nothing, month by month for a year. */
export const blankSeries = (desk: Desk): Series => ({
  from: desk.treeDay.slice(0, 7),
  each: 'month',
  count: 12,
  start: '0',
  goesOn: 'same',
  by: '0',
  typed: [],
})

/** The tree's measures in their order. */
export const measuresOf = (desk: Desk): readonly Measure[] => inOrder(desk.tree.fields.measures)
export const whatIfsOf = (desk: Desk) => inOrder(desk.tree.fields.whatIfs)
export const namedValuesOf = (desk: Desk) => inOrder(desk.tree.fields.namedValues)

const kept = new WeakMap<Desk, { readonly tick: number; readonly names: FormulaNames }>()
/** What words mean in formulas just now. */
export function formulaNames(desk: Desk): FormulaNames {
  const tick = desk.tick.value
  const before = kept.get(desk)
  if (before?.tick === tick) return before.names
  const names = namesOf(desk.tree, ownLocale(), desk.status.people)
  kept.set(desk, { tick, names })
  return names
}

export const faultNames = (desk: Desk): FaultNames => ({
  titleOf: id => desk.tree.topics.get(id)?.title ?? null,
  measureName: id =>
    desk.tree.fields.measures.find(one => one.id === id)?.name ??
    desk.tree.fields.namedValues.find(one => one.id === id)?.name ??
    null,
})

/** How a figure is shown: its number, or what's wrong with it, short and in a sentence. */
export interface Shown {
  readonly text: string
  readonly fault: string | null
}
export function shownResult(
  desk: Desk,
  { value, fault }: Pick<Result, 'value' | 'fault'>,
  measure: Measure,
  of: Cell,
  short = false,
): Shown {
  if (fault) return { text: FAULT_SIGNS[fault.kind], fault: faultInWords(fault, of, faultNames(desk)) }
  return { text: value === null ? '' : sayFigure(value, measure, ownLocale(), short), fault: null }
}

/** What a figure says when it's opened for typing. */
export function openedText(desk: Desk, topic: TopicId, measure: Measure, whatIf: string | null = null): string {
  const figures = desk.tree.topics.get(topic)?.figures ?? []
  const own =
    figures.find(one => one.measure === measure.id && one.whatIf === whatIf) ??
    figures.find(one => one.measure === measure.id && one.whatIf === null)
  return own ? typedText(own.text, measure, desk.tree, formulaNames(desk), ownLocale()) : ''
}

export const entryOf = (desk: Desk, typed: string, measure: Measure) =>
  readEntry(typed, measure, formulaNames(desk), ownLocale())

/** Gives figures, as one edit. False where nothing could be changed. */
export function giveFigures(desk: Desk, given: readonly Given[]): boolean {
  if (!desk.guard()) return false
  const changes = figureChanges(desk.tree, given)
  return changes.length === 0 || desk.run({ changes })
}

/** The measures of a beginning, put behind those that are there; says what they are. */
export function beginWith(desk: Desk, id: (typeof BEGINNINGS)[number]['id']): void {
  if (!desk.guard()) return
  const made = measuresFor(id, ownCurrency(), measuresOf(desk), newShortId)
  desk.run({ changes: made.map(member => ({ op: 'tree-put', set: 'measures', member })) })
  desk.say(
    `${made.map(({ name }) => `“${name}”`).join(', ')}: ${made.length === 1 ? 'a measure' : 'measures'} of this tree now.`,
    true,
  )
}
