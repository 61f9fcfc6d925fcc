import { asksFor, type Query } from '#core/find/conditions'
import type { Tree } from '#core/tree'
import { groupsFor } from '../access/own-groups'
import { openedFilesOf } from '../meetings/reading'
import { newestBaseline } from '../schedule/plan-of'
import { lastChanges } from '../trees/changes'
import type { HandOutInput } from './hand-out'

/** What a filter asks that the tree itself doesn't say; nothing of what it doesn't ask. `person`: who asks. */
export async function forFilter(
  treeId: string,
  { tree, version }: { readonly tree: Tree; readonly version: number },
  query: Query | null,
  person: string,
): Promise<Pick<HandOutInput, 'changes' | 'opened' | 'agreed' | 'groups'>> {
  const [changes, opened, baseline, groups] = await Promise.all([
    query && asksFor(query, 'changes') ? lastChanges(treeId) : [],
    query && asksFor(query, 'opened') ? openedFilesOf(treeId) : null,
    query && asksFor(query, 'agreed') ? newestBaseline(treeId, version, person) : null,
    groupsFor(treeId, tree.fields.groups, query, person),
  ])
  return { changes, opened, agreed: baseline && baseline.tasks, groups }
}
