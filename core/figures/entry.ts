import type { Change } from '../tree/change'
import { type Figure, figureId, type Measure, type Series } from '../tree/figure'
import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { fixedOf, PLACES } from './fixed'
import { hasTooManyDigits, readFigure, typedFigure } from './numbers'
import { FormulaError, type FormulaNames, parseTyped, type Read } from './parse'
import { shownFormula } from './shown'
import type { Span } from './values'

/** What somebody typed for a figure, understood; or why not, and where. */
export type Entry =
  { readonly text: string; readonly read: Read | null } | { readonly message: string; readonly span: Span }

/** Reads what is typed for a figure: nothing, a number in the person's locale with or without its unit, or `=` and a formula. */
export function readEntry(
  typed: string,
  measure: Pick<Measure, 'unit' | 'name'>,
  names: FormulaNames,
  locale: string,
): Entry {
  const said = typed.trim()
  const from = typed.length - typed.trimStart().length
  if (said === '') return { text: '', read: null }
  if (said.startsWith('=')) {
    try {
      const read = parseTyped(said.slice(1), names)
      return { text: `=${read.stored}`, read }
    } catch (error) {
      if (!(error instanceof FormulaError)) throw error
      const { span, message } = error
      return { message, span: { from: span.from + from + 1, to: span.to + from + 1 } }
    }
  }
  const numeral = readFigure(said, measure, locale)
  if (numeral !== null) return { text: numeral, read: null }
  return {
    message: hasTooManyDigits(said)
      ? `A number has at most 15 digits before the point and ${PLACES} after it.`
      : `“${said.length > 40 ? `${said.slice(0, 40)}…` : said}” is no number. A formula begins with “=”.`,
    span: { from, to: typed.trimEnd().length },
  }
}

/** What a figure says when it's opened for typing. */
export function typedText(
  text: string,
  measure: Pick<Measure, 'unit'>,
  tree: Tree,
  names: FormulaNames,
  locale: string,
): string {
  if (text.startsWith('=')) return `=${shownFormula(text.slice(1), tree, names, locale)}`
  const value = fixedOf(text)
  return value === null ? text : typedFigure(value, measure, locale)
}

/** The figure that a topic has in a measure, for a what-if or for what is so. */
export const figureAt = (tree: Tree, topic: TopicId, measure: string, whatIf: string | null): Figure | undefined =>
  topicOf(tree, topic).figures.find(one => one.measure === measure && one.whatIf === whatIf)

/** What of a figure is given; the rest stays as it is. */
export interface Given {
  readonly topic: TopicId
  readonly measure: string
  readonly whatIf?: string | null
  readonly text?: string
  readonly target?: string | null
  readonly range?: Figure['range']
  /** Null takes it away. */
  readonly series?: Series | null
}

/** The changes that give figures; one of which nothing is left goes. */
export function figureChanges(tree: Tree, given: readonly Given[]): Change[] {
  return given.flatMap(({ topic, measure, whatIf = null, ...rest }): Change[] => {
    const before = figureAt(tree, topic, measure, whatIf)
    const id = figureId(measure, whatIf)
    const series = rest.series === undefined ? (rest.text === undefined ? before?.series : null) : rest.series
    const now: Figure = {
      id,
      measure,
      whatIf,
      text: rest.text ?? before?.text ?? '',
      target: rest.target === undefined ? (before?.target ?? null) : rest.target,
      range: rest.range === undefined ? (before?.range ?? null) : rest.range,
      // What is typed takes the place of a series.
      ...(series ? { series } : {}),
    }
    // In a what-if nothing is an assumption too: that there's none.
    const isNothing =
      now.text === '' &&
      now.target === null &&
      now.range === null &&
      !series &&
      (whatIf === null || rest.text === undefined)
    if (isNothing) return before ? [{ op: 'take', topic, set: 'figures', member: id }] : []
    if (
      before &&
      before.text === now.text &&
      before.target === now.target &&
      before.range === now.range &&
      before.series === now.series
    )
      return []
    return [{ op: 'put', topic, set: 'figures', member: now }]
  })
}
