import type { Direction, Rect } from '../arrange/place'
import type { Face, Plank, Ruler } from '../arrange/plank'
import { MARKER_OUTLINES, MARKER_STROKES, signShift } from '../dress/marker-paths'
import type { Signals } from '../dress/signals'
import type { Wear } from '../dress/wear'
import type { Marker } from '../tree/markers'
import type { Style } from '../tree/style'
import type { Topic } from '../tree/topic'
import { pictureOf, type Sign, type SmallPrint } from './face'
import { coloursOf, groundShapes } from './ground'
import { footOf, rectPath, type Shape } from './shapes'

/* A plank by its shapes, as TreePlank.vue and its style sheet put it on the screen. */

export interface DrawnPlank {
  readonly rect: Rect
  readonly direction: Direction
  readonly rank: 'centre' | 'main' | 'plain'
  readonly topic: Topic
  readonly style: Style
  readonly plank: Plank
  readonly smallPrint: readonly SmallPrint[]
  readonly signs: readonly Sign[]
  readonly markers: readonly Marker[]
  readonly hue: string
  /** Topics that are folded away behind it; 0 for none. */
  readonly hidden: number
  /** How far behind it the spine of its bracket stands. */
  readonly spine: number
}

const MARKER = 17
const MARKER_GAP = 5
const SIGN = 13
const SMALL_GAP = 7
const SMALL_LINE = 16
/** The bar under a figure that has a target, and the gap in it where it's beyond that. */
const REACHED = 2
const GAP_AT_TARGET = 3
const small = (weight: number): Face => ({ family: 'text', size: 11.5, weight, slanted: false })
const SAID: Face = { family: 'text', size: 9.5, weight: 650, slanted: false }
const TAB: Face = { family: 'text', size: 10.5, weight: 700, slanted: false }

/** The inner space of a plank, as in TreePlank.css: left, top, right. */
function padding({ rank, direction, style: { shape } }: DrawnPlank): { left: number; top: number; right: number } {
  if (rank === 'centre') return { left: 18, top: 13, right: 18 }
  const base =
    direction === 'left'
      ? { left: 9, top: 4, right: 12 }
      : direction === 'down'
        ? { left: 11, top: 4, right: 10 }
        : { left: 12, top: 4, right: 9 }
  if (shape === 'tag') return direction === 'left' ? { ...base, left: 16 } : { ...base, right: 16 }
  if (shape === 'ticket') return { ...base, left: 16, right: 14 }
  return base
}

/** First strong direction of a line (UAX #9, rules P2 and P3), roughly: the first letter that has one. */
const readsLeft = (line: string): boolean =>
  /^[^\p{L}]*[\p{Script=Hebrew}\p{Script=Arabic}\p{Script=Syriac}\p{Script=Thaana}\p{Script=Nko}]/u.test(line)

export function plankShapes(at: DrawnPlank, wear: Wear, signals: Signals, ruler: Ruler): Shape[] {
  const { rect, direction, rank, topic, style, plank, hue } = at
  const centre = rank === 'centre'
  const done = topic.done === 100
  const { ground, ink, rim } = coloursOf(wear, style, hue, { centre, done, fern: signals.fern })
  const made = groundShapes({ rect, direction, centre, style, hue, rim, ground, wear, hairline: signals.hairline })
  const pad = padding(at)
  const left = direction === 'left'
  const inner = { x: rect.x + pad.left, width: rect.width - pad.left - pad.right }
  let top = rect.y + pad.top
  let [x, width] = [inner.x, inner.width]
  const picture = pictureOf(topic)
  const image = (imageX: number, imageY: number): void => {
    made.push({
      kind: 'image',
      file: topic.picture!.file,
      at: { x: imageX, y: imageY, width: picture!.width, height: picture!.height },
      words: `Picture of ${topic.title || 'untitled'}`,
    })
  }
  if (picture?.place === 'above') {
    image(inner.x, top)
    top += picture.height + 6
  } else if (picture?.place === 'before') {
    image(inner.x, top)
    x += picture.width + 6
    width -= picture.width + 6
  }

  const textWidth = Math.max(0, ...plank.lines.map(line => ruler(line, plank.face)))
  const titleHeight = plank.lines.length * plank.lineHeight
  // From the side that the plank grows from: markers, words, signs.
  const put = (wide: number, from: number): number => (left ? x + width - from - wide : x + from)
  let from = 0
  for (const marker of at.markers) {
    made.push(...markerShapes(marker, put(MARKER, from), top + 1, signals))
    from += MARKER + MARKER_GAP
  }
  const words = put(textWidth, from)
  plank.lines.forEach((line, i) => {
    const own = ruler(line, plank.face)
    if (line.trim() === '') return
    made.push({
      kind: 'text',
      x: left || readsLeft(line) ? words + textWidth - own : words,
      y: footOf(top + i * plank.lineHeight, plank.lineHeight, plank.face),
      width: own,
      text: line,
      face: plank.face,
      ink,
      ...(style.underlined ? { underlined: true } : {}),
      ...(done ? { opacity: 0.75 } : {}),
    })
  })
  from += textWidth + MARKER_GAP
  for (const sign of at.signs) {
    const [signX, middle, signInk] = [put(SIGN, from), top + titleHeight / 2, centre ? ink : signals.quiet]
    if (sign.count) made.push(...saidShapes(sign, signX, middle - 6.5, signInk, signals, ruler))
    else
      made.push({
        kind: 'icon',
        name: sign.icon.replace('lucide:', ''),
        at: { x: signX, y: middle - SIGN / 2, width: SIGN, height: SIGN },
        ink: signInk,
      })
    from += SIGN + MARKER_GAP
  }
  top += titleHeight
  if (at.smallPrint.length > 0) {
    const plain = centre || style.fill !== null
    let along = 0
    const piece = (wide: number): number => {
      const place = left ? x + width - along - wide : x + along
      along += wide + SMALL_GAP
      return place
    }
    for (const { text, tone, part } of at.smallPrint) {
      const face = small(tone === 'people' ? 750 : tone === 'plain' ? 550 : 650)
      const wide = ruler(text, face)
      const colour = tone === 'late' ? signals.clay : tone === 'ok' ? signals.fern : signals.quiet
      const [place, own] = [piece(wide), plain ? ink : colour]
      made.push({ kind: 'text', x: place, y: footOf(top, SMALL_LINE, face), width: wide, text, face, ink: own })
      if (part !== undefined)
        made.push(...reachedShapes({ x: place, y: top + SMALL_LINE - REACHED, wide }, part, own, signals))
    }
    if (done)
      made.push({
        kind: 'icon',
        name: 'check',
        at: { x: piece(12), y: top + 2, width: 12, height: 12 },
        ink: plain ? ink : signals.fern,
      })
    top += SMALL_LINE
  }
  if (picture?.place === 'below') image(inner.x, top + 6)
  if (topic.done !== null && !centre) made.push(...barShapes(at, signals))
  if (topic.annex && !centre) made.push(...doorShapes(at, wear))
  else if (at.hidden > 0 && !centre) made.push(...tabShapes(at, wear, ruler))
  return made
}

/** How much of a target is reached, under its words: the filled part; beyond it all is, with a gap where the target lies. */
function reachedShapes(
  { x, y, wide }: { readonly x: number; readonly y: number; readonly wide: number },
  part: number,
  ink: string,
  signals: Signals,
): Shape[] {
  const bar = (from: number, to: number, fill: string): Shape => ({
    kind: 'path',
    d: rectPath({ x: x + from * wide, y, width: (to - from) * wide, height: REACHED }),
    fill,
  })
  if (part <= 1) return [bar(0, 1, signals.hairline), ...(part > 0 ? [bar(0, part, ink)] : [])]
  const half = GAP_AT_TARGET / 2 / wide
  const target = 1 / part
  return [bar(0, Math.max(0, target - half), ink), bar(Math.min(1, target + half), 1, ink)]
}

/** How much is done, along the foot. */
function barShapes({ rect, direction, topic, hue }: DrawnPlank, signals: Signals): Shape[] {
  const bar = { x: rect.x, y: rect.y + rect.height - 3, width: rect.width, height: 3 }
  const wide = (rect.width * topic.done!) / 100
  return [
    { kind: 'path', d: rectPath(bar), fill: signals.hairline },
    {
      kind: 'path',
      d: rectPath({ ...bar, width: wide, x: direction === 'left' ? rect.x + rect.width - wide : rect.x }),
      fill: hue,
    },
  ]
}

/** The number of what a fold hides, on the spine of the bracket. */
function tabShapes({ rect, direction, hidden, spine, hue }: DrawnPlank, wear: Wear, ruler: Ruler): Shape[] {
  const text = String(hidden)
  // Figures of one width each, as the style sheet sets them.
  const figure = ruler('0', TAB)
  const own = figure * text.length
  const wide = Math.max(17, own + 11)
  const middle =
    direction === 'down'
      ? { x: rect.x + rect.width / 2, y: rect.y + rect.height + spine }
      : { x: direction === 'left' ? rect.x - spine : rect.x + rect.width + spine, y: rect.y + rect.height / 2 }
  const box = { x: middle.x - wide / 2, y: middle.y - 8, width: wide, height: 16 }
  return [
    { kind: 'path', d: rectPath(box), fill: hue },
    ...Array.from(text, (digit, at): Shape => {
      const width = ruler(digit, TAB)
      return {
        kind: 'text',
        x: middle.x - own / 2 + figure * at + (figure - width) / 2,
        y: footOf(box.y + 2, 12, TAB),
        width,
        text: digit,
        face: TAB,
        ink: wear.page,
      }
    }),
  ]
}

/** The doorway to an annex: an arch in the outer edge, its door ajar. */
function doorShapes({ rect, direction, hue }: DrawnPlank, wear: Wear): Shape[] {
  const x =
    direction === 'left' ? rect.x - 15 : direction === 'down' ? rect.x + rect.width / 2 - 8.5 : rect.x + rect.width - 2
  const y = direction === 'down' ? rect.y + rect.height - 2 : rect.y + rect.height / 2 - 11
  return [
    { kind: 'path', d: `M${x + 1} ${y + 21}V${y + 9}a7.5 8 0 0 1 15 0V${y + 21}Z`, fill: wear.page },
    { kind: 'path', d: `M${x + 2} ${y + 22}V${y + 9}A7 7 0 0 1 ${x + 8.4} ${y + 2}L${x + 4.8} ${y + 22}Z`, fill: hue },
    { kind: 'path', d: `M${x + 1} ${y + 21}V${y + 9}a7.5 8 0 0 1 15 0V${y + 21}Z`, stroke: hue, width: 2 },
  ]
}

/** How many comments hang on it: a small bubble, filled while something in it waits for an answer. */
function saidShapes(
  { count = '', open }: Sign,
  x: number,
  y: number,
  ink: string,
  signals: Signals,
  ruler: Ruler,
): Shape[] {
  const width = ruler(count, SAID)
  const wide = Math.max(15, width + 6)
  const left = x + SIGN / 2 - wide / 2
  const box = (by: number): string => {
    const [l, t, r, b] = [left + by, y + by, left + wide - by, y + 13 - by]
    const radius = 5 - by
    return `M${l} ${b}V${t + radius}a${radius} ${radius} 0 0 1 ${radius} ${-radius}H${r - radius}a${radius} ${radius} 0 0 1 ${radius} ${radius}V${b - radius}a${radius} ${radius} 0 0 1 ${-radius} ${radius}Z`
  }
  return [
    open ? { kind: 'path', d: box(0), fill: signals.porch } : { kind: 'path', d: box(0.5), stroke: ink, width: 1 },
    {
      kind: 'text',
      x: left + (wide - width) / 2,
      y: footOf(y, 13, SAID),
      width,
      text: count,
      face: SAID,
      ink: open ? signals.signGround : ink,
    },
  ]
}

function markerShapes(marker: Marker, x: number, y: number, signals: Signals): Shape[] {
  if (marker.emoji) {
    const face: Face = { family: 'text', size: MARKER - 3, weight: 400, slanted: false }
    return [
      { kind: 'text', x, y: footOf(y, MARKER, face), width: MARKER, text: marker.emoji, face, ink: signals.quiet },
    ]
  }
  const scale = MARKER / 18
  const hue = signals[marker.hue]
  const bare = marker.shape === 'bare'
  const placed = (d: string, down = 0): string => moved(d, scale, x, y + down * scale)
  return [
    ...(bare ? [] : [{ kind: 'path' as const, d: placed(MARKER_OUTLINES[marker.shape]), fill: hue }]),
    ...(marker.sign === 'none'
      ? []
      : [
          {
            kind: 'path' as const,
            d: placed(MARKER_STROKES[marker.sign], signShift(marker.shape)),
            stroke: bare ? hue : marker.hue === 'sun' ? signals.onSun : signals.signGround,
            width: (bare ? 1.7 : 1.8) * scale,
            round: true,
          },
        ]),
  ]
}

/** How many numbers each command of a path takes, and which of them are places (x, y by turns); an arc's radii only grow. */
const TAKES: Readonly<Record<string, number>> = { M: 2, L: 2, H: 1, V: 1, C: 6, S: 4, Q: 4, T: 2, A: 7, Z: 0 }

/** A path made larger and moved: of commands with absolute places and with steps alike. */
export function moved(d: string, scale: number, dx: number, dy: number): string {
  const tokens = d.match(/[a-zA-Z]|-?(?:\d+\.?\d*|\.\d+)(?:e-?\d+)?/g) ?? []
  const out: string[] = []
  let command = ''
  let i = 0
  while (i < tokens.length) {
    if (/[a-zA-Z]/.test(tokens[i]!)) command = tokens[i++]!
    const upper = command.toUpperCase()
    const takes = TAKES[upper] ?? 0
    out.push(command)
    const absolute = command === upper
    for (let n = 0; n < takes; n++, i++) {
      const value = Number(tokens[i])
      const isArcWord = upper === 'A' && n >= 2 && n <= 4
      const isRadius = upper === 'A' && n < 2
      const across = upper === 'H' || (upper !== 'V' && (upper === 'A' ? n === 5 : n % 2 === 0))
      const shift = !absolute || isRadius ? 0 : across ? dx : dy
      out.push(isArcWord ? String(value) : String(Math.round((value * scale + shift) * 1000) / 1000))
    }
    // Further places after M are lines to them.
    if (command === 'M') command = 'L'
    else if (command === 'm') command = 'l'
    if (takes === 0 && i < tokens.length && !/[a-zA-Z]/.test(tokens[i]!)) i++
  }
  return out.join(' ')
}
