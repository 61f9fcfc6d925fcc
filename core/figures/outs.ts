import type { Node } from './nodes'

/*
 * What stands on a node: most have one or none, and a set for each of them would weigh more than all the rest. One is itself; from two on
 * it's a set.
 */

export type Outs = Node | Set<Node> | null

export function withOut(outs: Outs, node: Node): NonNullable<Outs> {
  if (outs === null || outs === node) return node
  if (outs instanceof Set) return outs.add(node)
  return new Set([outs, node])
}

export function withoutOut(outs: Outs, node: Node): Outs {
  if (outs instanceof Set) {
    outs.delete(node)
    return outs.size > 0 ? outs : null
  }
  return outs === node ? null : outs
}

export function* eachOut(outs: Outs): Generator<Node> {
  if (outs instanceof Set) yield* outs
  else if (outs !== null) yield outs
}
