import type { Face, Ruler } from '#core/arrange/plank'
import { needTypeface } from './late-typefaces'

let context: CanvasRenderingContext2D | null = null
const widths = new Map<string, Map<string, number>>()

/** As `--emoji` in the style sheet has them. */
const EMOJI = '"Apple Color Emoji", "Segoe UI Emoji", "Noto Color Emoji", "Twemoji", "Noto Emoji"'
const FAMILIES: Readonly<Record<Face['family'], string>> = {
  text: '"Figtree Variable"',
  display: '"Bricolage Grotesque Variable"',
  book: '"Literata Variable"',
  hand: '"Caveat Variable"',
}
const fonts = new WeakMap<Face, string>()

function fontOf(face: Face): string {
  let font = fonts.get(face)
  if (font === undefined) fonts.set(face, (font = fontName(face)))
  return font
}

function fontName(face: Face): string {
  const family = FAMILIES[face.family]
  needTypeface(face)
  return `${face.slanted ? 'italic ' : ''}${face.weight} ${face.size}px ${family}, ${EMOJI}, system-ui, sans-serif`
}

/**
 * Measures text as the style sheet sets it, word by word: words come again and again, whole titles rarely do. What a
 * font moves letters across a space (a fraction of a pixel) is left out.
 */
export const browserRuler: Ruler = (text, face) => {
  const font = fontOf(face)
  let known = widths.get(font)
  if (!known) widths.set(font, (known = new Map()))
  if (known.size > 100_000) known.clear()
  let total = 0
  let from = 0
  for (;;) {
    const space = text.indexOf(' ', from)
    if (space < 0) return total + wordWidth(text.slice(from), font, known)
    total += wordWidth(text.slice(from, space), font, known) + wordWidth(' ', font, known)
    from = space + 1
  }
}

function wordWidth(word: string, font: string, known: Map<string, number>): number {
  let width = known.get(word)
  if (width === undefined) {
    context ??= document.createElement('canvas').getContext('2d')!
    if (context.font !== font) context.font = font
    width = context.measureText(word).width
    known.set(word, width)
  }
  return width
}

/**
 * Calls when a font came later that changes how wide text is, as those for emoji and of typefaces do. What was measured before is
 * forgotten.
 */
export function onLateFonts(again: () => void): () => void {
  const heard = (event: FontFaceSetLoadEvent): void => {
    if (!event.fontfaces.some(face => /emoji|literata|caveat/i.test(face.family))) return
    widths.clear()
    again()
  }
  document.fonts.addEventListener('loadingdone', heard)
  return () => document.fonts.removeEventListener('loadingdone', heard)
}

/** Planks can only be measured once their fonts are here. */
export async function fontsReady(): Promise<void> {
  await Promise.all(
    ['450 14px "Figtree Variable"', '600 14px "Figtree Variable"', '600 18px "Bricolage Grotesque Variable"'].map(
      font => document.fonts.load(font),
    ),
  )
}
