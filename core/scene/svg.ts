import type { Face } from '../arrange/plank'
import { escapeHtml } from '../formats/clipboard'
import type { Scene, Shape } from './shapes'

/** One letter as a shape. Letters that come again are drawn once, by their key. */
export interface Outline {
  readonly key: string
  /** In units of its font, y upward. */
  readonly d: string
  /** Canvas units of one unit of the font, and where its foot stands. */
  readonly scale: number
  readonly x: number
  readonly y: number
  /** A colour of its own, instead of the text's. */
  readonly fill?: string
  readonly opacity?: number
}
/** A piece of a line in one font. `x` from the line's left end. */
export interface Run {
  readonly text: string
  readonly family: string
  readonly weight: number
  readonly x: number
  readonly width: number
}

/** What an SVG needs to know from outside: fonts, icons and the bytes of pictures. */
export interface SvgAsked {
  /** Whether there is a ground at all. */
  readonly clear?: boolean
  /** How large it says it is, in parts of its own size. */
  readonly scale?: number
  /** The letters of a line as shapes, from its left end and foot; left out, text is text. */
  readonly outlines?: (text: string, face: Face, x: number, y: number) => readonly Outline[]
  /** Text in pieces of one font each, for readers that know no other font when a letter is missing. */
  readonly runs?: (text: string, face: Face) => readonly Run[]
  /** What is inside an icon of 24 units: strokes in the current colour. '' for none of that name. */
  readonly icon: (name: string) => string
  /** A picture of the tree as a `data:` address; null for one that isn't there. */
  readonly image: (file: string) => string | null
}

const FAMILIES = {
  text: "Figtree, 'Figtree Variable', 'Noto Emoji', sans-serif",
  display: "'Bricolage Grotesque', 'Bricolage Grotesque Variable', Figtree, sans-serif",
  book: "Literata, 'Literata Variable', serif",
  hand: "Caveat, 'Caveat Variable', cursive",
} as const

/** Control characters and U+FFFE, U+FFFF have no place in XML 1.0 (section 2.2). */
const clean = (text: string): string =>
  // eslint-disable-next-line no-control-regex -- these are what XML refuses
  escapeHtml(text.toWellFormed().replace(/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g, ''))
const n = (value: number): string => String(Math.round(value * 1000) / 1000)
const attr = (name: string, value: string | number | undefined): string =>
  value === undefined ? '' : ` ${name}="${typeof value === 'number' ? n(value) : value}"`

/** A picture as SVG 1.1, which stands by itself: nothing in it leads anywhere. */
export function svgOf(scene: Scene, asked: SvgAsked): string {
  const { x, y, width, height } = scene.bounds
  const scale = asked.scale ?? 1
  const ground = asked.clear
    ? ''
    : `<rect x="${n(x)}" y="${n(y)}" width="${n(width)}" height="${n(height)}" fill="${scene.ground}"/>`
  const letters = new Letters()
  const body = scene.shapes.map(shape => shapeOf(shape, asked, letters)).join('')
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${n(width * scale)}" height="${n(height * scale)}" viewBox="${n(x)} ${n(y)} ${n(width)} ${n(height)}" role="img"><title>${clean(scene.title)}</title>${letters.definitions()}${ground}${body}</svg>`
}

/** The letters that a picture is written with, each by a short name. */
class Letters {
  private readonly known = new Map<string, { readonly name: string; readonly d: string }>()

  nameOf({ key, d }: Outline): string {
    let letter = this.known.get(key)
    if (!letter) this.known.set(key, (letter = { name: `l${this.known.size}`, d }))
    return letter.name
  }

  definitions(): string {
    if (this.known.size === 0) return ''
    return `<defs>${Array.from(this.known.values(), ({ name, d }) => `<path id="${name}" d="${d}"/>`).join('')}</defs>`
  }
}

function shapeOf(shape: Shape, asked: SvgAsked, letters: Letters): string {
  switch (shape.kind) {
    case 'path':
      return `<path d="${shape.d}" fill="${shape.fill ?? 'none'}"${attr('stroke', shape.stroke)}${attr('stroke-width', shape.width)}${attr('stroke-dasharray', shape.dash?.join(' '))}${shape.round ? ' stroke-linecap="round" stroke-linejoin="round"' : ''}${attr('opacity', shape.opacity)}/>`
    case 'text':
      return textOf(shape, asked, letters)
    case 'image': {
      const { x, y, width, height } = shape.at
      const data = asked.image(shape.file)
      return data === null
        ? `<rect x="${n(x)}" y="${n(y)}" width="${n(width)}" height="${n(height)}" fill="none" stroke="#888888" stroke-dasharray="4 3"/>`
        : `<image x="${n(x)}" y="${n(y)}" width="${n(width)}" height="${n(height)}" preserveAspectRatio="xMidYMid slice" href="${data}"><title>${clean(shape.words)}</title></image>`
    }
    case 'icon': {
      const { x, y, width } = shape.at
      const inner = asked.icon(shape.name)
      return inner === ''
        ? ''
        : `<g transform="translate(${n(x)} ${n(y)}) scale(${n(width / 24)})" color="${shape.ink}">${inner.replaceAll('currentColor', shape.ink)}</g>`
    }
  }
}

function textOf(shape: Extract<Shape, { kind: 'text' }>, { outlines, runs }: SvgAsked, letters: Letters): string {
  const { x, y, width, text, face, ink, halo } = shape
  const line = shape.underlined
    ? `<path d="M${n(x)} ${n(y + face.size * 0.12)}h${n(width)}" stroke="${ink}" stroke-width="${n(face.size / 14)}"${attr('opacity', shape.opacity)}/>`
    : ''
  if (outlines) {
    const uses = outlines(text, face, x, y).map(one => ({
      scale: one.scale,
      open: `<use href="#${letters.nameOf(one)}" transform="translate(${n(one.x)} ${n(one.y)}) scale(${Number(one.scale.toPrecision(6))} ${Number((-one.scale).toPrecision(6))})"`,
      paint: `${attr('fill', one.fill)}${attr('opacity', one.opacity)}`,
    }))
    const rim = halo
      ? `<g fill="none" stroke="${halo}" stroke-linejoin="round">${uses.map(({ open, scale }) => `${open} stroke-width="${n(5 / scale)}"/>`).join('')}</g>`
      : ''
    // What is drawn is said too.
    return `${rim}<g role="img" aria-label="${clean(text)}" fill="${ink}"${attr('opacity', shape.opacity)}>${uses.map(({ open, paint }) => `${open}${paint}/>`).join('')}</g>${line}`
  }
  const paint = `${attr('opacity', shape.opacity)}${halo ? ` stroke="${halo}" stroke-width="5" stroke-linejoin="round" paint-order="stroke"` : ''}`
  const style = `font-size="${n(face.size)}" fill="${ink}"${face.slanted ? ' font-style="italic"' : ''}`
  if (runs) {
    const pieces = runs(text, face)
    const set = (look: string): string =>
      pieces
        .map(
          run =>
            `<text x="${n(x + run.x)}" y="${n(y)}" font-family="${run.family}" textLength="${n(run.width)}" lengthAdjust="spacingAndGlyphs" font-size="${n(face.size)}"${look}${attr('opacity', shape.opacity)} xml:space="preserve">${clean(run.text)}</text>`,
        )
        .join('')
    // Readers of this kind paint the rim over the letters, so it's set by itself, behind them.
    const rim = halo ? set(` fill="none" stroke="${halo}" stroke-width="5" stroke-linejoin="round"`) : ''
    return `${rim}${set(` fill="${ink}"`)}${line}`
  }
  return `<text x="${n(x)}" y="${n(y)}" font-family="${FAMILIES[face.family]}" font-weight="${face.weight}" ${style} textLength="${n(width)}" lengthAdjust="spacingAndGlyphs"${paint} xml:space="preserve">${clean(text)}</text>${line}`
}
