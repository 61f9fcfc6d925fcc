import type { Principal } from '#core/contract'
import { changesBetween, topicBetween, type TopicPart } from '#core/compare/changes-between'
import {
  applyChanges,
  childrenOf,
  invertOver,
  isLive,
  isTreeChange,
  keysAt,
  pathTo,
  type Stays,
  topicOf,
  type TopicId,
  type Tree,
} from '#core/tree'
import { Fault } from '../access/fault'
import { database } from '../database/connect'
import { newEditId, submit } from './door'
import { loadTree, readTree } from './held'
import { editAt, readLog } from './log'

/*
 * Edits that are made here because they may be larger than what anybody can send: each is one edit that names what it comes
 * from, is stored and told like others, and is taken back as one.
 */

export interface Wanted {
  /** All of it, or a branch with what hangs below. */
  readonly branch: TopicId | null
  /** One topic alone, instead of a branch. */
  readonly topic?: TopicId | undefined
  readonly part?: TopicPart | undefined
}
export interface BroughtBack {
  readonly number: number
  /** Titles from the centre down to where a branch hangs now, when what it hung under is gone; null where it stands as it did. */
  readonly under: readonly string[] | null
}

/**
 * Makes a tree, one branch, one topic or one part of it what it was at a moment, without rewriting what happened since. A
 * branch whose parent is gone is hung under the nearest of its forebears that is still there. Throws a `Fault` for a moment
 * that isn't there, and when nothing is different.
 */
export async function bringBack(
  treeId: string,
  principal: Principal,
  version: number,
  number: number,
  { branch, topic, part }: Wanted,
): Promise<BroughtBack> {
  if (number >= version) throw new Fault(409, 'no-moment', 'That moment hasn’t come yet. Nothing was changed.')
  const [now, then] = [await readTree(treeId, version), await loadTree(database(), treeId, number)]
  if (!now || !then) throw new Fault(404, 'no-tree', 'There is no such tree.')
  const wanted = topic ?? branch
  if (wanted !== null && !then.tree.topics.has(wanted))
    throw new Fault(404, 'no-branch', 'That branch wasn’t there at that moment. Nothing was changed.')
  if (topic !== undefined && !now.tree.topics.has(topic))
    throw new Fault(
      404,
      'no-topic',
      'That topic has gone for good; its branch can be brought back. Nothing was changed.',
    )
  const changes =
    topic === undefined
      ? changesBetween(now.tree, then.tree, branch)
      : topicBetween(now.tree, then.tree, topic, part ?? 'whole')
  const home = wanted === null || (part ?? 'whole') !== 'whole' ? null : homeFor(now.tree, then.tree, wanted)
  if (home !== null) changes.push({ op: 'place', topic: wanted!, parent: home, order: lastOrder(now.tree, home) })
  if (changes.length === 0) throw new Fault(409, 'same', 'It is as it was at that moment already.')
  const { news } = await submit(treeId, principal, {
    id: newEditId(),
    changes,
    source: { kind: 'moment', number, branch: wanted },
  })
  return { number: news.number, under: home === null ? null : pathTo(now.tree, home).map(({ title }) => title) }
}

/** A key behind the last child. */
function lastOrder(tree: Tree, parent: TopicId): string {
  const orders = childrenOf(tree, parent).map(id => topicOf(tree, id).order)
  return keysAt(orders, orders.length, 1).keys[0]!
}

/**
 * Where a topic that was alive at a moment has to hang now: null where its present place, or that of then for one that isn't
 * known any more, is a living one; else the nearest of its forebears of then that lives, and at last the centre.
 */
function homeFor(now: Tree, then: Tree, id: TopicId): TopicId | null {
  if (id === then.centre || !isLive(then, id)) return null
  const parent = (now.topics.get(id) ?? then.topics.get(id)!).parent
  if (parent === null || isLive(now, parent)) return null
  for (let at = then.topics.get(id)!.parent; at !== null; at = then.topics.get(at)?.parent ?? null)
    if (isLive(now, at)) return at
  return now.centre
}

/**
 * Takes an edit of the log back as one, over whatever has been done since; what others have worked on stays, and is named.
 * Throws a `Fault` when there is no such edit and when nothing of it is left to take back.
 */
export async function takeBack(
  treeId: string,
  principal: Principal,
  version: number,
  number: number,
): Promise<{ number: number; stays: readonly Stays[] }> {
  const edit = await editAt(treeId, number)
  const [before, now] = [await loadTree(database(), treeId, number - 1), await readTree(treeId, version)]
  if (!edit || !before || !now) throw new Fault(404, 'no-edit', 'There is no such edit. Nothing was changed.')
  const patches = applyChanges(before.tree, edit.changes)
  const worked = new Set<TopicId>()
  for (const later of await readLog(database(), treeId, number))
    if (later.user !== edit.user)
      for (const change of later.changes) if (!isTreeChange(change) && change.op !== 'remove') worked.add(change.topic)
  const { changes, stays } = invertOver(now.tree, edit.changes, patches, id => worked.has(id))
  if (changes.length === 0)
    throw new Fault(409, 'nothing-left', 'Others have since gone on from there: nothing of it can be taken back.')
  const { news } = await submit(treeId, principal, { id: newEditId(), changes, source: { kind: 'taken-back', number } })
  return { number: news.number, stays }
}
