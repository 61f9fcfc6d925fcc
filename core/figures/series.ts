import type { Series } from '../tree/figure'
import { type Fixed, fixedOf } from './fixed'
import { Exact, fixedOfExact } from './values'

/*
 * Figures that come again: what the house costs each month after the move, a grant that falls by a fifth each year. Growth by a rate is
 * compound: a period is the one before times one and the rate (the geometric series of every annuity table).
 */

const MONTHS: Record<Series['each'], number> = { month: 1, quarter: 3, year: 12 }

/** The month in which a period begins, `n` periods after the first: `2027-05`. */
export function periodAt({ from, each }: Pick<Series, 'from' | 'each'>, n: number): string {
  const [year, month] = from.split('-').map(Number) as [number, number]
  const months = year * 12 + month - 1 + n * MONTHS[each]
  return `${String(Math.floor(months / 12)).padStart(4, '0')}-${String((months % 12) + 1).padStart(2, '0')}`
}

/** What a series comes to, period by period; each to the tenth place. Null where one has more than 15 digits. */
export function periodsOf(series: Series): { readonly period: string; readonly value: Fixed }[] | null {
  const typed = new Map(series.typed.map(({ at, value }) => [at, value]))
  const by = new Exact(series.by)
  const made: { period: string; value: Fixed }[] = []
  let going = new Exact(series.start)
  for (let n = 0; n < series.count; n++) {
    const said = typed.get(n)
    const value = said === undefined ? fixedOfExact(going) : fixedOf(said)
    if (value === null) return null
    made.push({ period: periodAt(series, n), value })
    if (series.goesOn === 'rate') going = going.plus(going.times(by))
    else if (series.goesOn === 'step') going = going.plus(by)
  }
  return made
}

const sums = new WeakMap<Series, { readonly sum: Fixed | null }>()
/** The sum of all periods; null where it's too large. */
export function seriesSum(series: Series): Fixed | null {
  const known = sums.get(series)
  if (known) return known.sum
  const sum = periodsOf(series)?.reduce((all, { value }) => all + value, 0n) ?? null
  sums.set(series, { sum })
  return sum
}
