import type { Node } from './nodes'

/*
 * What stands on a node: most have one or none, and a set for each of them would weigh more than all the rest. One is itself, a few are
 * a list, many a set.
 */

export type Outs = Node | readonly Node[] | Set<Node> | null

/** From so many on they're found more quickly in a set. */
const MANY = 9

export function withOut(outs: Outs, node: Node): NonNullable<Outs> {
  if (outs === null || outs === node) return node
  if (outs instanceof Set) return outs.add(node)
  if (!isList(outs)) return [outs, node]
  if (outs.includes(node)) return outs
  return outs.length + 1 < MANY ? [...outs, node] : new Set(outs).add(node)
}

export function withoutOut(outs: Outs, node: Node): Outs {
  if (outs instanceof Set) {
    outs.delete(node)
    return outs.size > 0 ? outs : null
  }
  if (outs === null || !isList(outs)) return outs === node ? null : outs
  const left = outs.filter(one => one !== node)
  return left.length > 0 ? left : null
}

export function* eachOut(outs: Outs): Generator<Node> {
  if (outs === null) return
  if (outs instanceof Set || isList(outs)) yield* outs
  else yield outs
}

const isList = (outs: Node | readonly Node[]): outs is readonly Node[] => Array.isArray(outs)
