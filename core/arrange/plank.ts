import type { Shape, TextSize, Typeface } from '../tree/style-fields'

/** How a line of text is set. Sizes in canvas units (CSS pixels at 100 %). */
export interface Face {
  readonly family: 'text' | 'display' | 'book' | 'hand'
  readonly size: number
  readonly weight: number
  readonly slanted: boolean
}

/** The width of a piece of text without line breaks. Passed in, since only the place that draws knows its fonts. */
export type Ruler = (text: string, face: Face) => number

/** A word in the pieces between which it may be parted; put together they are the word again. */
export type Syllables = (word: string) => readonly string[]

export interface PlankContent {
  readonly title: string
  readonly rank: 'centre' | 'main' | 'plain'
  /** Null for what its rank is set in. */
  readonly typeface?: Typeface | null
  readonly textSize: TextSize | null
  readonly bold: boolean
  readonly slanted: boolean
  readonly shape?: Shape | null
  /** The widest its text may run. */
  readonly widest?: number | null
  /** A picture with its size in canvas units, and where it stands. */
  readonly picture?: {
    readonly width: number
    readonly height: number
    readonly place: 'before' | 'above' | 'below'
  } | null
  readonly markers: number
  readonly signs: number
  /** The row under the title, already in words; empty when there is none. */
  readonly smallPrint: readonly string[]
  /** How words of its language are parted. */
  readonly syllables?: Syllables | null
}

export interface Plank {
  readonly lines: readonly string[]
  /** True when the title has more lines than a plank shows. */
  readonly cut: boolean
  readonly face: Face
  readonly lineHeight: number
  readonly width: number
  readonly height: number
}

export const PLANK = {
  widest: 280,
  centreWidest: 240,
  mostLines: 14,
  /** Left edge and inner space, as in the style sheet. */
  sides: 21,
  top: 4,
  bottom: 6,
  centreSides: 36,
  centreTop: 13,
  marker: 22,
  sign: 18,
  smallPrintSize: 11.5,
  smallPrintLine: 16,
  smallPrintGap: 7,
  pictureGap: 6,
} as const

const SMALL_PRINT: Face = { family: 'text', size: PLANK.smallPrintSize, weight: 550, slanted: false }
/** What a shape needs beside the text, on both sides together, and below it. */
export const SHAPE_ROOM: Record<Shape, { readonly sides: number; readonly bottom: number }> = {
  box: { sides: 0, bottom: 0 },
  round: { sides: 6, bottom: 0 },
  tag: { sides: 14, bottom: 0 },
  slate: { sides: 0, bottom: 0 },
  awning: { sides: 4, bottom: 7 },
  ticket: { sides: 14, bottom: 0 },
}
const SIZES: Record<TextSize, number> = { small: 12, large: 17, huge: 22 }
const FAMILIES: Record<Typeface, Face['family']> = { plain: 'text', broad: 'display', book: 'book', hand: 'hand' }
/** Letters of the hand are small for their size: x-height 0.4 of it, the others' is 0.5. */
const HAND_LARGER = 1.22

export function faceOf(content: Pick<PlankContent, 'rank' | 'typeface' | 'textSize' | 'bold' | 'slanted'>): Face {
  const centre = content.rank === 'centre'
  const base = centre ? 18 : content.rank === 'main' ? 14.5 : 13.5
  const family = content.typeface ? FAMILIES[content.typeface] : centre ? 'display' : 'text'
  const size = content.textSize === null ? base : SIZES[content.textSize] + (centre ? 4 : 0)
  return {
    family,
    size: family === 'hand' ? Math.round(size * HAND_LARGER * 2) / 2 : size,
    weight: content.bold ? 750 : content.rank === 'plain' ? 450 : 600,
    slanted: content.slanted,
  }
}

/**
 * Breaks a title into lines no wider than `widest`: at its own line breaks, then between words, then inside a word
 * that is too long: with a hyphen between syllables where the language is known, else at the end of the line.
 */
export function wrap(
  title: string,
  widest: number,
  width: (text: string) => number,
  syllables: Syllables | null = null,
): string[] {
  return wrapMeasured(title, widest, width, syllables).lines
}

/** The lines, and how wide the widest of them is; each is measured once. */
function wrapMeasured(
  title: string,
  widest: number,
  width: (text: string) => number,
  syllables: Syllables | null,
): { lines: string[]; width: number } {
  const lines: string[] = []
  let most = 0
  const add = (line: string, itsWidth = width(line)): void => {
    lines.push(line)
    if (itsWidth > most) most = itsWidth
  }
  for (const paragraph of title.split('\n')) {
    const whole = width(paragraph)
    if (whole <= widest) {
      add(paragraph, whole)
      continue
    }
    let line = ''
    for (const word of paragraph.split(/(?<=\s)/)) {
      const longer = line + word
      if (width(longer.trimEnd()) <= widest) {
        line = longer
        continue
      }
      if (line) add(line.trimEnd())
      line = word
      while (width(line.trimEnd()) > widest) {
        const parted = syllables && partedAt(line, widest, width, syllables)
        if (parted) {
          add(parted.line)
          line = line.slice(parted.length)
          continue
        }
        const fits = fitting(line, widest, width)
        add(line.slice(0, fits))
        line = line.slice(fits)
      }
    }
    add(line.trimEnd())
  }
  return { lines, width: most }
}

/** As many syllables of a word as fit on a line with their hyphen, and how long they are without it; null when not even one does. */
function partedAt(
  word: string,
  widest: number,
  width: (text: string) => number,
  syllables: Syllables,
): { readonly line: string; readonly length: number } | null {
  let parted: { line: string; length: number } | null = null
  let begun = ''
  for (const syllable of syllables(word).slice(0, -1)) {
    begun += syllable
    // A hyphen that stands there already is enough.
    const line = /[-‐–—]$/.test(begun) ? begun : `${begun}-`
    if (width(line) > widest) break
    parted = { line, length: begun.length }
  }
  return parted
}

/** How many UTF-16 units of a word fit, at least one whole character. */
function fitting(word: string, widest: number, width: (text: string) => number): number {
  let low = 1
  let high = word.length
  while (low < high) {
    const middle = (low + high + 1) >>> 1
    if (width(word.slice(0, middle)) <= widest) low = middle
    else high = middle - 1
  }
  const splitsPair = /[\uD800-\uDBFF]/.test(word[low - 1]!) && low < word.length
  return splitsPair ? (low > 1 ? low - 1 : 2) : low
}

/** The plank of a topic: its lines and its size. Pure but for the ruler. */
export function plankOf(content: PlankContent, ruler: Ruler): Plank {
  const centre = content.rank === 'centre'
  const face = faceOf(content)
  const measure = (text: string): number => ruler(text, face)
  const before = content.markers * PLANK.marker
  const after = content.signs * PLANK.sign
  const widest = content.widest ?? (centre ? PLANK.centreWidest : PLANK.widest)
  const wrapped = wrapMeasured(content.title, widest, measure, content.syllables ?? null)
  let { lines } = wrapped
  const cut = lines.length > PLANK.mostLines
  if (cut) lines = [...lines.slice(0, PLANK.mostLines - 1), `${lines[PLANK.mostLines - 1]}…`]
  const lineHeight = Math.round(face.size * (centre ? 1.2 : 1.36))
  const textWidth = Math.max(24, cut ? lines.reduce((most, line) => Math.max(most, measure(line)), 0) : wrapped.width)
  const smallWidth = content.smallPrint.reduce(
    (sum, part) => sum + ruler(part, SMALL_PRINT) + PLANK.smallPrintGap,
    -PLANK.smallPrintGap,
  )
  const room = content.shape ? SHAPE_ROOM[content.shape] : { sides: 0, bottom: 0 }
  const sides = (centre ? PLANK.centreSides : PLANK.sides) + room.sides
  let inside = Math.max(before + textWidth + after, smallWidth)
  let tall = lines.length * lineHeight + (content.smallPrint.length > 0 ? PLANK.smallPrintLine : 0)
  const { picture } = content
  if (picture?.place === 'before') {
    inside += picture.width + PLANK.pictureGap
    tall = Math.max(tall, picture.height)
  } else if (picture) {
    inside = Math.max(inside, picture.width)
    tall += picture.height + PLANK.pictureGap
  }
  return {
    lines,
    cut,
    face,
    lineHeight,
    width: Math.ceil(inside + sides),
    height: tall + (centre ? PLANK.centreTop * 2 : PLANK.top + PLANK.bottom) + room.bottom,
  }
}
