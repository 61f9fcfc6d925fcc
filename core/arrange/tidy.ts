/**
 * The tidy tree for planks of any size, in linear time, one branch at a time, so that a change costs its path to the
 * root.
 *
 * Rule: van der Ploeg, "Drawing non-layered tidy trees in linear time", Software: Practice and Experience 44 (2014),
 * which extends Reingold and Tilford (1981). Where the paper threads contours through the tree, contours here are
 * persistent lists: a branch's own are never altered by those above it, and so can be kept between changes.
 *
 * Two axes: *along* runs from parent to child, *across* from sibling to sibling. Lengths are in canvas units.
 */

/**
 * One step of a branch's outer edge. `edge` counts from the list's base; the rest of the list has its base moved by
 * `shift`.
 */
interface Contour {
  readonly length: number
  readonly edge: number
  readonly next: Contour | null
  readonly shift: number
}

/**
 * A branch laid out. Everything across counts from its root's middle, everything along from its root's near end.
 * Kept and laid out again in place: allocating anew would cost more than arranging.
 */
export interface Plot {
  /** Whatever the caller knows it by. */
  readonly id: string
  /** The plank's own size. */
  along: number
  across: number
  /** Clear space behind it, where the bracket to its children stands, and between it and its siblings. */
  gapAlong: number
  gapAcross: number
  kids: readonly Plot[]
  /** The middle of this plot, from the middle of its parent; set when the parent is laid out. */
  offset: number
  /** The outer edges; a plot without kids has plain ones, which are written down only when somebody asks. */
  near: Contour | null
  far: Contour | null
  reach: number
  low: number
  high: number
  /** For whoever keeps plots: whether this one is laid out as things are now, */
  fresh: boolean
  /** which way its branch runs, */
  direction: 'right' | 'left' | 'down'
  /** and whether what hangs from it is a frame of its own, with its plank `lead` behind the near end. */
  framed: boolean
  lead: number
}

const NO_KIDS: readonly Plot[] = []

export function newPlot(id: string): Plot {
  return {
    id,
    along: 0,
    across: 0,
    gapAlong: 0,
    gapAcross: 0,
    kids: NO_KIDS,
    offset: 0,
    near: null,
    far: null,
    reach: 0,
    low: 0,
    high: 0,
    fresh: false,
    direction: 'right',
    framed: false,
    lead: 0,
  }
}

function nearOf(at: Plot): Contour {
  return (at.near ??= { length: at.reach, edge: at.low, next: null, shift: 0 })
}

function farOf(at: Plot): Contour {
  return (at.far ??= { length: at.reach, edge: at.high, next: null, shift: 0 })
}

/** A list of which earlier sibling reaches furthest: the index to share out space from, and how far it reaches. */
interface Reaches {
  readonly reach: number
  readonly index: number
  readonly next: Reaches | null
}

/** Clear space on either side of a bracket's line. */
const LINE = 6

/** Scratch for sharing out space; a forest is done with it before the next one begins. */
let shifts = new Float64Array(64)
let changes = new Float64Array(64)

/** Copies `head` (which ends at `headEnd`) and hangs on it what of `tail` lies beyond that end. */
function extend(head: Contour, headBase: number, headEnd: number, tail: Contour | null, tailBase: number): Contour {
  let at = tail
  let base = tailBase
  let end = at!.length
  // The lengths are sums, so the last step counts as reaching far enough whatever rounding says.
  while (end <= headEnd && at!.next) {
    base += at!.shift
    at = at!.next
    end += at.length
  }
  if (!head.next) {
    const beyond: Contour = { length: Math.max(0, end - headEnd), edge: at!.edge, next: at!.next, shift: at!.shift }
    return { length: head.length, edge: head.edge, next: beyond, shift: base - headBase }
  }
  const copied: Contour[] = []
  let last = head
  let lastBase = headBase
  for (;;) {
    copied.push(last)
    if (!last.next) break
    lastBase += last.shift
    last = last.next
  }
  let rest: Contour = { length: Math.max(0, end - headEnd), edge: at!.edge, next: at!.next, shift: at!.shift }
  let shift = base - lastBase
  for (let i = copied.length - 1; i >= 0; i--) {
    const step = copied[i]!
    rest = { length: step.length, edge: step.edge, next: rest, shift: i === copied.length - 1 ? shift : step.shift }
    shift = step.shift
  }
  return rest
}

/**
 * Lays out a root, whose size is set, with its branches beside each other in order, as close as their outlines allow,
 * sharing out the space that a deep neighbour forces; the root stands halfway between the outer edges of its first and
 * last child. With `bracket`, the space between root and children is kept clear from the first child's middle to the
 * last one's.
 */
export function layOut(root: Plot, kids: readonly Plot[], bracket = false): Plot {
  const { along, gapAlong } = root
  const half = (root.across + root.gapAcross) / 2
  const whole = along + gapAlong
  const count = kids.length
  root.low = -half
  root.high = half
  root.near = null
  root.far = null
  if (count === 0) {
    root.kids = NO_KIDS
    root.reach = whole
    return root
  }
  root.kids = kids
  const first = kids[0]!
  first.offset = 0
  let near = nearOf(first)
  let far = farOf(first)
  let farBase = 0
  let reach = first.reach
  if (count > 1) {
    let reaches: Reaches | null = { reach, index: 0, next: null }
    if (count > shifts.length) {
      shifts = new Float64Array(count * 2)
      changes = new Float64Array(count * 2)
    }
    let shared = false
    let before = first
    for (let i = 1; i < count; i++) {
      const child = kids[i]!
      let left: Contour | null = far
      let leftBase = farBase
      let leftEnd = left.length
      // The child's near edge, step by step; a plot without kids has one step and needs no list.
      const { near: outline } = child
      let rightEdge = outline ? outline.edge : child.low
      let rightEnd = outline ? outline.length : child.reach
      let rightStep = outline
      let rightBase = before.offset + (before.across + before.gapAcross + child.across + child.gapAcross) / 2
      let position = rightBase
      let known: Reaches = reaches!
      while (left) {
        if (known.next && leftEnd > known.reach) known = known.next
        const overlap: number = leftBase + left.edge - rightBase - rightEdge
        if (overlap > 0) {
          rightBase += overlap
          position += overlap
          const between = i - known.index
          if (between > 1) {
            if (!shared) {
              shared = true
              shifts.fill(0, 0, count)
              changes.fill(0, 0, count)
            }
            const share = overlap / between
            shifts[known.index + 1]! += share
            shifts[i]! -= share
            changes[i]! -= overlap - share
          }
        }
        const leftWas = leftEnd
        if (leftEnd <= rightEnd) {
          leftBase += left.shift
          left = left.next
          if (left) leftEnd += left.length
        }
        if (leftWas >= rightEnd) {
          if (!rightStep?.next) break
          rightBase += rightStep.shift
          rightStep = rightStep.next
          rightEdge = rightStep.edge
          rightEnd += rightStep.length
        }
      }
      child.offset = position
      if (child.reach > reach) {
        near = extend(near, 0, reach, nearOf(child), position)
        far = farOf(child)
        reach = child.reach
      } else {
        far = child.reach < reach ? extend(farOf(child), position, child.reach, far, farBase) : farOf(child)
      }
      farBase = position
      while (reaches && child.reach >= reaches.reach) reaches = reaches.next
      reaches = { reach: child.reach, index: i, next: reaches }
      before = child
    }
    if (shared) {
      let shiftSum = 0
      let changeSum = 0
      for (let i = 0; i < count; i++) {
        shiftSum += shifts[i]!
        changeSum += shiftSum + changes[i]!
        kids[i]!.offset += changeSum
      }
    }
  }
  const last = kids[count - 1]!
  const middle = (last.offset + (last.across + last.gapAcross) / 2 - (first.across + first.gapAcross) / 2) / 2
  for (let i = 0; i < count; i++) {
    const child = kids[i]!
    child.offset -= middle
    if (child.offset + child.low < root.low) root.low = child.offset + child.low
    if (child.offset + child.high > root.high) root.high = child.offset + child.high
  }
  root.reach = whole + reach
  if (bracket && gapAlong > 0) {
    const clearNear: Contour = { length: gapAlong, edge: Math.min(0, first.offset) - LINE, next: near, shift: -middle }
    const clearFar: Contour = {
      length: gapAlong,
      edge: Math.max(0, last.offset) + LINE,
      next: far,
      shift: farBase - middle,
    }
    root.near = { length: along, edge: -half, next: clearNear, shift: 0 }
    root.far = { length: along, edge: half, next: clearFar, shift: 0 }
  } else {
    root.near = { length: whole, edge: -half, next: near, shift: -middle }
    root.far = { length: whole, edge: half, next: far, shift: farBase - middle }
  }
  return root
}
