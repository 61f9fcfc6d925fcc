import { create, type Font } from 'fontkit'
import type { Face, Ruler } from '#core/arrange/plank'
import type { Outline, Run } from '#core/scene/svg'
import { emojiPicture } from './colour-emoji'
import { FACE_FILES, type FaceName, faceBytes, fontFor, type FontName, fontOf } from './fonts'
import { type Drawn, layOutParagraph } from './paragraph'

/*
 * Letters of pictures: measured and drawn as the browser does it, from the same designs. A weight between two that there
 * are is drawn between them, point by point, as their maker's own variable font does (OpenType 1.9, "Font variations overview":
 * outlines of instances of one design are compatible).
 */

interface Glyph {
  readonly id: number
  readonly advanceWidth: number
  readonly path: { readonly commands: readonly { readonly command: string; readonly args: readonly number[] }[] }
}
interface Layout {
  readonly glyphs: readonly Glyph[]
  readonly positions: readonly { readonly xAdvance: number; readonly xOffset: number; readonly yOffset: number }[]
  readonly advanceWidth: number
}

const fonts = new Map<string, Font>()
function opened(name: string, bytes: () => Buffer): Font {
  let font = fonts.get(name)
  if (!font) fonts.set(name, (font = create(bytes()) as Font))
  return font
}
const faceFont = (name: FaceName, weight: number): Font => opened(`${name} ${weight}`, () => faceBytes(name, weight))
const otherFont = (name: FontName): Font => opened(name, () => fontOf(name))

const SLANTED: Partial<Record<Face['family'], FaceName>> = { text: 'slanted', book: 'bookSlanted' }
const nameOf = ({ family, slanted }: Face): FaceName => (slanted && SLANTED[family]) || family
/** A face without slanted letters of its own is leant by a quarter, as browsers do it (CSS Fonts 4, `font-synthesis`; the quarter is from memory). */
const leanOf = ({ family, slanted }: Face): number => (slanted && !SLANTED[family] ? 0.25 : 0)

interface Between {
  readonly light: Font
  readonly heavy: Font
  readonly part: number
}
const betweens = new Map<string, Between>()
/** The two weights that a face lies between, and how far from the lighter one. */
function between(face: Face): Between {
  const name = nameOf(face)
  const key = `${name} ${face.weight}`
  let known = betweens.get(key)
  if (!known) betweens.set(key, (known = findBetween(name, face.weight)))
  return known
}
function findBetween(name: FaceName, weight: number): Between {
  const weights = Object.keys(FACE_FILES[name]).map(Number)
  const below = weights.findLast(one => one <= weight) ?? weights[0]!
  const above = weights.find(one => one >= weight) ?? weights.at(-1)!
  return {
    light: faceFont(name, below),
    heavy: faceFont(name, above),
    part: above === below ? 0 : (weight - below) / (above - below),
  }
}

/** Lines as a font sets them: what is measured is drawn right after that. Few are kept, since each holds all its letters. */
const set = new WeakMap<Font, Map<string, Layout>>()
const MOST_SET = 2_000
/** Outlines that are kept. */
const MOST_LETTERS = 20_000
function layOut(font: Font, text: string): Layout {
  let known = set.get(font)
  if (!known || known.size > MOST_SET) set.set(font, (known = new Map()))
  let layout = known.get(text)
  if (!layout) known.set(text, (layout = font.layout(text) as unknown as Layout))
  return layout
}

const mixed = (a: number, b: number, part: number): number => a + (b - a) * part

/** Latin and what stands among it: set from left to right, letter by letter, in a face of ours if that has them all. */
const PLAIN = /^[\u0020-\u024F\u2010-\u2027\u2030-\u205E\u20AC]*$/

/** Control characters, and what is no character: nothing is seen of them. */
const UNSEEN = /[\p{Cc}\uFFFE\uFFFF]/gu

type Style = Face

/** Sets text for one picture after the other; what it has measured it keeps. */
export class Typesetter {
  private readonly widths = new Map<string, number>()
  /** Outlines of letters, by the name of what they are. */
  private readonly letters = new Map<string, string>()

  /** A width in canvas units. Words are measured one by one, as in the browser, so that both break lines alike. */
  readonly ruler: Ruler = (text, face) => {
    let total = 0
    const words = text.replace(UNSEEN, '').split(' ')
    words.forEach((word, i) => {
      if (i > 0) total += this.wordWidth(' ', face)
      if (word !== '') total += this.wordWidth(word, face)
    })
    return total
  }

  private wordWidth(word: string, face: Face): number {
    const key = `${face.family}${face.slanted ? 'i' : ''}${face.weight} ${face.size} ${word}`
    let width = this.widths.get(key)
    if (width === undefined) {
      if (this.widths.size > 200_000) this.widths.clear()
      this.widths.set(
        key,
        (width = this.isPlain(word, face) ? this.plainWidth(word, face) : this.lineOf(word, face).width),
      )
    }
    return width
  }

  private isPlain(text: string, face: Face): boolean {
    if (!PLAIN.test(text)) return false
    const { light } = between(face)
    for (const letter of text) if (!light.hasGlyphForCodePoint(letter.codePointAt(0)!)) return false
    return true
  }

  private plainWidth(text: string, face: Face): number {
    const { light, heavy, part } = between(face)
    const width = (font: Font): number => (layOut(font, text).advanceWidth * face.size) / font.unitsPerEm
    return part === 0 ? width(light) : mixed(width(light), width(heavy), part)
  }

  private has(font: FontName, point: number, face: Face): boolean {
    return font === 'text' || font === 'bold'
      ? between(face).light.hasGlyphForCodePoint(point)
      : otherFont(font).hasGlyphForCodePoint(point)
  }

  /** A line in pieces of one font and direction, from left to right. */
  private lineOf(text: string, face: Face): { pieces: readonly Drawn<Style>[]; width: number } {
    const { lines } = layOutParagraph([[text, face]], Infinity, {
      fontFor: (grapheme, { weight }) =>
        /^\s/.test(grapheme) ? 'text' : fontFor(grapheme, weight >= 600, (font, point) => this.has(font, point, face)),
      width: (part, font) => this.pieceWidth(part, font, face),
    })
    return lines[0] ?? { pieces: [], width: 0 }
  }

  private pieceWidth(text: string, font: FontName, face: Face): number {
    if (font === 'text' || font === 'bold') return this.plainWidth(text, face)
    const other = otherFont(font)
    return (layOut(other, text).advanceWidth * face.size) / other.unitsPerEm
  }

  private piecesOf(raw: string, face: Face): readonly Drawn<Style>[] {
    const text = raw.replace(UNSEEN, '')
    if (!this.isPlain(text, face)) return this.lineOf(text, face).pieces
    return [{ text, font: 'text', style: face, x: 0, width: this.plainWidth(text, face) }]
  }

  /** Pieces of one font each, named as `pageFont` knows them. */
  readonly runs = (text: string, face: Face): readonly Run[] =>
    this.piecesOf(text, face).map(({ text: part, font, x, width }) => ({
      text: part,
      family: font === 'text' || font === 'bold' ? pageFontName(face) : font,
      weight: face.weight,
      x,
      width,
    }))

  /** The letters of a line as outlines; emoji in their colours. */
  readonly outlines = (text: string, face: Face, x: number, y: number): readonly Outline[] =>
    this.piecesOf(text, face).flatMap(piece => this.outlinesOf(piece, face, x + piece.x, y))

  private outlinesOf(piece: Drawn<Style>, face: Face, x: number, y: number): readonly Outline[] {
    if (piece.font === 'emoji') return this.emoji(piece.text, face, x, y)
    if (!PLAIN.test(piece.text)) return this.run(piece, face, x, y)
    // Word by word, as they were measured.
    let pen = x
    return piece.text.split(' ').flatMap((text, i) => {
      if (i > 0) pen += this.wordWidth(' ', face)
      if (text === '') return []
      const at = pen
      pen += this.wordWidth(text, face)
      return this.run({ text, font: piece.font }, face, at, y)
    })
  }

  private run({ text, font }: Pick<Drawn<Style>, 'text' | 'font'>, face: Face, x: number, y: number): Outline[] {
    const own = font === 'text' || font === 'bold'
    const { light, heavy, part } = own ? between(face) : { light: otherFont(font), heavy: otherFont(font), part: 0 }
    const scale = face.size / light.unitsPerEm
    const thin = layOut(light, text)
    const thick = part === 0 ? thin : layOut(heavy, text)
    // Faces that join letters differently can't be drawn between one another: the nearer one is.
    const alike = thick.glyphs.length === thin.glyphs.length
    const design = own ? `${pageFontName(face, true)}${leanOf(face) > 0 ? ' leant' : ''}` : font
    const made: Outline[] = []
    let pen = 0
    thin.glyphs.forEach((glyph, i) => {
      const other = alike ? thick.glyphs[i]! : glyph
      const [at, otherAt] = [thin.positions[i]!, alike ? thick.positions[i]! : thin.positions[i]!]
      const key = `${design}${alike ? '' : ' as it is'} ${glyph.id}`
      let d = this.letters.get(key)
      if (d === undefined) {
        if (this.letters.size > MOST_LETTERS) this.letters.clear()
        this.letters.set(key, (d = pathBetween(glyph, other, part, own ? leanOf(face) : 0)))
      }
      if (d !== '')
        made.push({
          key,
          d,
          scale,
          x: x + (pen + mixed(at.xOffset, otherAt.xOffset, part)) * scale,
          y: y - mixed(at.yOffset, otherAt.yOffset, part) * scale,
        })
      pen += mixed(at.xAdvance, otherAt.xAdvance, part)
    })
    return made
  }

  private emoji(text: string, face: Face, x: number, y: number): readonly Outline[] {
    const font = otherFont('emoji')
    let pen = x
    return Array.from(new Intl.Segmenter('en', { granularity: 'grapheme' }).segment(text)).flatMap(
      ({ segment }): Outline[] => {
        const width = (font.layout(segment).advanceWidth * face.size) / font.unitsPerEm
        const picture = emojiPicture(segment)
        const at = pen
        pen += width
        if (!picture)
          return [...this.outlinesOf({ text: segment, font: 'otherText', style: face, x: 0, width }, face, at, y)]
        const scale = width / picture.width
        return picture.shapes.map(({ path, color, opacity }, i) => ({
          key: `emoji ${segment} ${i}`,
          d: path,
          scale,
          x: at,
          y: y + face.size * 0.05,
          fill: `#${color.map(value => value.toString(16).padStart(2, '0')).join('')}`,
          opacity,
        }))
      },
    )
  }
}

/** The name by which a page knows a face: the nearest weight that there is. `exact`: with the weight itself. */
export function pageFontName(face: Face, exact = false): string {
  const name = nameOf(face)
  if (exact) return `${name}-${face.weight}`
  const weights = Object.keys(FACE_FILES[name]).map(Number)
  const nearest = weights.reduce((best, one) =>
    Math.abs(one - face.weight) < Math.abs(best - face.weight) ? one : best,
  )
  return `${name}-${nearest}`
}

/** The bytes of a font by the name that a page knows it by. */
export function pageFont(name: string): Buffer {
  const [face, weight] = name.split('-')
  return weight ? faceBytes(face as FaceName, Number(weight)) : fontOf(name as FontName)
}

const LETTERS: Readonly<Record<string, string>> = {
  moveTo: 'M',
  lineTo: 'L',
  quadraticCurveTo: 'Q',
  bezierCurveTo: 'C',
  closePath: 'Z',
}

/** An outline between two of the same letter, in units of the font, y upward; `lean`: how far it goes right for each unit up. */
function pathBetween(light: Glyph, heavy: Glyph, part: number, lean: number): string {
  const a = light.path.commands
  const b = heavy.path.commands
  const alike = a.length === b.length && a.every(({ command }, i) => command === b[i]!.command)
  return a
    .map(({ command, args }, i) => {
      const at = args.map((value, n) => (alike ? mixed(value, b[i]!.args[n]!, part) : value))
      // Every command's arguments are points: x, y, x, y …
      return LETTERS[command]! + at.map((value, n) => Math.round(n % 2 ? value : value + lean * at[n + 1]!)).join(' ')
    })
    .join('')
}
