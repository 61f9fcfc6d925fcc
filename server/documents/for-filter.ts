import { asksFor, type Query } from '#core/find/conditions'
import { openedFilesOf } from '../meetings/reading'
import { newestBaseline } from '../schedule/plan-of'
import { lastChanges } from '../trees/changes'
import type { HandOutInput } from './hand-out'

/** What a filter asks that the tree itself doesn't say; nothing of what it doesn't ask. `person`: who asks. */
export async function forFilter(
  treeId: string,
  version: number,
  query: Query | null,
  person: string,
): Promise<Pick<HandOutInput, 'changes' | 'opened' | 'agreed'>> {
  const [changes, opened, baseline] = await Promise.all([
    query && asksFor(query, 'changes') ? lastChanges(treeId) : [],
    query && asksFor(query, 'opened') ? openedFilesOf(treeId) : null,
    query && asksFor(query, 'agreed') ? newestBaseline(treeId, version, person) : null,
  ])
  return { changes, opened, agreed: baseline && baseline.tasks }
}
