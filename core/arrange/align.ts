import type { Placed } from './place'

export type Line = 'left' | 'middle' | 'right' | 'top' | 'centre' | 'bottom'

/** By how much each plank has to move. */
export type Moves = ReadonlyMap<string, { readonly x: number; readonly y: number }>

/** Brings planks into line with one of them, the last one where none is named. */
export function align(planks: readonly Placed[], line: Line, anchor?: string): Moves {
  const last = planks.find(({ id }) => id === anchor) ?? planks.at(-1)
  const moves = new Map<string, { x: number; y: number }>()
  if (!last) return moves
  const at = (placed: Placed): number => {
    switch (line) {
      case 'left':
        return placed.x
      case 'middle':
        return placed.x + placed.width / 2
      case 'right':
        return placed.x + placed.width
      case 'top':
        return placed.y
      case 'centre':
        return placed.y + placed.height / 2
      case 'bottom':
        return placed.y + placed.height
    }
  }
  const sideways = line === 'left' || line === 'middle' || line === 'right'
  for (const placed of planks) {
    const by = at(last) - at(placed)
    if (by !== 0) moves.set(placed.id, sideways ? { x: by, y: 0 } : { x: 0, y: by })
  }
  return moves
}

/** Spreads three planks or more so that the gaps between them are equal; the outermost two stay. */
export function distribute(planks: readonly Placed[], way: 'across' | 'down'): Moves {
  const moves = new Map<string, { x: number; y: number }>()
  if (planks.length < 3) return moves
  const start = (placed: Placed): number => (way === 'across' ? placed.x : placed.y)
  const length = (placed: Placed): number => (way === 'across' ? placed.width : placed.height)
  const sorted = [...planks].sort((a, b) => start(a) + length(a) / 2 - start(b) - length(b) / 2)
  const first = sorted[0]!
  const last = sorted.at(-1)!
  const room = start(last) - start(first) - length(first)
  const gap = (room - sorted.slice(1, -1).reduce((sum, placed) => sum + length(placed), 0)) / (sorted.length - 1)
  let at = start(first) + length(first) + gap
  for (const placed of sorted.slice(1, -1)) {
    const by = at - start(placed)
    if (Math.abs(by) > 1e-9) moves.set(placed.id, way === 'across' ? { x: by, y: 0 } : { x: 0, y: by })
    at += length(placed) + gap
  }
  return moves
}
