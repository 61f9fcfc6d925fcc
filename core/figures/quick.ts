import { type Figure, figureId, type Measure } from '../tree/figure'
import { fixedOf } from './fixed'
import { readFigure, sayFigure } from './numbers'

/** A figure in plain words: “cost 1,250”, “cost: 1.250,50 EUR”, or a number with a unit that one measure alone has: “12 h”. */
export interface QuickFigure {
  readonly figure: Figure
  /** As it was understood. */
  readonly text: string
}

/**
 * Reads a figure from words after `//`; null where they're none. `there`: what the topic has already. `hoursAreWork`: whether hours by
 * themselves are the plan's work in a task.
 */
export function readQuickFigure(
  said: string,
  measures: readonly Measure[],
  locale: string,
  there: readonly Figure[] = [],
  hoursAreWork = false,
): QuickFigure | null {
  const words = said.trim()
  const lower = words.toLocaleLowerCase(locale)
  const named = [...measures]
    .sort((a, b) => b.name.length - a.name.length)
    .find(({ name }) => lower.startsWith(name.toLocaleLowerCase(locale)) && /^[\s:=]/.test(words.slice(name.length)))
  const rest = named ? words.slice(named.name.length).replace(/^\s*[:=]?\s*/, '') : words
  const measure = named ?? byUnit(words, measures, locale, hoursAreWork)
  if (!measure) return null
  const text = readFigure(rest, measure, locale)
  if (text === null) return null
  const before = there.find(one => one.measure === measure.id && one.whatIf === null)
  return {
    figure: {
      id: figureId(measure.id, null),
      measure: measure.id,
      whatIf: null,
      text,
      target: before?.target ?? null,
      range: before?.range ?? null,
    },
    text: `${measure.name} ${sayFigure(fixedOf(text)!, measure, locale)}`,
  }
}

/** The one measure whose unit stands behind, or before, a number. */
function byUnit(words: string, measures: readonly Measure[], locale: string, hoursAreWork: boolean): Measure | null {
  const unit =
    /^[\d.,'’\s\u00A0\u202F+−-]+(\p{L}[\p{L}\p{N}/²³]*|%)$/u.exec(words)?.[1] ??
    /^([A-Z]{3})\s*[\d+−-]/.exec(words)?.[1]
  if (!unit || unit === '%') return null
  const folded = unit.toLocaleLowerCase(locale)
  if (hoursAreWork && folded === 'h') return null
  // Days after a number are a length.
  if (folded === 'd') return null
  const found = measures.filter(one => one.unit.trim().toLocaleLowerCase(locale) === folded)
  return found.length === 1 ? found[0]! : null
}
