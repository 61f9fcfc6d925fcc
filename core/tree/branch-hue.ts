import type { Change } from './change'
import type { Topic, TopicId } from './topic'
import { childrenOf, swapTopic, topicOf, type Tree } from './tree'

/** How many hues the palette of a look has. */
const HUES = 10

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
 * The palette's place that each main branch wears. One that has none, since it was made outside a browser or in the time
 * before, wears what the others use least.
 */
export function wornHues(tree: Tree): Map<TopicId, number> {
  const mains = childrenOf(tree, tree.centre).map(id => topicOf(tree, id))
  const used = mains.flatMap(topic => placeOfHue(topic) ?? [])
  return new Map(
    mains.map(topic => {
      const given = placeOfHue(topic)
      const hue = given ?? leastUsed(used)
      if (given === null) used.push(hue)
      return [topic.id, hue]
    }),
  )
}

/**
 * A topic's colour as it's written down: its own, or the nearest above it, or what its main branch wears (`worn`, of
 * `wornHues`); null at the centre.
 */
export function chosenHue(tree: Tree, id: TopicId, worn: ReadonlyMap<TopicId, number>): string | null {
  for (let at = topicOf(tree, id); ; at = topicOf(tree, at.parent)) {
    if (at.hue !== null) return at.hue
    if (at.id === tree.centre) return null
    if (at.parent === null || at.parent === tree.centre) return String(worn.get(at.id) ?? 0)
  }
}

/**
 * Changes with a colour for each topic that they make a main branch and that has none yet: the one used least. It stays
 * the branch's, wherever among the others it stands.
 */
export function withBranchHues(tree: Tree, changes: readonly Change[]): readonly Change[] {
  const isMain = (change: Change): boolean =>
    (change.op === 'add' || change.op === 'place') && change.parent === tree.centre
  if (!changes.some(isMain)) return changes
  const used = [...wornHues(tree).values()]
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

/** Gives each main branch of a tree that nobody else has yet the colour it wears for its own. Alters the tree. */
export function giveBranchHues(tree: Tree): void {
  for (const [id, branchHue] of wornHues(tree)) {
    const topic = topicOf(tree, id)
    if (topic.branchHue === null) swapTopic(tree, id, topic, { ...topic, branchHue })
  }
}
