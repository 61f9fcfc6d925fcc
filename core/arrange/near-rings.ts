import type { TopicId } from '../tree/topic'

/*
 * Rings as near as they go. Each group of siblings stands on an arc about the centre of its own, which is as small as what
 * lies inside it allows at the heights that the group takes, so that one wide plank doesn't push away what stands elsewhere.
 *
 * Groups are placed level by level, each beyond all that was placed before at any height it takes: its bracket's as well
 * as its planks'. So of two things at one height the later is further out, and neither planks nor brackets can meet. That
 * rests on the heights: in a layered tidy tree what one branch has on a level lies wholly above or below what another
 * has there.
 */

/** An arc about the centre: on `radius` stand the near ends of planks, on `rim` runs their bracket. In canvas units. */
export interface Ring {
  readonly radius: number
  readonly rim: number
}

/** A branch with its height from the centre settled. */
export interface Standing {
  readonly id: TopicId
  readonly y: number
  /** Its drawing, with a frame of its own or not. */
  readonly width: number
  readonly height: number
  readonly kids: readonly Standing[]
}

export interface Nearness {
  /** How far up and down an arc is used: the sine of the steepest angle. */
  readonly used: number
  /** Clear space between a plank and what stands on the next ring out, and between planks above one another. */
  readonly gap: number
  readonly apart: number
}

/** Long brackets are taken piece by piece, each as far out as it bulges there. */
const PIECE = 24

/**
 * The ring of each group on one side, by the topic it hangs from (the centre's by `root`'s id). Linear in topics but for
 * finding a place in a sorted list.
 */
export function nearRings(
  root: { readonly id: TopicId; readonly width: number; readonly height: number },
  mains: readonly Standing[],
  { used, gap, apart }: Nearness,
): ReadonlyMap<TopicId, Ring> {
  const rings = new Map<TopicId, Ring>()
  const edge = new Edge()
  edge.take(-root.height / 2 - apart, root.height / 2 + apart, root.width / 2)
  let level: { readonly id: TopicId; readonly y: number; readonly kids: readonly Standing[] }[] = [
    { id: root.id, y: 0, kids: mains },
  ]
  while (level.length > 0) {
    const next: typeof level = []
    for (const { id, y, kids } of level) {
      if (kids.length === 0) continue
      const ring = ringOf(kids, y, edge, { used, gap, apart })
      rings.set(id, ring)
      kids.forEach((kid, i) => {
        const half = kid.height / 2 + apart
        edge.take(kid.y - half, kid.y + half, acrossAt(ring.radius, kid.y) + kid.width)
        const after = kids[i + 1]
        if (after) takeArc(edge, ring.rim, kid.y + half, after.y - after.height / 2 - apart)
        next.push(kid)
      })
    }
    level = next
  }
  return rings
}

/** How far out an arc is at a height. */
export const acrossAt = (radius: number, y: number): number => Math.sqrt(Math.max(0, radius ** 2 - y ** 2))

function ringOf(kids: readonly Standing[], y: number, edge: Edge, { used, gap }: Nearness): Ring {
  const ys = [y, kids[0]!.y, kids.at(-1)!.y]
  let rim = edge.rimBeyond(Math.min(...ys) - 1, Math.max(...ys) + 1, gap / 2)
  let radius = rim + gap / 2
  for (const kid of kids) {
    const [half, far] = [kid.height / 2, Math.abs(kid.y)]
    radius = Math.max(radius, far / used, Math.hypot(far, edge.reach(kid.y - half, kid.y + half) + gap))
    // The bracket goes by the plank's corner that is nearer to the middle, where it bulges further out.
    radius = Math.max(radius, Math.sqrt(rim ** 2 + far * kid.height))
  }
  rim = radius - gap / 2
  for (const kid of kids) rim = Math.min(rim, Math.sqrt(radius ** 2 - Math.abs(kid.y) * kid.height))
  return { radius, rim }
}

function takeArc(edge: Edge, rim: number, from: number, to: number): void {
  for (let at = from; at < to; at += PIECE) {
    const end = Math.min(to, at + PIECE)
    edge.take(at, end, acrossAt(rim, at < 0 && end > 0 ? 0 : Math.min(Math.abs(at), Math.abs(end))))
  }
}

interface Piece {
  readonly from: number
  readonly to: number
  readonly x: number
}

/** How far out each height is taken: pieces in order from the top, none over another. */
class Edge {
  private pieces: Piece[] = []

  /** The furthest over a stretch of heights; 0 where nothing is. */
  reach(from: number, to: number): number {
    let x = 0
    for (const piece of this.over(from, to)) x = Math.max(x, piece.x)
    return x
  }

  /** The least radius of an arc that passes clear of all over a stretch of heights. */
  rimBeyond(from: number, to: number, clear: number): number {
    let rim = clear
    for (const piece of this.over(from, to)) {
      const y = Math.max(Math.abs(Math.max(from, piece.from)), Math.abs(Math.min(to, piece.to)))
      rim = Math.max(rim, Math.hypot(y, piece.x + clear))
    }
    return rim
  }

  take(from: number, to: number, x: number): void {
    if (to <= from) return
    const start = this.indexAt(from)
    const fresh: Piece[] = []
    let at = from
    let i = start
    for (; i < this.pieces.length && this.pieces[i]!.from < to; i++) {
      const piece = this.pieces[i]!
      if (piece.from < from) fresh.push({ ...piece, to: from })
      if (at < piece.from) fresh.push({ from: at, to: piece.from, x })
      const [low, high] = [Math.max(from, piece.from), Math.min(to, piece.to)]
      fresh.push({ from: low, to: high, x: Math.max(x, piece.x) })
      if (piece.to > to) fresh.push({ ...piece, from: to })
      at = high
    }
    if (at < to) fresh.push({ from: at, to, x })
    this.pieces.splice(start, i - start, ...fresh)
  }

  private *over(from: number, to: number): Generator<Piece> {
    for (let i = this.indexAt(from); i < this.pieces.length && this.pieces[i]!.from < to - NEAR; i++)
      if (this.pieces[i]!.to > from + NEAR) yield this.pieces[i]!
  }

  /** The first piece that ends beyond a height. */
  private indexAt(y: number): number {
    let [low, high] = [0, this.pieces.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (this.pieces[middle]!.to > y) high = middle
      else low = middle + 1
    }
    return low
  }
}

/** Sums of lengths that come out beside one another by rounding. */
const NEAR = 1e-6
