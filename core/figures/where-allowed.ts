import { type Expression, type FunctionName, GATHERINGS } from './formula'
import { FormulaError } from './reading'

/* What of a formula may stand where. */

/** Arguments that a function takes, at least and at most. */
export const ARGUMENTS: Partial<Record<FunctionName, readonly [number, number]>> = {
  if: [3, 3],
  abs: [1, 1],
  round: [1, 2],
  'round up': [1, 2],
  'round down': [1, 2],
  workday: [2, 2],
  workdays: [2, 2],
  days: [2, 2],
}

/** Lists stand in functions that make one value of many, and nowhere else. Throws FormulaError. */
export function outside(expression: Expression): void {
  const walk = (it: Expression, allowed: boolean, within = false): void => {
    // A list in a list would look at each topic as often as there are topics.
    if (it.kind === 'list' && within)
      throw new FormulaError('A list can’t stand in another list: give the inner one a measure of its own.', it.span)
    if (it.kind === 'list' && !allowed)
      throw new FormulaError(
        `Say what is to be made of these: “sum(… of ${it.scope})”, mean, min, max, median or count.`,
        it.span,
      )
    if (it.kind === 'list') {
      if (it.of) walk(it.of, false, true)
      return
    }
    const gathers = it.kind === 'call' && (GATHERINGS as readonly string[]).includes(it.name)
    const parts =
      it.kind === 'call' ? it.args : it.kind === 'binary' ? [it.a, it.b] : 'of' in it && it.of ? [it.of] : []
    if (gathers && it.args.some(arg => arg.kind === 'list' && arg.of === null) && it.name !== 'count')
      throw new FormulaError(`Say which measure: “${it.name}(Cost of children)”.`, it.span)
    for (const part of parts) walk(part, gathers, within)
  }
  walk(expression, false)
}
