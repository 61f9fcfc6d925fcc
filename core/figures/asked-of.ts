import { type Expression, type FunctionName, GATHERINGS, partsOf, type Property } from './formula'
import { FormulaError, parseStored } from './parse'

/* What formulas ask for, where a spreadsheet means something else by the same. */

export const COMPARING: ReadonlySet<string> = new Set(['=', '<>', '<', '<=', '>', '>='])
/** The functions of many values, which pass over nothing. */
export const MANY: ReadonlySet<FunctionName> = new Set<FunctionName>(GATHERINGS)
export const isCell = (it: Expression): boolean => (it.kind === 'at' ? isCell(it.of) : it.kind === 'measure')
export const isOfDays = (it: Expression): boolean =>
  it.kind === 'at' ? isOfDays(it.of) : it.kind === 'property' && DAYS_ASKED.has(it.name)
const DAYS_ASKED: ReadonlySet<Property> = new Set<Property>(['start', 'finish', 'due'])

/** What a formula asks of topics besides their measures; nothing of one that can't be read. */
export function propertiesIn(stored: string): Set<Property> {
  const found = new Set<Property>()
  const walk = (it: Expression): void => {
    if (it.kind === 'property') found.add(it.name)
    for (const part of partsOf(it)) walk(part)
  }
  try {
    walk(parseStored(stored).expression)
  } catch (error) {
    if (!(error instanceof FormulaError)) throw error
  }
  return found
}
