import type { Measure, Rounding } from '../tree/figure'
import { divided, type Fixed, fixedOf, MOST_DIGITS, numeralOf, PLACES, roundedTo } from './fixed'

/*
 * Numbers as people write them: 1,250.50 here, 1.250,50 there, 1 250,50 elsewhere. What is stored has no locale. A thousands sign in a
 * place where none belongs makes it no number: “1.25” where a dot parts thousands is more likely a slip than 125.
 */

export interface NumberSigns {
  readonly decimal: string
  readonly group: string
}

const known = new Map<string, NumberSigns>()

/** The signs of a locale (by the machine's CLDR data). */
export function signsOf(locale: string): NumberSigns {
  const found = known.get(locale)
  if (found) return found
  const parts = new Intl.NumberFormat(locale, { useGrouping: true, numberingSystem: 'latn' }).formatToParts(-1234567.5)
  const of = (type: string, other: string): string => parts.find(part => part.type === type)?.value ?? other
  const signs = { decimal: of('decimal', '.'), group: of('group', '') }
  known.set(locale, signs)
  return signs
}

export const isSpace = (sign: string): boolean => /^[\s\u00A0\u202F]$/.test(sign)

/** A number as it's written in a locale, without any unit, as it's stored; null where it's none, or has too many digits. */
export function readNumber(text: string, locale: string): string | null {
  const { decimal, group } = signsOf(locale)
  const said = text.trim().replace(/^[−–]/, '-')
  const spaced = isSpace(group)
  const apart = spaced ? '[ \\u00A0\\u202F]' : group === "'" || group === '’' ? "['’]" : group ? `\\${group}` : '(?!)'
  const pattern = new RegExp(`^([+-]?)(\\d{1,3}(?:${apart}\\d{2,3})*${apart}\\d{3}|\\d+)?(?:\\${decimal}(\\d*))?$`)
  // A point is a decimal point wherever it can't part thousands.
  const found = pattern.exec(said) ?? (decimal !== '.' && group !== '.' ? /^([+-]?)(\d+)?\.(\d+)$/.exec(said) : null)
  if (!found || (found[2] === undefined && !found[3])) return null
  const before = (found[2] ?? '0').replace(/\D/g, '').replace(/^0+(?=\d)/, '')
  const after = (found[3] ?? '').replace(/0+$/, '')
  if (before.length > MOST_DIGITS || after.length > PLACES) return null
  const isZero = before === '0' && after === ''
  return `${found[1] === '-' && !isZero ? '-' : ''}${before}${after ? `.${after}` : ''}`
}

/** Whether a text would be a number but for its many digits. */
export const hasTooManyDigits = (text: string): boolean =>
  /^[+−–-]?[\d.,'’\s\u00A0\u202F]+$/.test(text.trim()) && text.replace(/\D/g, '').length > PLACES

/** A stored number in a locale's signs, with `decimals` places where they are given, thousands parted where `grouped`. */
export function sayNumber(
  value: Fixed,
  locale: string,
  {
    decimals,
    rounding = 'half-even',
    grouped = true,
  }: { decimals?: number; rounding?: Rounding; grouped?: boolean } = {},
): string {
  const { decimal } = signsOf(locale)
  const shown = decimals === undefined ? value : roundedTo(value, decimals, rounding)
  const [whole, fraction = ''] = numeralOf(shown < 0n ? -shown : shown).split('.')
  const before = grouped
    ? new Intl.NumberFormat(locale, { useGrouping: true, numberingSystem: 'latn' }).format(BigInt(whole!))
    : whole!
  const after = decimals === undefined ? fraction : fraction.padEnd(decimals, '0')
  return `${shown < 0n ? '−' : ''}${before}${after ? decimal + after : ''}`
}

/** Whether a measure is in per cent: what is stored is the share, what is shown the hundredfold. */
export const isShare = ({ unit }: Pick<Measure, 'unit'>): boolean => unit.trim() === '%'

/** A figure as people read it: with its unit, or, `short`, without. */
export function sayFigure(
  value: Fixed,
  measure: Pick<Measure, 'unit' | 'decimals' | 'rounding'>,
  locale: string,
  short = false,
): string {
  const share = isShare(measure)
  const words = sayNumber(share ? value * 100n : value, locale, measure)
  if (share) return `${words} %`
  const unit = measure.unit.trim()
  return short || unit === '' ? words : `${words} ${unit}`
}

/** What somebody types for a value of a measure, with or without its unit, as it's stored; null where it's no number. */
export function readFigure(text: string, measure: Pick<Measure, 'unit'>, locale: string): string | null {
  const unit = measure.unit.trim()
  let said = text.trim()
  const lower = said.toLocaleLowerCase(locale)
  const [word] = unit.split('/')
  for (const tail of [unit, word!]) {
    const own = tail.toLocaleLowerCase(locale)
    if (own === '') continue
    if (lower.endsWith(own)) said = said.slice(0, -own.length).trim()
    else if (lower.startsWith(own)) said = said.slice(own.length).trim()
    else continue
    break
  }
  const numeral = readNumber(said, locale)
  if (numeral === null || !isShare(measure)) return numeral
  const share = fixedOf(numeral)!
  return share % 100n === 0n ? numeralOf(share / 100n) : numeralOf(divided(share, 100n))
}

/** What a figure says when it's opened for typing: all its digits, no thousands signs, no unit. */
export const typedFigure = (value: Fixed, measure: Pick<Measure, 'unit'>, locale: string): string =>
  sayNumber(isShare(measure) ? value * 100n : value, locale, { grouped: false }).replace('−', '-')
