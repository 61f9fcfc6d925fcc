/*
 * Units multiply and divide, and only like ones add up: hours × euros an hour are euros; hours and euros have no sum. A unit is one or
 * more words with exponents; it's written as products over a quotient: `EUR`, `EUR/h`, `h·seats`. `%` is a hundredth, and no unit.
 */

/** In its one way of being written; '' is a plain number. */
export type Unit = string
export const PLAIN: Unit = ''
export const HOURS: Unit = 'h'
export const DAYS: Unit = 'd'

type Powers = ReadonlyMap<string, number>

const known = new Map<Unit, Powers>([[PLAIN, new Map()]])
const products = new Map<string, Unit>()

/** A word of a unit: letters, a sign of money, m² and the like. */
const WORD = /^[\p{L}\p{Sc}][\p{L}\p{N}\p{Sc}²³. ]*(?:\^\d)?$/u

function powersOf(unit: Unit): Powers {
  const found = known.get(unit)
  if (found) return found
  const powers = new Map<string, number>()
  unit.split('/').forEach((part, at) => {
    for (const factor of part.split('·')) {
      const [word, exponent] = factor.split('^')
      if (!word || word === '1') continue
      powers.set(word, (powers.get(word) ?? 0) + (at === 0 ? 1 : -1) * Number(exponent ?? 1))
    }
  })
  known.set(unit, powers)
  return powers
}

function written(powers: Powers): Unit {
  const side = (sign: 1 | -1): string =>
    [...powers]
      .filter(([, exponent]) => exponent * sign > 0)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([word, exponent]) => (Math.abs(exponent) === 1 ? word : `${word}^${Math.abs(exponent)}`))
      .join('·')
  const [above, below] = [side(1), side(-1)]
  return below === '' ? above : `${above || '1'}/${below}`
}

function combined(a: Unit, b: Unit, sign: 1 | -1): Unit {
  if (b === PLAIN) return a
  if (a === PLAIN && sign === 1) return b
  const key = `${sign} ${a} ${b}`
  const found = products.get(key)
  if (found !== undefined) return found
  const powers = new Map(powersOf(a))
  for (const [word, exponent] of powersOf(b)) {
    const sum = (powers.get(word) ?? 0) + sign * exponent
    if (sum === 0) powers.delete(word)
    else powers.set(word, sum)
  }
  const unit = written(powers)
  // Formulas make few units; one that makes more each time isn't remembered.
  if (products.size < 2000) products.set(key, unit)
  return unit
}

export const unitTimes = (a: Unit, b: Unit): Unit => combined(a, b, 1)
export const unitPer = (a: Unit, b: Unit): Unit => combined(a, b, -1)

/** A unit to a whole power. */
export function unitPower(unit: Unit, exponent: number): Unit {
  let power = PLAIN
  for (let i = 0; i < Math.abs(exponent); i++) power = exponent > 0 ? unitTimes(power, unit) : unitPer(power, unit)
  return power
}

/** A unit as somebody writes it, in its one way; null where it can't be one. `%` is none by itself. */
export function readUnit(text: string): Unit | null {
  const said = text.trim()
  if (said === '' || said === '%') return PLAIN
  const parts = said.split('/').map(part => part.trim())
  if (parts.length > 2) return null
  const powers = new Map<string, number>()
  for (const [at, part] of parts.entries())
    for (const factor of part.split(/[·×*]/).map(one => one.trim())) {
      if (factor === '1' && at === 0) continue
      if (!WORD.test(factor)) return null
      const [word, exponent] = factor.split('^')
      powers.set(word!, (powers.get(word!) ?? 0) + (at === 0 ? 1 : -1) * Number(exponent ?? 1))
    }
  for (const [word, exponent] of powers) if (exponent === 0) powers.delete(word)
  return written(powers)
}
