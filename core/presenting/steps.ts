import { childrenOf, inReadingOrder, isLive, pathTo, topicOf, type TopicId, type Tree } from '../tree'

/*
 * Presenting a tree is going through its branches one by one. What a step shows can be taken in at a glance: a branch of a
 * few topics is opened whole; a larger one shows what lies right below it, and its branches have steps of their own.
 */

/** How many topics a step opens whole. What an eye takes in on a projector is common practice, without a source. */
export const AT_A_GLANCE = 15

/** One step: the branch that is shown, and how far it's opened. */
export interface Step {
  readonly topic: TopicId
  /** `whole`: everything below it that isn't in an annex; `parts`: its children alone, folded. */
  readonly opens: 'whole' | 'parts'
  /** The branch that is shown alone meanwhile: the annex that the topic stands in or opens; null for the whole tree. */
  readonly in: TopicId | null
}

/** How many topics a branch shows with everything opened: what is in annexes stays there. Counts no further than `most` + 1. */
function shownSize(tree: Tree, top: TopicId, most: number): number {
  const open = [top]
  let size = 0
  for (let id = open.pop(); id !== undefined && size <= most; id = open.pop()) {
    size++
    if (id === top || !topicOf(tree, id).annex) open.push(...childrenOf(tree, id))
  }
  return size
}

/** The annex that a topic stands in, below `root`; `root` itself where it's another than the centre; null in the tree. */
function roomOf(tree: Tree, id: TopicId, root: TopicId): TopicId | null {
  for (let at = topicOf(tree, id).parent; at !== null && at !== tree.centre; at = topicOf(tree, at).parent)
    if (topicOf(tree, at).annex || at === root) return at
  return null
}

/** One step as it stands in the tree, whether it's read there or was picked. */
function stepAt(tree: Tree, topic: TopicId, root: TopicId): Step {
  const isRoot = topic === root
  const { annex } = topicOf(tree, topic)
  return {
    topic,
    // The first step says what there is; every main branch has its own.
    opens: !isRoot && shownSize(tree, topic, AT_A_GLANCE) <= AT_A_GLANCE ? 'whole' : 'parts',
    in: topic !== tree.centre && (annex || isRoot) ? topic : roomOf(tree, topic, root),
  }
}

/**
 * The steps in which a tree, or the branch `root` of it, is presented: in the order that was picked, without what has been
 * removed since; else in reading order, the centre first and loose topics last. There is always one.
 */
export function stepsOf(tree: Tree, root: TopicId = tree.centre): readonly Step[] {
  const picked = pickedSteps(tree).filter(id => root === tree.centre || isBelow(tree, id, root))
  if (picked.length > 0) return picked.map(id => stepAt(tree, id, root))
  const steps: Step[] = []
  /** Branches that are still to be gone through, the next one last. */
  const open: TopicId[] = root === tree.centre ? childrenOf(tree, null).toReversed() : []
  open.push(root)
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    const step = stepAt(tree, id, root)
    steps.push(step)
    const below =
      step.opens === 'whole'
        ? annexesIn(tree, id)
        : childrenOf(tree, id).filter(child => id === root || childrenOf(tree, child).length > 0)
    open.push(...below.toReversed())
  }
  return steps
}

/** The steps through some topics alone, as a filter or a selection leaves them: the centre first, then each in reading order. */
export function stepsThrough(tree: Tree, topics: readonly TopicId[]): readonly Step[] {
  const some = inReadingOrder(
    tree,
    topics.filter(id => id !== tree.centre && isLive(tree, id)),
  )
  return [tree.centre, ...some].map(id => stepAt(tree, id, tree.centre))
}

/** What was picked and is still there, in its order. */
export function pickedSteps(tree: Tree): TopicId[] {
  return [...tree.fields.steps]
    .filter(({ id }) => isLive(tree, id))
    .sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : a.id < b.id ? -1 : 1))
    .map(({ id }) => id)
}

/** The annexes that a branch leads to, in reading order, without those inside of them. */
function annexesIn(tree: Tree, top: TopicId): TopicId[] {
  const found: TopicId[] = []
  const open = childrenOf(tree, top).toReversed()
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    if (topicOf(tree, id).annex) {
      if (childrenOf(tree, id).length > 0) found.push(id)
    } else open.push(...childrenOf(tree, id).toReversed())
  }
  return found
}

function isBelow(tree: Tree, id: TopicId, root: TopicId): boolean {
  for (let at: TopicId | null = id; at !== null; at = topicOf(tree, at).parent) if (at === root) return true
  return false
}

/** What a step has in sight, the branch's own topic first: it's what the view is fitted to. */
export function inSightOf(tree: Tree, step: Step): TopicId[] {
  if (step.opens === 'parts') return [step.topic, ...childrenOf(tree, step.topic)]
  const seen: TopicId[] = []
  const open = [step.topic]
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    seen.push(id)
    if (id === step.topic || !topicOf(tree, id).annex) open.push(...childrenOf(tree, id).toReversed())
  }
  return seen
}

/**
 * What is folded (true) and opened while a step is shown. However one came to it, it looks the same: the way to it is open, and what
 * stands beside the way is folded.
 */
export function foldsOf(tree: Tree, step: Step): Map<TopicId, boolean> {
  const folds = new Map<TopicId, boolean>()
  const isBranch = (id: TopicId): boolean => childrenOf(tree, id).length > 0
  const way = pathTo(tree, step.topic).map(({ id }) => id)
  for (const [i, above] of way.slice(0, -1).entries()) {
    if (!topicOf(tree, above).annex) folds.set(above, false)
    for (const beside of childrenOf(tree, above)) if (beside !== way[i + 1] && isBranch(beside)) folds.set(beside, true)
  }
  for (const id of inSightOf(tree, step)) if (isBranch(id)) folds.set(id, step.opens === 'parts' && id !== step.topic)
  return folds
}

/** The place of the step that a topic belongs to: its own, or that of the nearest branch above it. -1 where it's in none. */
export function stepOf(tree: Tree, steps: readonly Step[], topic: TopicId): number {
  const places = new Map(steps.map((step, i) => [step.topic, i]))
  for (let at: TopicId | null = topic; at !== null; at = tree.topics.get(at)?.parent ?? null)
    if (places.has(at)) return places.get(at)!
  return -1
}
