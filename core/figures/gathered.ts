import type { TopicId } from '../tree/topic'
import type { Gathered } from './evaluate'
import type { Fixed } from './fixed'
import { type ListNode, NO_PART, type SumNode } from './nodes'
import type { Unit } from './units'
import { amount, type Cell, exactOf, Faulty, type Value } from './values'

/* What a list of topics' values comes to, for the functions of many values. */

/** Of all below, as it was summed up level by level. Throws `Faulty` where one of them can't be worked out. */
export function gatheredSum(node: SumNode, measures: ReadonlyMap<string, { readonly canonical: Unit }>): Gathered {
  if (node.fault) throw new Faulty(node.fault)
  const { count, total, least, most } = node.part ?? NO_PART
  const unit = measures.get(node.measure)!.canonical
  const value = (it: Fixed): Value => amount(exactOf(it), unit)
  return { count, sum: () => value(total), all: () => (count === 0 ? [] : [value(least!), value(most!)]) }
}

/** `at`: the figure whose formula gathers: a fault that arises in gathering is its own. Throws `Faulty` with it. */
export function gatheredList(node: ListNode, at: Cell): Gathered {
  if (node.fault)
    throw new Faulty(node.fault.at.measure === '' ? { ...node.fault, at, span: node.list.span } : node.fault)
  const all = [...(node.members ?? new Map<TopicId, { value: Value | null }>()).values()].flatMap(({ value }) =>
    value === null ? [] : [value],
  )
  return {
    count: all.length,
    sum() {
      let total: Value | null = null
      for (const value of all) total = total === null ? value : together(total, value, at)
      return total
    },
    all: () => all,
  }
}

/** Two values of a list added up. A day among them is told by whoever asked for the sum. */
function together(a: Value, b: Value, at: Cell): Value {
  if (a.kind !== 'amount') return a
  if (b.kind !== 'amount') return b
  if (!a.bare && !b.bare && a.unit !== b.unit) throw new Faulty({ kind: 'unit', a: a.unit, b: b.unit, what: 'add', at })
  return amount(a.n.plus(b.n), a.bare ? b.unit : a.unit, a.bare && b.bare)
}
