import type { GroveOnlooker } from './grove'
import type { TopicId } from '../tree/topic'
import type { Onlooker, Placed, Tick } from './place'

/** Passes on what counts from the middle of a plank. */
export function fromMiddleOf(root: Placed, onlooker: Onlooker, frame: (placed: Placed) => void): GroveOnlooker {
  const [x, y] = [root.x + root.width / 2, root.y + root.height / 2]
  const axis =
    onlooker.axis &&
    ((at: number, from: number, to: number, ticks: readonly Tick[], of: TopicId): void =>
      onlooker.axis?.(at + y, from + x, to + x, x === 0 ? ticks : ticks.map(tick => ({ ...tick, x: tick.x + x })), of))
  if (x === 0 && y === 0) {
    return {
      frame,
      axis,
      plank: placed => onlooker.plank(placed),
      line: (owner, points) => onlooker.line(owner, points),
      block: (rect, id) => onlooker.block(rect, id),
    }
  }
  return {
    frame: placed => frame(moved(placed, root)),
    plank: placed => onlooker.plank(moved(placed, root)),
    line: (owner, points) =>
      onlooker.line(
        owner,
        points.map((value, i) => value + (i % 2 === 0 ? x : y)),
      ),
    block: (rect, id) => onlooker.block({ ...rect, x: rect.x + x, y: rect.y + y }, id),
    axis,
  }
}

/** A plank that counts from the middle of another. */
export function moved(placed: Placed, root: Placed): Placed {
  return { ...placed, x: placed.x + root.x + root.width / 2, y: placed.y + root.y + root.height / 2 }
}
