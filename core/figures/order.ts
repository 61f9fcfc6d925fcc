import type { Node } from './nodes'

/** What a walk needs to know of nodes, and does to them. */
export interface Worked {
  standsOn(node: Node): readonly Node[]
  /** Takes at once what waits for nothing. */
  isPlainNumber(node: Node): boolean
  work(node: Node): void
  loop(nodes: readonly Node[]): void
}

/** Nodes come upon so far, on and on, so that those of an earlier walk count for nothing. */
let count = 0

/**
 * Works out a node and all that it waits for: by Tarjan's strongly connected components (R. Tarjan, “Depth-first search and linear
 * graph algorithms”, SIAM J. Comput. 1972), which come out with what they stand on before them, and loops as what has more than one
 * member. Without recursion: a chain may be as long as the tree is large.
 */
export function workOut(first: Node, by: Worked): void {
  if (!first.dirty || by.isPlainNumber(first)) return
  const standsOn = by.standsOn(first)
  // Most wait for nothing.
  if (standsOn.every(node => !node.dirty)) return by.work(first)
  const waiting: Node[] = []
  const calls: { readonly node: Node; readonly on: readonly Node[]; next: number }[] = []
  const from = count
  const enter = (node: Node, on = by.standsOn(node)): void => {
    node.index = node.low = ++count
    node.waits = true
    waiting.push(node)
    calls.push({ node, on, next: 0 })
  }
  enter(first, standsOn)
  while (calls.length > 0) {
    const call = calls[calls.length - 1]!
    const { node, on } = call
    if (call.next < on.length) {
      const next = on[call.next++]!
      if (!next.dirty || by.isPlainNumber(next)) continue
      if (next.index <= from) enter(next)
      else if (next.waits && next.index < node.low) node.low = next.index
      continue
    }
    calls.pop()
    const above = calls[calls.length - 1]?.node
    if (above && node.low < above.low) above.low = node.low
    if (node.low !== node.index) continue
    const last = waiting.pop()!
    last.waits = false
    if (last === node && !on.includes(node)) {
      by.work(node)
      continue
    }
    const members: Node[] = [last]
    while (members[members.length - 1] !== node) {
      const member = waiting.pop()!
      member.waits = false
      members.push(member)
    }
    by.loop(members)
  }
}
