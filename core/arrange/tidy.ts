/**
 * The tidy tree for planks of any size, in linear time, one branch at a time, so that a change costs its path to the root.
 *
 * Rule: van der Ploeg, "Drawing non-layered tidy trees in linear time", Software: Practice and Experience 44 (2014),
 * which extends Reingold and Tilford (1981). Where the paper threads contours through the tree, contours here are
 * persistent lists: a branch's own are never altered by those above it, and so can be kept between changes.
 *
 * Two axes: *along* runs from parent to child, *across* from sibling to sibling. Lengths are in canvas units.
 */

/** One step of a branch's outer edge. `edge` counts from the list's base; the rest of the list has its base moved by `shift`. */
interface Contour {
  readonly length: number
  readonly edge: number
  readonly next: Contour | null
  readonly shift: number
}

/** Children set beside each other. Everything across counts from the middle of the first child. */
export interface Forest {
  /** The middle of each child. */
  readonly offsets: Float64Array
  /** Where the parent's middle belongs: halfway between the outer edges of the first and the last child. */
  readonly middle: number
  readonly near: Contour | null
  readonly nearBase: number
  readonly far: Contour | null
  readonly farBase: number
  /** How far the forest reaches along. */
  readonly reach: number
  readonly low: number
  readonly high: number
}

/** A branch laid out. Everything across counts from its root's middle, along from its root's near end. */
export interface Branch {
  /** The root's size with the gaps that belong to it. */
  readonly along: number
  readonly across: number
  readonly forest: Forest | null
  readonly near: Contour
  readonly far: Contour
  readonly reach: number
  readonly low: number
  readonly high: number
}

/** A list of which earlier sibling reaches furthest: the index to share out space from, and how far it reaches. */
interface Reaches {
  readonly reach: number
  readonly index: number
  readonly next: Reaches | null
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
    end += at!.length
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

/** Sets branches beside each other in order, as close as their outlines allow, sharing out the space that a deep neighbour forces. */
export function beside(children: readonly Branch[]): Forest | null {
  const first = children[0]
  if (!first) return null
  const count = children.length
  const offsets = new Float64Array(count)
  const shifts = count > 2 ? new Float64Array(count) : null
  const changes = count > 2 ? new Float64Array(count) : null
  let near: Contour = first.near
  const nearBase = 0
  let far: Contour = first.far
  let farBase = 0
  let reach = first.reach
  let reaches: Reaches | null = { reach, index: 0, next: null }

  for (let i = 1; i < count; i++) {
    const child = children[i]!
    let left: Contour | null = far
    let leftBase = farBase
    let leftEnd = left.length
    let right: Contour | null = child.near
    let rightBase = offsets[i - 1]! + (children[i - 1]!.across + child.across) / 2
    let rightEnd = right.length
    let position = rightBase
    let known: Reaches | null = reaches
    while (left && right) {
      if (known!.next && leftEnd > known!.reach) known = known!.next
      const overlap = leftBase + left.edge - (rightBase + right.edge)
      if (overlap > 0) {
        rightBase += overlap
        position += overlap
        const between = i - known!.index
        if (between > 1 && shifts && changes) {
          const share = overlap / between
          shifts[known!.index + 1]! += share
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
        rightBase += right.shift
        right = right.next
        if (right) rightEnd += right.length
      }
    }
    offsets[i] = position
    if (child.reach > reach) {
      near = extend(near, nearBase, reach, child.near, position)
      far = child.far
      reach = child.reach
    }
    else {
      far = child.reach < reach ? extend(child.far, position, child.reach, far, farBase) : child.far
    }
    farBase = position
    while (reaches && child.reach >= reaches.reach) reaches = reaches.next
    reaches = { reach: child.reach, index: i, next: reaches }
  }

  if (shifts && changes) {
    let shiftSum = 0
    let changeSum = 0
    for (let i = 0; i < count; i++) {
      shiftSum += shifts[i]!
      changeSum += shiftSum + changes[i]!
      offsets[i]! += changeSum
    }
  }
  let low = Infinity
  let high = -Infinity
  for (let i = 0; i < count; i++) {
    const child = children[i]!
    if (offsets[i]! + child.low < low) low = offsets[i]! + child.low
    if (offsets[i]! + child.high > high) high = offsets[i]! + child.high
  }
  const middle = (offsets[count - 1]! + children[count - 1]!.across / 2 - first.across / 2) / 2
  return { offsets, middle, near, nearBase, far, farBase, reach, low, high }
}

/**
 * A root of the given size with its forest behind it. `gap` is the part of `along`, at its far end, where the bracket to the
 * children stands: from the first child's middle to the last one's, a little more for the width of its line.
 */
export function rooted(along: number, across: number, forest: Forest | null, gap = 0): Branch {
  const half = across / 2
  if (!forest) {
    return {
      along, across, forest, reach: along, low: -half, high: half,
      near: { length: along, edge: -half, next: null, shift: 0 },
      far: { length: along, edge: half, next: null, shift: 0 },
    }
  }
  let near: Contour = { length: along, edge: -half, next: forest.near, shift: forest.nearBase - forest.middle }
  let far: Contour = { length: along, edge: half, next: forest.far, shift: forest.farBase - forest.middle }
  if (gap > 0) {
    const first = Math.min(0, forest.offsets[0]! - forest.middle) - LINE
    const last = Math.max(0, forest.offsets[forest.offsets.length - 1]! - forest.middle) + LINE
    near = { length: along - gap, edge: -half, next: { ...near, length: gap, edge: first }, shift: 0 }
    far = { length: along - gap, edge: half, next: { ...far, length: gap, edge: last }, shift: 0 }
  }
  return {
    along, across, forest, near, far,
    reach: along + forest.reach,
    low: Math.min(-half, forest.low - forest.middle),
    high: Math.max(half, forest.high - forest.middle),
  }
}

/** Clear space on either side of a bracket's line. */
const LINE = 6
