import type { Rounding } from '../tree/figure'

/*
 * Exact decimals with ten places after the point, as whole numbers of ten-thousand-millionths. What a figure comes to is kept so: sums
 * of such numbers are exact in any order, and a part can be taken out of a sum again.
 */

/** A number times 10^10. */
export type Fixed = bigint

export const PLACES = 10
const ONE = 10n ** BigInt(PLACES)
/** Digits before the point at most. */
export const MOST_DIGITS = 15
const LIMIT = 10n ** BigInt(MOST_DIGITS + PLACES)

const NUMERAL = /^(-?)(\d{1,15})(?:\.(\d{1,10}))?$/

/** Whether it's a number as it's stored. */
export const isNumeral = (text: string): boolean => NUMERAL.test(text)

/** Reads a number as it's stored; null for anything else, one with too many digits too. */
export function fixedOf(numeral: string): Fixed | null {
  const found = NUMERAL.exec(numeral)
  if (!found) return null
  const value = BigInt(found[2]! + (found[3] ?? '').padEnd(PLACES, '0'))
  return found[1] ? -value : value
}

export const fixedFrom = (whole: number): Fixed => BigInt(whole) * ONE

/** Whether it has at most 15 digits before the point. */
export const isWithinLimit = (value: Fixed): boolean => value < LIMIT && value > -LIMIT

/** As it's stored: no zeros at the end, no exponent. */
export function numeralOf(value: Fixed): string {
  const digits = (value < 0n ? -value : value).toString().padStart(PLACES + 1, '0')
  const after = digits.slice(-PLACES).replace(/0+$/, '')
  return `${value < 0n ? '-' : ''}${digits.slice(0, -PLACES)}${after ? `.${after}` : ''}`
}

/** A quotient of whole numbers, to the nearest one; where it lies just between two, to the even one or away from zero. */
export function divided(value: bigint, by: bigint, rounding: Rounding = 'half-even'): bigint {
  const sign = value < 0n !== by < 0n ? -1n : 1n
  const [a, b] = [value < 0n ? -value : value, by < 0n ? -by : by]
  const quotient = a / b
  const twice = (a % b) * 2n
  const up = twice > b || (twice === b && (rounding === 'half-up' || quotient % 2n === 1n))
  return sign * (up ? quotient + 1n : quotient)
}

/** To so many places after the point. */
export function roundedTo(value: Fixed, decimals: number, rounding: Rounding): Fixed {
  if (decimals >= PLACES) return value
  const step = 10n ** BigInt(PLACES - decimals)
  return divided(value, step, rounding) * step
}

/** For charts and widths, where a hair more or less isn't seen. */
export const nearly = (value: Fixed): number => Number(numeralOf(value))
