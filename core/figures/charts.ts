import type { TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { branch } from '../tree/walk'
import type { Fixed } from './fixed'
import type { Figures } from './figures'

/* What charts of a branch show; the same numbers stand as a table beside them. */

export interface Part {
  /** Null: what the branch has of its own beyond its parts, or more than them. */
  readonly id: TopicId | null
  readonly title: string
  readonly value: Fixed
}

/** What a branch's children come to, in reading order; without those that have nothing. */
export function partsOfBranch(tree: Tree, figures: Figures, branchOf: TopicId, measure: string): Part[] {
  return childrenOf(tree, branchOf).flatMap((id): Part[] => {
    const { value } = figures.of(id, measure)
    return value === null ? [] : [{ id, title: topicOf(tree, id).title, value }]
  })
}

export interface Step extends Part {
  /** Where the bar begins and ends. */
  readonly from: Fixed
  readonly to: Fixed
  readonly kind: 'part' | 'rest' | 'whole'
}

/** From the parts to the whole, one after the other; what the parts don't come to is a step of its own. */
export function waterfall(
  parts: readonly Part[],
  whole: Fixed,
  words: { readonly all: string; readonly byItself: string },
): Step[] {
  const steps: Step[] = []
  let at = 0n
  for (const part of parts) {
    steps.push({ ...part, from: at, to: at + part.value, kind: 'part' })
    at += part.value
  }
  if (at !== whole)
    steps.push({ id: null, title: words.byItself, value: whole - at, from: at, to: whole, kind: 'rest' })
  steps.push({ id: null, title: words.all, value: whole, from: 0n, to: whole, kind: 'whole' })
  return steps
}

export interface Nested {
  readonly id: TopicId
  readonly title: string
  readonly value: Fixed
  readonly children: readonly Nested[]
}

/** A branch as parts in parts, so many levels down; only what is above zero has a share. */
export function nestedParts(tree: Tree, figures: Figures, at: TopicId, measure: string, levels: number): Nested | null {
  const { value } = figures.of(at, measure)
  if (value === null || value <= 0n) return null
  const children =
    levels === 0 ? [] : childrenOf(tree, at).flatMap(id => nestedParts(tree, figures, id, measure, levels - 1) ?? [])
  return { id: at, title: topicOf(tree, at).title, value, children }
}

export interface Day {
  readonly day: string
  readonly value: Fixed
  /** With all before it. */
  readonly total: Fixed
}

/**
 * What comes by which day: figures that stand on their own, by the day on which their topic ends. What lies below one that has its own
 * isn't counted again. `without`: the sum of those that have no day.
 */
export function overTime(
  tree: Tree,
  figures: Figures,
  at: TopicId,
  measure: string,
  dayOf: (id: TopicId) => string | null,
): { readonly days: readonly Day[]; readonly without: Fixed } {
  const byDay = new Map<string, Fixed>()
  let without = 0n
  const stack: { readonly id: TopicId; readonly day: string | null }[] = [{ id: at, day: null }]
  while (stack.length > 0) {
    const { id, day } = stack.pop()!
    const own = dayOf(id) ?? day
    const result = figures.of(id, measure)
    if (result.own && id !== at) {
      if (result.value === null) continue
      if (own === null) without += result.value
      else byDay.set(own, (byDay.get(own) ?? 0n) + result.value)
      continue
    }
    for (const child of childrenOf(tree, id)) stack.push({ id: child, day: own })
  }
  let total = 0n
  const days = [...byDay]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([day, value]) => ({ day, value, total: (total += value) }))
  return { days, without }
}

/** Topics of a branch whose figure is another under a what-if, in reading order. */
export function differing(
  tree: Tree,
  at: TopicId,
  measure: string,
  asIs: Figures,
  others: readonly Figures[],
): TopicId[] {
  const found: TopicId[] = []
  for (const { id } of branch(tree, at)) {
    const { value } = asIs.of(id, measure)
    if (others.some(other => other.of(id, measure).value !== value)) found.push(id)
  }
  return found
}
