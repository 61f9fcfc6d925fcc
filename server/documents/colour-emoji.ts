import { create, type Font } from 'fontkit'
import { fontOf } from './fonts'

/*
 * Emoji in colour on a page of a PDF: a PDF's own text has one colour, so the layers of the picture (OpenType's COLR
 * table, version 0) are drawn as shapes over text that is there to be searched and copied.
 */

interface Layer {
  readonly glyph: { readonly path: { toSVG(): string } }
  readonly color: { readonly red: number; readonly green: number; readonly blue: number; readonly alpha: number }
}
interface Layered {
  readonly layers?: readonly Layer[]
}
interface Inner {
  _glyphs: Record<number, unknown>
  _getBaseGlyph(glyph: number, characters?: readonly number[]): unknown
}

let font: Font | undefined

function emojiFont(): Font {
  if (font) return font
  font = create(fontOf('colour') as never) as Font
  // fontkit 2.0.4 returns nothing for a glyph of a WOFF2 font that it has read before.
  const inner = font as unknown as Inner
  const read = inner._getBaseGlyph.bind(font)
  inner._getBaseGlyph = (glyph, characters) => read(glyph, characters) ?? inner._glyphs[glyph]
  return font
}

export interface EmojiShape {
  /** An SVG path in units of the em, y upward. */
  readonly path: string
  /** Red, green and blue, 0 to 255. */
  readonly color: readonly [number, number, number]
  /** 0 to 1. */
  readonly opacity: number
}
export interface EmojiPicture {
  readonly shapes: readonly EmojiShape[]
  /** Units that one em has. */
  readonly em: number
  readonly width: number
}

const known = new Map<string, EmojiPicture | null>()
/** Sequences of joined emoji have no end; those that are read again and again are few. */
const MOST_KNOWN = 2000

/** The picture of one emoji (a grapheme), or null where there is none in colour. */
export function emojiPicture(grapheme: string): EmojiPicture | null {
  let picture = known.get(grapheme)
  if (picture === undefined) {
    if (known.size >= MOST_KNOWN) known.clear()
    known.set(grapheme, (picture = read(grapheme)))
  }
  return picture
}

function read(grapheme: string): EmojiPicture | null {
  const { glyphs } = emojiFont().layout(grapheme)
  const glyph = glyphs[0] as unknown as (Layered & { readonly advanceWidth: number; readonly id: number }) | undefined
  if (!glyph || glyphs.length > 1 || glyph.id === 0 || !glyph.layers?.length) return null
  return {
    em: emojiFont().unitsPerEm,
    width: glyph.advanceWidth,
    shapes: glyph.layers.map(({ glyph: shape, color }) => ({
      path: shape.path.toSVG(),
      color: [color.red, color.green, color.blue],
      opacity: color.alpha / 255,
    })),
  }
}
