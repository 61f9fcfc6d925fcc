import { type FormulaNames, type Piece, piecesTyped } from './parse'
import type { Span } from './values'

/** A part of what is typed, of one kind; a null one has no colour of its own. */
export interface ColouredPart {
  readonly text: string
  readonly kind: Piece['kind'] | null
  /** Whether it's the very thing that can't be understood. */
  readonly wrong: boolean
}

/**
 * What is typed for a figure, cut where its colour changes. `names`: null for what is no formula. Of pieces in one another the inner one
 * counts. What is wrong with nothing typed there yet is a space behind the rest.
 */
export function colouredParts(typed: string, names: FormulaNames | null, wrong: Span | null): ColouredPart[] {
  const kinds = Array.from<Piece['kind'] | null>({ length: typed.length }).fill(null)
  if (names) {
    const from = typed.indexOf('=') + 1
    const pieces = [...piecesTyped(typed.slice(from), names)].sort((a, b) => b.to - b.from - (a.to - a.from))
    for (const piece of pieces) kinds.fill(piece.kind, piece.from + from, piece.to + from)
  }
  const parts: ColouredPart[] = []
  let start = 0
  const isWrong = (at: number): boolean => wrong !== null && at >= wrong.from && at < wrong.to
  for (let at = 1; at <= typed.length; at++) {
    if (at < typed.length && kinds[at] === kinds[start] && isWrong(at) === isWrong(start)) continue
    parts.push({ text: typed.slice(start, at), kind: kinds[start]!, wrong: isWrong(start) })
    start = at
  }
  if (wrong && wrong.from >= typed.length) parts.push({ text: ' ', kind: null, wrong: true })
  return parts
}
