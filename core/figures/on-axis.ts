import type { TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import type { Figures } from './figures'
import type { Fixed } from './fixed'
import { sayFigure } from './numbers'
import { measuresOnPlanks } from './on-planks'
import { overYears } from './over-years'

/** A mark of a time axis: its day (ISO 8601), and what it marks. */
interface Mark {
  readonly date: string
  readonly unit: string
}

/** What comes between the marks of a time axis. */
export interface BetweenMarks {
  /** From each mark until the next, at the last from then on; nothing at marks that aren't days. */
  readonly sums: readonly Fixed[]
  /** What comes before the first. */
  readonly before: Fixed
  /** A sum in words; `last`: nothing limits it. */
  say(sum: Fixed, last: boolean): string
}

/**
 * What comes again and again, between the marks of a time axis, of the first measure on planks that has any series in the branch. Periods
 * count by their first month. Null where there is none, and on an axis of hours.
 */
export function seriesOnAxis(
  tree: Tree,
  figures: Figures,
  branch: TopicId,
  marks: readonly Mark[],
  locale: string,
): BetweenMarks | null {
  const dated = marks.flatMap(({ date, unit }, i) => (DATED.has(unit) ? [{ i, date: date.slice(0, 10) }] : []))
  if (dated.length === 0 || marks.some(({ unit }) => unit === 'hour')) return null
  for (const measure of measuresOnPlanks(tree.fields.measures)) {
    const { periods } = overYears(tree, figures, branch, measure.id, 'month')
    if (periods.length === 0) continue
    const sum = (from: string, to: string): Fixed =>
      periods.reduce((all, { period, value }) => (period >= from && period < to ? all + value : all), 0n)
    // A period that began in the month of the first mark belongs to it; from then on those that begin at a mark or behind it.
    const first = dated[0]!.date.slice(0, 7)
    const sums = marks.map(() => 0n)
    dated.forEach(({ i, date }, at) => {
      const next = dated[at + 1]
      sums[i] = sum(at === 0 ? first : monthFrom(date), next ? monthFrom(next.date) : '9999-99')
    })
    return {
      sums,
      before: sum('', first),
      say: (value, last) => `${sayFigure(value, measure, locale)}${last ? ' from then on' : ''}`,
    }
  }
  return null
}
const DATED: ReadonlySet<string> = new Set(['day', 'month', 'year'])

/** The first month that begins on a day or after it. */
function monthFrom(date: string): string {
  const [year, month] = date.split('-').map(Number) as [number, number]
  if (date.endsWith('-01')) return date.slice(0, 7)
  return month === 12 ? `${year + 1}-01` : `${String(year).padStart(4, '0')}-${String(month + 1).padStart(2, '0')}`
}
