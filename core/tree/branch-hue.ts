import type { Change } from './change'
import type { Topic, TopicId } from './topic'
import { childrenOf, swapTopic, topicOf, type Tree } from './tree'

/** How many hues the palette of a look has. */
export const HUES = 10

/** The palette's place that a main branch wears: the one somebody chose, else the one it was given; null for neither. */
function placeOfHue({ hue, branchHue }: Topic): number | null {
  return hue !== null && /^[0-9]$/.test(hue) ? Number(hue) : branchHue
}

/** The hue that is used least, the first of those in the palette's order. */
function leastUsed(used: readonly number[]): number {
  const counts = Array.from({ length: HUES }, (_, hue) => used.filter(one => one === hue).length)
  return counts.indexOf(Math.min(...counts))
}

/**
 * Changes with a colour for each topic that they make a main branch and that has none yet: the one used least. It stays
 * the branch's, wherever among the others it stands.
 */
export function withBranchHues(tree: Tree, changes: readonly Change[]): readonly Change[] {
  const isMain = (change: Change): boolean =>
    (change.op === 'add' || change.op === 'place') && change.parent === tree.centre
  if (!changes.some(isMain)) return changes
  const used = childrenOf(tree, tree.centre).flatMap(id => placeOfHue(topicOf(tree, id)) ?? [])
  const given = new Set<TopicId>()
  return changes.flatMap((change): Change[] => {
    if (!isMain(change) || (change.op !== 'add' && change.op !== 'place') || given.has(change.topic)) return [change]
    const topic = tree.topics.get(change.topic)
    if (change.op === 'place' && (!topic || topic.parent === tree.centre)) return [change]
    given.add(change.topic)
    // A copy brings the colour of its original along, and keeps it where that isn't here already.
    const own = change.op === 'add' ? (change.with?.branchHue ?? null) : topic!.branchHue
    const keeps = own !== null && (change.op === 'place' || !used.includes(own))
    const branchHue = keeps ? own : leastUsed(used)
    used.push(branchHue)
    if (keeps) return [change]
    return change.op === 'add'
      ? [{ ...change, with: { ...change.with, branchHue } }]
      : [change, { op: 'set', topic: change.topic, field: 'branchHue', value: branchHue }]
  })
}

/** Gives each main branch of a tree that nobody else has yet a colour of its own, in order. Alters the tree. */
export function giveBranchHues(tree: Tree): void {
  const mains = childrenOf(tree, tree.centre).map(id => topicOf(tree, id))
  const used = mains.flatMap(topic => placeOfHue(topic) ?? [])
  for (const topic of mains) {
    if (topic.branchHue !== null) continue
    const branchHue = placeOfHue(topic) ?? leastUsed(used)
    if (placeOfHue(topic) === null) used.push(branchHue)
    swapTopic(tree, topic.id, topic, { ...topic, branchHue })
  }
}
