// Packages without types of their own, wherever this file is compiled from.
// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./packages.d.ts" />
import bidiFactory, { type EmbeddingLevels } from 'bidi-js'
import LineBreaker from 'linebreak'
import type { FontName } from './fonts'

/*
 * A paragraph laid out in lines, for documents whose pages are drawn here: broken where Unicode allows it (UAX #14, by
 * linebreak), and each line put in the order it's read in (UAX #9, by bidi-js), so that Hebrew and Arabic stand right
 * among Latin, and words of each keep their own direction.
 */

const bidi = bidiFactory()

/**
 * What is drawn in one go: a word, or a part of one in a font and style of its own. Text is in the order it's written;
 * `x` is from the line's left end.
 */
export interface Drawn<S> {
  readonly text: string
  readonly font: FontName
  readonly style: S
  readonly x: number
  readonly width: number
}
export interface Line<S> {
  readonly pieces: readonly Drawn<S>[]
  readonly width: number
}
export interface Laid<S> {
  readonly lines: readonly Line<S>[]
  readonly rightToLeft: boolean
}

export interface Ruler<S> {
  /** The font of one grapheme. */
  fontFor(grapheme: string, style: S): FontName
  width(text: string, font: FontName, style: S): number
}

interface Unit {
  readonly start: number
  readonly end: number
  readonly font: FontName
  readonly style: number
}

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' })

/**
 * Latin letters, figures and what stands among them, each a grapheme by itself, all read from the left: what most titles are made of.
 * Of these neither graphemes nor directions have to be looked for.
 */
const PLAIN = /^[\u0020-\u007E\u00A1-\u00AC\u00AE-\u024F\u2010-\u2027\u2030-\u205E\u20AC]*$/
const ALL_LEFT: EmbeddingLevels = { levels: new Uint8Array(4096), paragraphs: [{ start: 0, end: 4095, level: 0 }] }
/** What is shorter than this part of a line is one line, wherever it might be broken: sums of widths differ by less. */
const SURELY = 0.97

/** Runs of text with a style each, as lines no wider than `width`. `quick`: text that is plain is spared what it doesn't need. */
export function layOutParagraph<S>(
  runs: readonly (readonly [text: string, style: S])[],
  width: number,
  ruler: Ruler<S>,
  quick = true,
): Laid<S> {
  const text = runs.map(([part]) => part).join('')
  const styleAt: number[] = []
  runs.forEach(([part], i) => {
    for (let n = 0; n < part.length; n++) styleAt.push(i)
  })
  const plain = quick && text.length <= ALL_LEFT.levels.length && PLAIN.test(text)
  const unit = (segment: string, index: number): Unit => ({
    start: index,
    end: index + segment.length,
    font: ruler.fontFor(segment, runs[styleAt[index]!]![1]),
    style: styleAt[index]!,
  })
  const units: Unit[] = plain
    ? Array.from(text, unit)
    : Array.from(graphemes.segment(text), ({ segment, index }) => unit(segment, index))
  const levels = plain ? ALL_LEFT : bidi.getEmbeddingLevels(text, 'auto')
  const rightToLeft = (levels.paragraphs[0]?.level ?? 0) % 2 === 1
  const widthOf = (from: number, to: number): number =>
    groups(units, from, to).reduce(
      (sum, group) => sum + ruler.width(text.slice(group.start, group.end), group.font, runs[group.style]![1]),
      0,
    )
  if (plain && text !== '') {
    const line = order(text, units, levels, 0, text.length, runs, ruler)
    if (line.width < width * SURELY) return { lines: [line], rightToLeft }
  }
  const lines = linesOf(text, units, width, widthOf).map(([start, end]) =>
    order(text, units, levels, start, end, runs, ruler),
  )
  return { lines, rightToLeft }
}

/** The index of the first unit that begins at a place in the text or behind it. */
function unitAt(units: readonly Unit[], place: number): number {
  let [low, high] = [0, units.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (units[middle]!.start < place) low = middle + 1
    else high = middle
  }
  return low
}

/** Neighbours in one font and style, from one place in the text to another. */
function groups(units: readonly Unit[], from: number, to: number): Unit[] {
  const found: Unit[] = []
  for (let i = unitAt(units, from); i < units.length && units[i]!.end <= to; i++) {
    const unit = units[i]!
    const last = found.at(-1)
    if (last && last.font === unit.font && last.style === unit.style && last.end === unit.start)
      found[found.length - 1] = { ...last, end: unit.end }
    else found.push(unit)
  }
  return found
}

/** Where lines begin and end. What is longer than a line without a place to break is broken between letters. */
function linesOf(
  text: string,
  units: readonly Unit[],
  width: number,
  widthOf: (from: number, to: number) => number,
): [number, number][] {
  const breaker = new LineBreaker(text)
  const places: number[] = []
  for (let next = breaker.nextBreak(); next; next = breaker.nextBreak()) places.push(next.position)
  const lines: [number, number][] = []
  let start = 0
  let end = 0
  let used = 0
  for (const place of places) {
    const part = widthOf(end, place)
    const bare = widthOf(end, end + text.slice(end, place).trimEnd().length)
    if (end > start && used + bare > width) {
      lines.push([start, end])
      start = end
      used = 0
    }
    if (used + bare > width) {
      for (let i = unitAt(units, end); i < units.length && units[i]!.end <= place; i++) {
        const unit = units[i]!
        const own = widthOf(unit.start, unit.end)
        if (used > 0 && used + own > width) {
          lines.push([start, unit.start])
          start = unit.start
          used = 0
        }
        used += own
      }
    } else used += part
    end = place
  }
  if (end > start) lines.push([start, end])
  return lines
}

/**
 * One line's words from left to right. Fonts draw a right-to-left word in its own direction; signs without one are
 * turned here.
 */
function order<S>(
  text: string,
  units: readonly Unit[],
  levels: EmbeddingLevels,
  start: number,
  end: number,
  runs: readonly (readonly [string, S])[],
  ruler: Ruler<S>,
): Line<S> {
  const stop = start + text.slice(start, end).trimEnd().length
  const pieces: Drawn<S>[] = []
  let x = 0
  for (const [from, to] of visualRuns(levels, start, stop, text)) {
    const backwards = levels.levels[from]! % 2 === 1
    const parts = words(text, from, to).flatMap(([a, b]) => groups(units, a, b))
    for (const part of backwards ? parts.reverse() : parts) {
      const said = text.slice(part.start, part.end)
      const style = runs[part.style]![1]
      const shown = backwards ? turned(said) : said
      const width = ruler.width(shown, part.font, style)
      if (said.trim() !== '') pieces.push({ text: shown, font: part.font, style, x, width })
      x += width
    }
  }
  return { pieces, width: x }
}

/** Stretches of one level in the order they stand from left to right (UAX #9, rule L2). */
function visualRuns(levels: EmbeddingLevels, start: number, end: number, text: string): [number, number][] {
  const runs: { from: number; to: number; level: number }[] = []
  for (let i = start; i < end; i++) {
    const level = levels.levels[i]!
    const last = runs.at(-1)
    if (last && last.level === level) last.to = i + 1
    else runs.push({ from: i, to: i + 1, level })
  }
  if (text.length === 0) return []
  const highest = Math.max(0, ...runs.map(run => run.level))
  for (let level = highest; level > 0; level--) {
    for (let i = 0; i < runs.length; i++) {
      if (runs[i]!.level < level) continue
      let last = i
      while (last + 1 < runs.length && runs[last + 1]!.level >= level) last++
      runs.splice(i, last - i + 1, ...runs.slice(i, last + 1).reverse())
      i = last
    }
  }
  return runs.map(({ from, to }) => [from, to])
}

/**
 * Words and the spaces between them: fonts lay words out one by one, from the left, so each must be drawn by itself.
 */
function words(text: string, from: number, to: number): [number, number][] {
  const found: [number, number][] = []
  for (const match of text.slice(from, to).matchAll(/\s+|\S+/g))
    found.push([from + match.index, from + match.index + match[0].length])
  return found
}

const STRONG_RTL = /[\u0590-\u08FF\uFB1D-\uFDFF\uFE70-\uFEFC]/

/** What a font wouldn't turn by itself: signs and figures without a letter of a right-to-left script, mirrored. */
function turned(text: string): string {
  if (STRONG_RTL.test(text)) return text
  return [...text]
    .reverse()
    .map(letter => bidi.getMirroredCharacter(letter) ?? letter)
    .join('')
}

/** Whether a text is read from the right: by its first letter with a direction (UAX #9, rule P2). */
export function isRightToLeft(text: string): boolean {
  return (bidi.getEmbeddingLevels(text, 'auto').paragraphs[0]?.level ?? 0) % 2 === 1
}

/** A text in stretches of one direction, in the order it's written: for documents whose reader orders them. */
export function directionRuns(text: string): readonly { readonly text: string; readonly rightToLeft: boolean }[] {
  const { levels } = bidi.getEmbeddingLevels(text, 'auto')
  const runs: { text: string; rightToLeft: boolean }[] = []
  for (let i = 0; i < text.length; i++) {
    const rightToLeft = levels[i]! % 2 === 1
    const last = runs.at(-1)
    if (last && last.rightToLeft === rightToLeft) last.text += text[i]!
    else runs.push({ text: text[i]!, rightToLeft })
  }
  return runs
}
