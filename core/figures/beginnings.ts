import { generateNKeysBetween } from 'fractional-indexing'
import type { Measure } from '../tree/figure'
import { digitsOf } from './currencies'

/** Measures that a tree can begin with. */
export interface Beginning {
  readonly id: 'budget' | 'effort' | 'decision'
  readonly name: string
  readonly purpose: string
}

/** Ours: what they hold, and the words. */
export const BEGINNINGS: readonly Beginning[] = [
  { id: 'budget', name: 'A budget', purpose: 'What things cost, added up to the centre, against what there is.' },
  { id: 'effort', name: 'Effort', purpose: 'Hours, what an hour costs, and what comes of the two.' },
  { id: 'decision', name: 'A decision', purpose: 'Marks for price, quality and trust, to choose among a few.' },
]

/** What a measure is where nothing else is said. */
export const PLAIN: Omit<Measure, 'id' | 'order' | 'name'> = {
  unit: '',
  decimals: 0,
  rounding: 'half-even',
  rollUp: 'sum',
  by: null,
  hue: null,
  limit: 'most',
  onPlank: false,
}

/** The measures of a beginning, behind those that are there. `currency`: an ISO 4217 code. */
export function measuresFor(
  beginning: Beginning['id'],
  currency: string,
  there: readonly Measure[],
  newId: () => string,
): Measure[] {
  const money = { unit: currency, decimals: digitsOf(currency) ?? 2 }
  const wanted: Record<Beginning['id'], readonly (Partial<Measure> & { readonly name: string })[]> = {
    budget: [{ name: 'Cost', ...money, onPlank: true }],
    effort: [
      { name: 'Hours', unit: 'h', decimals: 1, onPlank: true },
      { name: 'Rate', unit: `${currency}/h`, decimals: money.decimals, rollUp: 'none' },
    ],
    decision: ['Price', 'Quality', 'Trust'].map(name => ({ name, rollUp: 'none', limit: 'least' })),
  }
  const orders = ordersBehind(there, wanted[beginning].length)
  return wanted[beginning].map((one, i): Measure => ({ ...PLAIN, ...one, id: newId(), order: orders[i]! }))
}

/** Order keys behind those that are there. */
export const ordersBehind = (there: readonly { readonly order: string }[], count: number): readonly string[] =>
  generateNKeysBetween(
    there
      .map(({ order }) => order)
      .sort()
      .at(-1) ?? null,
    null,
    count,
  )
