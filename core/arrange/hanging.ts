import type { TopicId } from '../tree/topic'
import { type Direction, type Extents, mirrored, type Size } from './place'

/*
 * How branches hang from a time axis: each below it or above it, running on from its date or back from it. Later branches
 * are hung first and as near as they go, so that no line runs through an earlier one. Where dates crowd at the beginning,
 * the first branches run back from theirs, over the centre, and the rest on: what runs back is hung from the first on, so
 * that the same holds for it. Of several scales, numbers of branches that run back, and sides of the axis, those are taken
 * that show the whole largest on a screen.
 */

const GAP = 14
/** From the axis down to the first plank. */
const DROP = 46
/** From the axis up to the first: over the names of its days. */
const RISE = 62
/** From the centre's plank to the first day, and from the last one to what has none. */
const LEAD = 40
const WAIT = 90

/** How the drawing is best shaped, wide by high: as the tree’s part of a screen of 1280 by 800 is. */
const SHAPE = 1.72
/** Shares of the widest scale that are tried, while there are few enough branches to try them. */
const SCALES = [1.4, 1, 0.7, 0.5, 0.35]
const FEW = 150
/** How much larger the whole must be shown for the first branches to run back, and how many of them are tried at most. */
const WORTH = 0.85
const BACK = 8
/** Of how many hangings each branch tries the other side of the axis, while there are few enough branches for that. */
const BEST = 12
const FEWER = 24
/** How far what has no date steps aside, so that each one's line passes the others. */
const STEP = 14

/** What hangs from the axis. Lengths in canvas units. */
export interface Branch {
  readonly id: TopicId
  /** Units, days or hours, after the first of all; null for what has no date. */
  readonly at: number | null
  readonly size: Size
  /** How far a branch that runs on reaches from its plank's middle. */
  readonly extents: Extents
  /** Whether it can't run back, being laid out in a way of its own. */
  readonly runsOn: boolean
}

/** Where a branch hangs: its line at `x` of the axis, its plank's middle away from the middle of the centre. */
export interface Place {
  readonly x: number
  readonly dx: number
  readonly dy: number
  readonly direction: Direction
}

export interface Hanging {
  readonly perUnit: number
  /** Where the first day stands, and what has no date. */
  readonly start: number
  readonly waiting: number
  readonly places: ReadonlyMap<TopicId, Place>
  readonly extents: Extents
}

/** Which way branches hang: the share of the widest scale, which run back, and which are told to hang above or below. */
interface Way {
  readonly scale: number
  readonly back: ReadonlySet<TopicId>
  readonly above: ReadonlyMap<TopicId, boolean>
}
interface Tried {
  readonly way: Way
  readonly hanging: Hanging
  readonly size: number
}

export interface Axis {
  readonly root: Size
  /** Units from the first to the last. */
  readonly span: number
  /** Multipliers of the usual space. */
  readonly along: number
  readonly across: number
}

/** The hanging that shows the whole largest. `branches` in reading order. */
export function hangBest(branches: readonly Branch[], axis: Axis): Hanging {
  const attempt = (way: Way): Tried => {
    const hanging = hang(branches, axis, way)
    return { way, hanging, size: sizeOf(hanging.extents) }
  }
  const none: ReadonlySet<TopicId> = new Set()
  if (branches.length > FEW) return attempt({ scale: 0.5, back: none, above: new Map() }).hanging
  const atScales = (back: ReadonlySet<TopicId>): Tried[] =>
    SCALES.map(scale => attempt({ scale, back, above: new Map() }))
  // The nearest side isn't always the one that leaves the most room.
  const turnedOver = (one: Tried, { id }: Branch): Tried => {
    const above = new Map(one.way.above).set(id, one.hanging.places.get(id)!.dy > 0)
    const other = attempt({ ...one.way, above })
    return other.size < one.size ? other : one
  }
  const best = (tried: readonly Tried[]): Tried => {
    const bySize = tried.toSorted((a, b) => a.size - b.size)
    if (branches.length > FEWER) return bySize[0]!
    return bySize
      .slice(0, BEST)
      .map(one => [...branches, ...branches].reduce(turnedOver, one))
      .reduce((least, one) => (one.size < least.size ? one : least))
  }
  const plain = best(atScales(none))
  const back = new Set<TopicId>()
  const tried: Tried[] = []
  const dated = branches.filter(({ at }) => at !== null).sort((a, b) => a.at! - b.at!)
  for (const { id, runsOn } of dated.slice(0, Math.min(BACK, dated.length - 1))) {
    if (runsOn) break
    back.add(id)
    tried.push(...atScales(new Set(back)))
  }
  const turned = tried.length > 0 ? best(tried) : plain
  return (turned.size < plain.size * WORTH ? turned : plain).hanging
}

const sizeOf = ({ left, right, top, bottom }: Extents): number => Math.max((left + right) / SHAPE, top + bottom)

function hang(branches: readonly Branch[], { root, span, along, across }: Axis, { scale, back, above }: Way): Hanging {
  const dated = branches.filter(({ at }) => at !== null).length
  const perUnit = Math.min(140, Math.max(2.5, (260 * Math.max(1, dated) ** 0.75 * along * scale) / Math.max(1, span)))
  const start = root.width / 2 + LEAD
  const end = start + (dated > 0 ? span * perUnit : 0)
  const waiting = end + (dated > 0 ? WAIT : 0)
  let behind = 0
  const hung = branches.map((branch, i) => ({
    branch,
    i,
    x: branch.at === null ? waiting + STEP * behind++ : start + branch.at * perUnit,
  }))
  const order = [
    ...hung.filter(({ branch }) => !back.has(branch.id)).sort((a, b) => b.x - a.x || b.i - a.i),
    ...hung.filter(({ branch }) => back.has(branch.id)).sort((a, b) => a.x - b.x),
  ]
  const skies = { below: new Skyline(), above: new Skyline() }
  // What runs back passes the centre, too.
  for (const sky of [skies.below, skies.above]) sky.take(-root.width / 2, root.width / 2, root.height / 2 + GAP, 0)
  const places = new Map<TopicId, Place>()
  let [left, right, top, bottom] = [root.width / 2, Math.max(root.width / 2, end), root.height / 2, root.height / 2]
  for (const { branch, x } of order) {
    const { id, size } = branch
    const direction = back.has(id) ? 'left' : 'right'
    const reach = direction === 'left' ? mirrored(branch.extents) : branch.extents
    // A branch laid out in its own way may reach back beyond its plank: all of it stands behind its line, so that the
    // lines of earlier branches pass.
    const aside = direction === 'right' ? Math.max(0, reach.left - size.width / 2) : 0
    const dx = direction === 'right' ? x + size.width / 2 + aside : x - size.width / 2
    const from = dx - reach.left - (direction === 'right' ? 4 : GAP)
    const to = dx + reach.right + (direction === 'right' ? GAP : 4)
    const [under, over] = [skies.below.reach(from, to, DROP), skies.above.reach(from, to, RISE)]
    const up = above.get(id) ?? under - DROP > over - RISE
    skies[up ? 'above' : 'below'].take(from, to, reach.top + reach.bottom + GAP * across, up ? over : under)
    const dy = up ? -over - reach.bottom : under + reach.top
    places.set(id, { x, dx, dy, direction })
    left = Math.max(left, reach.left - dx)
    right = Math.max(right, reach.right + dx)
    top = Math.max(top, reach.top - dy)
    bottom = Math.max(bottom, reach.bottom + dy)
  }
  return { perUnit, start, waiting, places, extents: { left, right: right + 20, top, bottom } }
}

/** How far from the axis each stretch of it is taken. */
class Skyline {
  private pieces: { from: number; to: number; y: number }[] = []

  /** How far from the axis a stretch is free, `least` at least. */
  reach(from: number, to: number, least: number): number {
    let y = least
    for (const piece of this.pieces) if (piece.from < to && from < piece.to) y = Math.max(y, piece.y)
    return y
  }

  /** Takes room of a height over a stretch, from `y` on. */
  take(from: number, to: number, height: number, y: number): void {
    const kept: typeof this.pieces = []
    for (const piece of this.pieces) {
      if (piece.to <= from || piece.from >= to) {
        kept.push(piece)
        continue
      }
      if (piece.from < from) kept.push({ from: piece.from, to: from, y: piece.y })
      if (piece.to > to) kept.push({ from: to, to: piece.to, y: piece.y })
    }
    kept.push({ from, to, y: y + height })
    this.pieces = kept
  }
}
