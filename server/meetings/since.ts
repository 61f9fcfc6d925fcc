import { type Difference, differencesOf } from '#core/compare/differences'
import { Fault } from '../access/fault'
import { database } from '../database/connect'
import { loadTree } from '../trees/held'
import { openMeeting } from './meeting'

/** What has changed in the whole tree since a meeting began, topic by topic. */
export async function changedSince(treeId: string, topicId: string, version: number): Promise<Difference[]> {
  const { tree, brief } = await openMeeting(treeId, topicId, version)
  if (!brief.run) throw new Fault(409, 'not-begun', 'This meeting hasn’t begun.')
  const before = await loadTree(database(), treeId, brief.run.version)
  if (!before) throw new Fault(404, 'no-moment', 'What the tree was then can’t be opened any more.')
  return differencesOf(before.tree, tree)
}
