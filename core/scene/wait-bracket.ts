/* How a dependency is drawn: a bracket from the one bar to the other, all corners square, as brackets on the canvas are. */

interface End {
  readonly x: number
  readonly y: number
  /** Whether it leaves, or arrives, at the right end of a bar. */
  readonly out: boolean
}
/** How far a bracket stands off a bar before it turns, px. */
const OFF = 9

/** The path of a bracket, with a small head where it arrives. `row`: how high a row is. */
export function bracketBetween(from: End, to: End, row: number): string {
  const [a, b] = [from.out ? from.x + OFF : from.x - OFF, to.out ? to.x + OFF : to.x - OFF]
  const head = to.out ? `l 5 -4 m -5 4 l 5 4` : `l -5 -4 m 5 4 l -5 4`
  const arrives = `H ${to.x} ${head}`
  // Straight down where there's room; else round between the rows.
  const straight = from.out && !to.out ? a <= b : from.out === to.out
  if (straight) {
    const turn = from.out === to.out ? (from.out ? Math.max(a, b) : Math.min(a, b)) : a
    return `M ${from.x} ${from.y} H ${turn} V ${to.y} ${arrives}`
  }
  const between = to.y > from.y ? to.y - row / 2 : to.y + row / 2
  return `M ${from.x} ${from.y} H ${a} V ${between} H ${b} V ${to.y} ${arrives}`
}
