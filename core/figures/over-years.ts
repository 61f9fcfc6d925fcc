import type { Series } from '../tree/figure'
import type { TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import type { Figures } from './figures'
import type { Fixed } from './fixed'
import { periodsOf } from './series'

/** What a branch comes to, period by period, and what in it comes but once. */
export interface OverYears {
  readonly periods: readonly { readonly period: string; readonly value: Fixed }[]
  readonly once: Fixed
}

/** Periods are gathered by their first month into months, quarters or years of the calendar. */
export function overYears(tree: Tree, figures: Figures, at: TopicId, measure: string, each: Series['each']): OverYears {
  const sums = new Map<string, Fixed>()
  let once = 0n
  const stack = [at]
  while (stack.length > 0) {
    const id = stack.pop()!
    const { own, value } = figures.of(id, measure)
    if (own) {
      const found = topicOf(tree, id).figures.find(one => one.measure === measure && one.whatIf === null)
      const periods = found?.series ? periodsOf(found.series) : null
      if (periods)
        for (const one of periods) {
          const key = gathered(one.period, each)
          sums.set(key, (sums.get(key) ?? 0n) + one.value)
        }
      else once += value ?? 0n
      continue
    }
    for (const child of childrenOf(tree, id)) stack.push(child)
  }
  return { periods: [...sums].sort(([a], [b]) => (a < b ? -1 : 1)).map(([period, value]) => ({ period, value })), once }
}

function gathered(month: string, each: Series['each']): string {
  const [year, number] = month.split('-') as [string, string]
  if (each === 'year') return year
  return each === 'month' ? month : `${year}-Q${Math.ceil(Number(number) / 3)}`
}
