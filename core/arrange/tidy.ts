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

/*
 * Scratch of the one layout that is being made; it's done before the next begins. Written down once here, since allocating
 * anew for each branch would cost more than arranging it.
 */

/** Shares of space that children between two that push each other apart take, by their index (van der Ploeg, section 4.3). */
let shifts = new Float64Array(64)
let changes = new Float64Array(64)
let isShared = false

/** The outer edges of the children so far, counting across from the first child's middle. */
const edges = {
  near: null as Contour | null,
  far: null as Contour | null,
  /** Where the far edge's own list counts from. */
  farBase: 0,
  reach: 0,
}

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
  const half = (root.across + root.gapAcross) / 2
  root.low = -half
  root.high = half
  root.near = null
  root.far = null
  if (kids.length === 0) {
    root.kids = NO_KIDS
    root.reach = root.along + root.gapAlong
    return root
  }
  root.kids = kids
  standBesideEachOther(kids)
  if (isShared) shareOut(kids)
  const middle = centreOver(root, kids)
  root.reach = root.along + root.gapAlong + edges.reach
  if (bracket && root.gapAlong > 0) outlineWithBracket(root, kids, middle, half)
  else outline(root, middle, half)
  return root
}

/** Gives each child the place next to the ones before it, counting from the first, and joins their outer edges. */
function standBesideEachOther(kids: readonly Plot[]): void {
  const first = kids[0]!
  first.offset = 0
  edges.near = nearOf(first)
  edges.far = farOf(first)
  edges.farBase = 0
  edges.reach = first.reach
  isShared = false
  let reaches: Reaches = { reach: first.reach, index: 0, next: null }
  for (let i = 1; i < kids.length; i++) {
    const child = kids[i]!
    child.offset = clearPlace(kids, i, reaches)
    joinEdges(child)
    let further: Reaches | null = reaches
    while (further && child.reach >= further.reach) further = further.next
    reaches = { reach: child.reach, index: i, next: further }
  }
}

/**
 * The place of a child clear of all before it: their far edge and its near edge are walked together, step by step, and it
 * moves on wherever they overlap. What a deep sibling pushes it away is shared out among those between.
 */
function clearPlace(kids: readonly Plot[], i: number, reaches: Reaches): number {
  const child = kids[i]!
  const before = kids[i - 1]!
  let left = edges.far
  let leftBase = edges.farBase
  let leftEnd = left!.length
  // A plot without kids has one step and needs no list.
  const { near } = child
  let rightEdge = near ? near.edge : child.low
  let rightEnd = near ? near.length : child.reach
  let rightStep = near
  let rightBase = before.offset + (before.across + before.gapAcross + child.across + child.gapAcross) / 2
  let position = rightBase
  let known = reaches
  while (left) {
    if (known.next && leftEnd > known.reach) known = known.next
    const overlap = leftBase + left.edge - rightBase - rightEdge
    if (overlap > 0) {
      rightBase += overlap
      position += overlap
      if (i - known.index > 1) noteShare(kids.length, known.index, i, overlap)
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
  return position
}

/** Notes that children between `from` and `to` share what the one pushed the other away. */
function noteShare(count: number, from: number, to: number, overlap: number): void {
  if (!isShared) {
    isShared = true
    if (count > shifts.length) {
      shifts = new Float64Array(count * 2)
      changes = new Float64Array(count * 2)
    } else {
      shifts.fill(0, 0, count)
      changes.fill(0, 0, count)
    }
  }
  const share = overlap / (to - from)
  shifts[from + 1]! += share
  shifts[to]! -= share
  changes[to]! -= overlap - share
}

/** Moves children by the shares that were noted. */
function shareOut(kids: readonly Plot[]): void {
  let shift = 0
  let change = 0
  for (let i = 0; i < kids.length; i++) {
    shift += shifts[i]!
    change += shift + changes[i]!
    kids[i]!.offset += change
  }
}

/** Joins a child that has its place to the outer edges of those before it. */
function joinEdges(child: Plot): void {
  const { reach, offset } = child
  if (reach > edges.reach) {
    edges.near = extend(edges.near!, 0, edges.reach, nearOf(child), offset)
    edges.far = farOf(child)
    edges.reach = reach
  } else edges.far = reach < edges.reach ? extend(farOf(child), offset, reach, edges.far, edges.farBase) : farOf(child)
  edges.farBase = offset
}

/** Counts the children's places from their root's middle. Returns where that stood, from the first child's middle. */
function centreOver(root: Plot, kids: readonly Plot[]): number {
  const first = kids[0]!
  const last = kids[kids.length - 1]!
  const middle = (last.offset + (last.across + last.gapAcross) / 2 - (first.across + first.gapAcross) / 2) / 2
  for (let i = 0; i < kids.length; i++) {
    const child = kids[i]!
    child.offset -= middle
    if (child.offset + child.low < root.low) root.low = child.offset + child.low
    if (child.offset + child.high > root.high) root.high = child.offset + child.high
  }
  return middle
}

/** The root's outer edges: its own, and then its children's. */
function outline(root: Plot, middle: number, half: number): void {
  const length = root.along + root.gapAlong
  root.near = { length, edge: -half, next: edges.near, shift: -middle }
  root.far = { length, edge: half, next: edges.far, shift: edges.farBase - middle }
}

/** The same with the bracket between them, from the first child's middle to the last one's. */
function outlineWithBracket(root: Plot, kids: readonly Plot[], middle: number, half: number): void {
  const length = root.gapAlong
  const from = Math.min(0, kids[0]!.offset) - LINE
  const to = Math.max(0, kids[kids.length - 1]!.offset) + LINE
  const clearNear: Contour = { length, edge: from, next: edges.near, shift: -middle }
  const clearFar: Contour = { length, edge: to, next: edges.far, shift: edges.farBase - middle }
  root.near = { length: root.along, edge: -half, next: clearNear, shift: 0 }
  root.far = { length: root.along, edge: half, next: clearFar, shift: 0 }
}
