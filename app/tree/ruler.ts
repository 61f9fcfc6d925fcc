import type { Face, Ruler } from '#core/arrange/plank'

let context: CanvasRenderingContext2D | null = null
const widths = new Map<string, Map<string, number>>()

function fontOf(face: Face): string {
  const family = face.family === 'display' ? '"Bricolage Grotesque Variable"' : '"Figtree Variable"'
  return `${face.slanted ? 'italic ' : ''}${face.weight} ${face.size}px ${family}, system-ui, sans-serif`
}

/** Measures text as the style sheet sets it. Each piece is measured once a face. */
export const browserRuler: Ruler = (text, face) => {
  const font = fontOf(face)
  let known = widths.get(font)
  if (!known) widths.set(font, known = new Map())
  let width = known.get(text)
  if (width === undefined) {
    context ??= document.createElement('canvas').getContext('2d')!
    if (context.font !== font) context.font = font
    width = context.measureText(text).width
    if (known.size > 200_000) known.clear()
    known.set(text, width)
  }
  return width
}

/** Planks can only be measured once their fonts are here. */
export async function fontsReady(): Promise<void> {
  await Promise.all(['450 14px "Figtree Variable"', '600 14px "Figtree Variable"', '600 18px "Bricolage Grotesque Variable"'].map(font => document.fonts.load(font)))
}
