import { Planning } from '../derive/planning'
import type { Measure } from '../tree/figure'
import type { TopicId } from '../tree/topic'
import { inOrder } from '../tree/substance'
import type { Tree } from '../tree/tree'
import { allTopics } from '../tree/walk'
import { figureAt } from './entry'
import { Figures } from './figures'
import { type Fixed, numeralOf } from './fixed'
import { sayFigure } from './numbers'
import { FormulaError, parseTyped } from './parse'
import { namesOf, shownFormula } from './shown'
import { faultInWords, type FaultNames } from './words'
import type { Cell, Fault } from './values'

/* Figures as they're told to whoever asks by the API, and as documents say them: plain data, numbers as they're stored. */

/** What a figure comes to, or why it can't be worked out. */
export interface ToldValue {
  readonly value: string | null
  readonly fault: string | null
}
export interface ToldFigure extends ToldValue {
  readonly topic: TopicId
  readonly measure: string
  /** Whether it was given; else it's what is below. */
  readonly own: boolean
  /** As it's typed in English; null for none. */
  readonly formula: string | null
  readonly target: string | null
}
export interface ToldFigures {
  readonly measures: readonly Measure[]
  readonly values: readonly (ToldValue & { readonly id: string; readonly name: string; readonly unit: string })[]
  /** Topics in reading order; those without any in a measure are left out. */
  readonly figures: readonly ToldFigure[]
}

const LOCALE = 'en-GB'

/** The figures of a tree as it's known on a day (ISO 8601). */
export function figuresAt(tree: Tree, today: string, whatIf: string | null = null): Figures {
  const planning = new Planning(
    () => tree,
    () => today,
  )
  return new Figures(
    () => tree,
    planning,
    () => today,
    whatIf,
  )
}
const faultNamesOf = (tree: Tree): FaultNames => ({
  titleOf: id => tree.topics.get(id)?.title ?? null,
  measureName: id => [...tree.fields.measures, ...tree.fields.namedValues].find(one => one.id === id)?.name ?? null,
})
const toldValue = (value: Fixed | null, fault: Fault | null, of: Cell, names: FaultNames): ToldValue => ({
  value: value === null ? null : numeralOf(value),
  fault: fault && faultInWords(fault, of, names),
})

/** `topic`: of that one alone; one that isn't there has none. */
export function tellFigures(
  tree: Tree,
  today: string,
  { whatIf = null, topic = null }: { readonly whatIf?: string | null; readonly topic?: TopicId | null } = {},
): ToldFigures {
  const figures = figuresAt(tree, today, whatIf)
  const faults = faultNamesOf(tree)
  const names = namesOf(tree, LOCALE)
  const measures = inOrder(tree.fields.measures)
  const told: ToldFigure[] = []
  const asked = topic === null ? allTopics(tree) : [tree.topics.get(topic)].flatMap(one => one ?? [])
  for (const { id } of asked)
    for (const { id: measure } of measures) {
      const { value, fault, own, formula } = figures.of(id, measure)
      const target = figureAt(tree, id, measure, null)?.target ?? null
      if (value === null && fault === null && target === null) continue
      told.push({
        topic: id,
        measure,
        own,
        ...toldValue(value, fault, { topic: id, measure }, faults),
        formula: formula === null ? null : `=${shownFormula(formula, tree, names, LOCALE)}`,
        target,
      })
    }
  return {
    measures,
    values: inOrder(tree.fields.namedValues).map(({ id, name, unit }) => {
      const { value, fault } = figures.named(id)
      return { id, name, unit, ...toldValue(value, fault, { topic: null, measure: id }, faults) }
    }),
    figures: told,
  }
}

/** What a formula, as it's typed in a locale, would come to if a topic had it in a measure. */
export function tryFormula(
  tree: Tree,
  today: string,
  {
    topic,
    measure,
    formula,
    locale,
    whatIf,
  }: {
    readonly topic: TopicId
    readonly measure: string
    readonly formula: string
    readonly locale: string
    readonly whatIf: string | null
  },
): ToldValue & { readonly span: { readonly from: number; readonly to: number } | null } {
  const faults = faultNamesOf(tree)
  try {
    const read = parseTyped(formula.replace(/^\s*=/, ''), namesOf(tree, locale))
    const { value, fault } = figuresAt(tree, today, whatIf).tried(topic, measure, read)
    return { ...toldValue(value, fault, { topic, measure }, faults), span: fault?.span ?? null }
  } catch (error) {
    if (error instanceof FormulaError) return { value: null, fault: error.message, span: error.span }
    throw error
  }
}

/** What a topic has in each measure, in a line: “Cost 1,250.00 EUR · Hours 12 h”; '' for nothing. */
export function figuresInWords(tree: Tree, figures: Figures, topic: TopicId, locale: string): string {
  return inOrder(tree.fields.measures)
    .flatMap(measure => {
      const { value } = figures.of(topic, measure.id)
      return value === null ? [] : [`${measure.name} ${sayFigure(value, measure, locale)}`]
    })
    .join(' · ')
}
