import { type Direction, meets, type Rect } from '#core/arrange/place'
import type { Face, Ruler } from '#core/arrange/plank'
import type { TopicId } from '#core/tree'

/*
 * Where planks are too small to be read, the big branches stay legible: their names are put up as posts, at one size
 * whatever the zoom, over their own plank and over nothing else's text.
 */

/** Lettering that can still be read, px on the screen. */
export const LEAST_PX = 11

/** A branch whose name is to be put up. `rect` is its plank on the screen, px. */
export interface Wanted {
  readonly id: TopicId
  readonly title: string
  readonly rect: Rect
  readonly centre: boolean
  readonly direction: Direction
  readonly hue: string
  readonly focused: boolean
}

/** A name that is put up, in px on the screen. */
export interface Post extends Rect {
  readonly id: TopicId
  readonly lines: readonly string[]
  readonly centre: boolean
  readonly direction: Direction
  readonly hue: string
  readonly focused: boolean
}

const FACES: Readonly<Record<'centre' | 'main', Face>> = {
  centre: { family: 'display', size: 15, weight: 650, slanted: false },
  main: { family: 'text', size: 12, weight: 650, slanted: false },
}
const LINE = { centre: 18, main: 14 } as const
const PAD = { x: 12, y: 4 } as const
/** Names longer than this are broken into lines of about as many px, three at most. */
const WIDE = 168
const MOST_LINES = 3
/** How far a post may stray from the middle of its plank, px; those nearest are tried first. */
const STRAY = [0, -8, 8, -16, 16, -26, 26, -38, 38, -52, 52, -66, 66] as const
/** Posts that are put up at once, at most. */
const MOST_POSTS = 60

/**
 * Where the posts stand: the centre's first, then those of the focus and of the branches in order. One that would lie
 * over another post or over one of the `taken` places, the planks with words of their own, is tried elsewhere by its
 * plank, in more lines too; where there's no room at all it's left out.
 */
export function putUp(wanted: readonly Wanted[], taken: readonly (Rect & { id: TopicId })[], ruler: Ruler): Post[] {
  const posts: Post[] = []
  const first = (one: Wanted): number => (one.centre ? 0 : one.focused ? 1 : 2)
  for (const one of [...wanted].sort((a, b) => first(a) - first(b)).slice(0, MOST_POSTS)) {
    const near = taken.filter(other => other.id !== one.id && meets(reach(one.rect), other))
    const free = (rect: Rect): boolean =>
      posts.every(post => !meets(post, rect)) && near.every(other => !meets(other, rect))
    for (const post of candidates(one, ruler))
      if (free(post)) {
        posts.push(post)
        break
      }
  }
  return posts
}

/** What posts of a plank may lie over. */
function reach(rect: Rect): Rect {
  return { x: rect.x - WIDE * 2, y: rect.y - 100, width: rect.width + WIDE * 4, height: rect.height + 200 }
}

/** Which edge of its plank a post keeps to, of the width it has to spare: the one towards the centre first. */
const SHIFTS: Readonly<Record<Direction, readonly number[]>> = {
  right: [0, 0.5, 1],
  left: [1, 0.5, 0],
  down: [0.5, 0, 1],
}

function* candidates(one: Wanted, ruler: Ruler): Generator<Post> {
  const { id, title, rect, centre, direction, hue, focused } = one
  const kind = centre ? 'centre' : 'main'
  const face = FACES[kind]
  for (const lines of broken(title || 'untitled', face, ruler)) {
    const width = Math.max(...lines.map(line => ruler(line, face))) + PAD.x
    const height = lines.length * LINE[kind] + PAD.y
    const middle = rect.y + rect.height / 2 - height / 2
    const spare = rect.width - width
    for (const stray of STRAY)
      for (const shift of SHIFTS[centre ? 'down' : direction])
        yield {
          id,
          lines,
          centre,
          direction,
          hue,
          focused,
          width,
          height,
          x: rect.x + spare * shift,
          y: middle + stray,
        }
  }
}

/** A title in one line, then in more; a single word too long for a line is shortened. */
function* broken(title: string, face: Face, ruler: Ruler): Generator<string[]> {
  const words = title.split(/\s+/).filter(Boolean)
  const whole = ruler(title, face)
  for (let count = Math.min(MOST_LINES, Math.ceil(whole / WIDE)); count <= MOST_LINES; count++) {
    const most = Math.min(WIDE * 1.3, whole / count + 24)
    const lines: string[] = []
    for (const word of words) {
      const longer = lines.length > 0 ? `${lines.at(-1)!} ${word}` : word
      if (lines.length > 0 && ruler(longer, face) <= most) lines[lines.length - 1] = longer
      else lines.push(word)
    }
    if (lines.length <= MOST_LINES) yield lines.map(line => shortened(line, face, ruler))
    else if (count === MOST_LINES)
      yield lines
        .slice(0, MOST_LINES)
        .map((line, i) => shortened(i === MOST_LINES - 1 ? `${line} …` : line, face, ruler))
  }
}

const letters = new Intl.Segmenter('en', { granularity: 'grapheme' })

function shortened(line: string, face: Face, ruler: Ruler): string {
  if (ruler(line, face) <= WIDE * 1.4) return line
  let short = ''
  for (const { segment } of letters.segment(line)) {
    if (ruler(`${short}${segment}…`, face) > WIDE * 1.4) break
    short += segment
  }
  return `${short}…`
}
