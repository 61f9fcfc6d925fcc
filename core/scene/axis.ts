import type { Tick } from '../arrange/place'
import type { Face, Ruler } from '../arrange/plank'
import type { Signals } from '../dress/signals'
import type { BetweenMarks } from '../figures/on-axis'
import type { Wear } from '../dress/wear'
import { linePath, type Shape } from './shapes'

export interface Axis {
  readonly y: number
  readonly from: number
  readonly to: number
  readonly ticks: readonly Tick[]
  /** What comes between its marks. */
  readonly under?: BetweenMarks | null
}

const monthName = new Intl.DateTimeFormat('en-GB', { month: 'short', year: 'numeric', timeZone: 'UTC' })
const dayName = new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' })

/** What a tick of a time axis says: "Mar 2027", "Tue, 2 Mar", "07:00", "Sat, 5 Jun, 07:00", "today". */
export function tickInWords({ unit, date }: Tick): string {
  switch (unit) {
    case 'today':
      return 'today'
    case 'none':
      return 'no date'
    case 'month':
      return monthName.format(new Date(`${date}T00:00Z`))
    case 'year':
      return date.slice(0, 4)
    case 'day':
      return [dayName.format(new Date(`${date.slice(0, 10)}T00:00Z`)), date.slice(11)].filter(Boolean).join(', ')
    case 'hour':
      return date.slice(11)
  }
}

/** How far under the axis the foot of those letters stands. */
export const UNDER = 17

const GAP = 14

const LETTERS: Face = { family: 'text', size: 11.5, weight: 600, slanted: false }

/**
 * What stands under the marks of an axis: a sum from each until the next, and where there is no room for that, one of several marks
 * together. `width`: that of a text.
 */
export function underMarks(
  ticks: readonly Tick[],
  { sums, before, say }: BetweenMarks,
  width: (text: string) => number,
): { readonly x: number; readonly text: string }[] {
  const marks = ticks.flatMap(({ x, unit }, i) => (unit === 'today' || unit === 'none' ? [] : [{ x, sum: sums[i]! }]))
  const made: { x: number; text: string }[] = []
  for (let at = 0; at < marks.length;) {
    let [sum, next] = [marks[at]!.sum, at + 1]
    const words = (): string =>
      [
        at === 0 && before !== 0n ? `${say(before, false)} before` : '',
        sum === 0n ? '' : say(sum, next === marks.length),
      ]
        .filter(Boolean)
        .join(', ')
    while (next < marks.length && words() !== '' && marks[at]!.x + width(words()) + GAP > marks[next]!.x)
      sum += marks[next++]!.sum
    if (words() !== '') made.push({ x: marks[at]!.x, text: words() })
    at = next
  }
  return made
}

/** A time axis by its shapes, as the canvas draws it at full size. */
export function axisShapes({ y, from, to, ticks, under }: Axis, wear: Wear, signals: Signals, ruler: Ruler): Shape[] {
  const made: Shape[] = [{ kind: 'path', d: linePath([from, y, to, y]), stroke: signals.quiet, width: 2 }]
  let free = -Infinity
  for (const tick of ticks) {
    const isToday = tick.unit === 'today'
    made.push({
      kind: 'path',
      d: linePath([tick.x, y - 7, tick.x, y + (isToday ? 14 : 5)]),
      stroke: isToday ? signals.sun : signals.quiet,
      width: 2,
    })
    const text = tickInWords(tick)
    const width = ruler(text, LETTERS)
    const words = (x: number, foot: number, ink: string): Shape => ({
      kind: 'text',
      x,
      y: foot,
      width,
      text,
      face: LETTERS,
      ink,
    })
    if (isToday) made.push(words(tick.x + 4, y + 26, wear.ink))
    else if (tick.x > free) {
      made.push(words(tick.x - (tick.unit === 'none' ? 0 : 2), y - 11, signals.quiet))
      free = tick.x + width + 14
    }
  }
  const wide = (text: string): number => ruler(text, LETTERS)
  if (under)
    for (const { x, text } of underMarks(ticks, under, wide))
      made.push({ kind: 'text', x: x - 2, y: y + UNDER, width: wide(text), text, face: LETTERS, ink: wear.ink })
  return made
}
