import { type Change, isTreeChange, type TopicChange, type TreeChange } from './change'
import { type Member, memberKey, type SetName } from './sets'
import { undoNote } from './note'
import type { TreeFields } from './tree-fields'
import type { Patch } from './apply'
import type { Topic, TopicId } from './topic'
import { childrenOf, isLive, type Tree } from './tree'

/**
 * The change that takes `change` back, given what it replaced. Nothing for a change that did nothing. Note text is taken
 * back by content, and merges with whatever others have typed.
 */
export function invert(change: Change, patch: Patch): Change | null {
  if (isTreeChange(change)) return invertTree(change, patch.fields!)
  const { before, after } = patch
  if (before === after) return null
  switch (change.op) {
    case 'add':
      return { op: 'remove', topic: change.topic }
    case 'remove':
      return { op: 'restore', topic: change.topic }
    case 'restore':
      return { op: 'remove', topic: change.topic }
    case 'place':
      return { op: 'place', topic: change.topic, parent: before!.parent, order: before!.order }
    case 'set':
      return { op: 'set', topic: change.topic, field: change.field, value: before![change.field] } as Change
    case 'put': {
      const key = memberKey(change.member)
      const old = memberOf(before!, change.set, key)
      return old === undefined
        ? { op: 'take', topic: change.topic, set: change.set, member: key }
        : ({ op: 'put', topic: change.topic, set: change.set, member: old } as Change)
    }
    case 'take':
      return {
        op: 'put',
        topic: change.topic,
        set: change.set,
        member: memberOf(before!, change.set, change.member)!,
      } as Change
    case 'note': {
      const update = undoNote(before!.note, change.update)
      return update === null ? null : { op: 'note', topic: change.topic, update }
    }
  }
}

function invertTree(change: TreeChange, before: TreeFields): Change | null {
  if (change.op === 'tree') return { op: 'tree', field: change.field, value: before[change.field] } as Change
  const key = change.op === 'tree-put' ? change.member.id : change.member
  const old = treeValue(before, change)
  if (old !== undefined) return { op: 'tree-put', set: change.set, member: old } as Change
  return change.op === 'tree-put' ? { op: 'tree-take', set: change.set, member: key } : null
}

/** What the tree has where a change of it writes. */
function treeValue(fields: TreeFields, change: TreeChange): unknown {
  if (change.op === 'tree') return fields[change.field]
  const key = change.op === 'tree-put' ? change.member.id : change.member
  return fields[change.set].find(member => member.id === key)
}

function memberOf(topic: Topic, set: SetName, key: string): Member | undefined {
  return (topic[set] as readonly Member[]).find(member => memberKey(member) === key)
}

/** The inverse of an edit, the last change first. */
export function invertAll(changes: readonly Change[], patches: readonly Patch[]): Change[] {
  return changes
    .map((change, i) => invert(change, patches[i]!))
    .filter(change => change !== null)
    .reverse()
}

/**
 * Why a topic stays as it is though its undo was asked for. `worked`: somebody has since put work into it or under it.
 * `gone`: where it stood before has gone.
 */
export interface Stays {
  readonly topic: TopicId
  readonly why: 'worked' | 'gone'
}

/** An undo as far as it goes, and what stays. */
export interface Undoing {
  readonly changes: Change[]
  readonly stays: readonly Stays[]
}

/** Whether somebody has worked in a branch. Cost: the branch. */
function isWorkedIn(tree: Tree, id: TopicId, worked: (id: TopicId) => boolean): boolean {
  if (worked(id)) return true
  return childrenOf(tree, id).some(child => isWorkedIn(tree, child, worked))
}

/**
 * What is left of an undo after others have worked on: an inverse step is dropped where what our edit
 * put there is no longer there, so that undo never takes back somebody else's later word. A topic of ours that
 * others have since worked in stays, with all above it; a branch isn't put back where nobody would see it.
 * `changes` and `patches` are of the edit that is to be undone; `worked` says in which topics others have put work.
 */
export function invertOver(
  tree: Tree,
  changes: readonly Change[],
  patches: readonly Patch[],
  worked: (id: TopicId) => boolean = () => false,
): Undoing {
  const inverse: Change[] = []
  // A topic of ours that stays, stays whole: what the same edit said of it too.
  const staying = new Set(
    changes
      .filter(
        (change, i): change is Extract<Change, { op: 'add' | 'restore' }> =>
          (change.op === 'add' || change.op === 'restore') &&
          patches[i]!.before !== patches[i]!.after &&
          isLive(tree, change.topic) &&
          isWorkedIn(tree, change.topic, worked),
      )
      .map(change => change.topic),
  )
  const stays: Stays[] = [...staying].reverse().map(topic => ({ topic, why: 'worked' }))
  // What each topic will be once the inverse steps collected so far are made: our own later changes to the same field
  // aren't foreign.
  const undone = new Map<string, Map<string, unknown>>()
  for (let i = changes.length - 1; i >= 0; i--) {
    const change = changes[i]!
    const patch = patches[i]!
    const step = invert(change, patch)
    if (!step) continue
    if (isTreeChange(change)) {
      const ours = change.op === 'tree' ? change.value : change.op === 'tree-put' ? change.member : undefined
      if (same(treeValue(tree.fields, change), ours)) inverse.push(step)
      continue
    }
    const now = tree.topics.get(change.topic)
    if (!now || staying.has(now.id)) continue
    const slot = slotOf(change)
    const seen = undone.get(now.id) ?? new Map<string, unknown>()
    undone.set(now.id, seen)
    const current = seen.has(slot) ? seen.get(slot) : valueIn(now, change)
    // Note text merges; everything else is taken back only where it still stands.
    if (change.op !== 'note' && !same(current, valueIn(patch.after!, change))) continue
    if (
      step.op === 'place' &&
      step.parent !== null &&
      isLive(tree, now.id) &&
      !isLive(tree, step.parent) &&
      !comesBack(inverse, tree, step.parent)
    ) {
      stays.push({ topic: now.id, why: 'gone' })
      continue
    }
    seen.set(slot, patch.before ? valueIn(patch.before, change) : undefined)
    inverse.push(step)
  }
  return { changes: inverse, stays }
}

/** Whether the undo itself brings a topic back that isn't there now. */
function comesBack(inverse: readonly Change[], tree: Tree, id: TopicId): boolean {
  for (let at: TopicId | null = id; at !== null; at = tree.topics.get(at)?.parent ?? null) {
    if (tree.topics.get(at)?.removed && !inverse.some(change => change.op === 'restore' && change.topic === at))
      return false
  }
  return true
}

function slotOf(change: TopicChange): string {
  switch (change.op) {
    case 'set':
      return change.field
    case 'put':
      return `${change.set}/${memberKey(change.member)}`
    case 'take':
      return `${change.set}/${change.member}`
    case 'place':
      return 'place'
    case 'note':
      return 'note'
    default:
      return 'removed'
  }
}

function valueIn(topic: Topic, change: TopicChange): unknown {
  switch (change.op) {
    case 'set':
      return topic[change.field]
    case 'put':
      return memberOf(topic, change.set, memberKey(change.member))
    case 'take':
      return memberOf(topic, change.set, change.member)
    case 'place':
      return `${topic.parent ?? ''} ${topic.order}`
    case 'note':
      return topic.note
    default:
      return topic.removed
  }
}

function same(a: unknown, b: unknown): boolean {
  return a === b || JSON.stringify(a) === JSON.stringify(b)
}
