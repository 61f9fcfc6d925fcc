import type { Principal } from '#core/contract'
import { changesBetween } from '#core/compare/changes-between'
import { applyChanges, invertOver, isTreeChange, type Stays, type TopicId } from '#core/tree'
import { Fault } from '../access/fault'
import { database } from '../database/connect'
import { newEditId, submit } from './door'
import { loadTree, readTree } from './held'
import { editAt, readLog } from './log'

/*
 * Edits that are made here because they may be larger than what anybody can send: each is one edit that names what it comes
 * from, is stored and told like others, and is taken back as one.
 */

/**
 * Makes a tree, or one branch, what it was at a moment, without rewriting what happened since. Throws a `Fault` for a moment
 * that isn't there, and when nothing is different.
 */
export async function bringBack(
  treeId: string,
  principal: Principal,
  version: number,
  number: number,
  branch: TopicId | null,
): Promise<{ number: number }> {
  if (number >= version) throw new Fault(409, 'no-moment', 'That moment hasn’t come yet. Nothing was changed.')
  const [now, then] = [await readTree(treeId, version), await loadTree(database(), treeId, number)]
  if (!now || !then) throw new Fault(404, 'no-tree', 'There is no such tree.')
  if (branch !== null && !then.tree.topics.has(branch))
    throw new Fault(404, 'no-branch', 'That branch wasn’t there at that moment. Nothing was changed.')
  const changes = changesBetween(now.tree, then.tree, branch)
  if (changes.length === 0) throw new Fault(409, 'same', 'It is as it was at that moment already.')
  const { news } = await submit(treeId, principal, {
    id: newEditId(),
    changes,
    source: { kind: 'moment', number, branch },
  })
  return { number: news.number }
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
