import { eq } from 'drizzle-orm'
import { settleWishes } from '#core/meeting/wishes'
import { Fault } from '../access/fault'
import { database } from '../database/connect'
import { trees } from '../database/schema'
import { readTree } from '../trees/held'
import { peopleOf } from '../trees/store'
import { newEditId, submit } from '../trees/door'

/** After somebody joined: what was meant for their name or address in the meetings of a tree is theirs. */
export async function welcomeWishes(treeId: string, invitedBy: string): Promise<void> {
  const [row] = await database().select({ version: trees.version }).from(trees).where(eq(trees.id, treeId))
  const item = row ? await readTree(treeId, row.version) : null
  if (!item) return
  const changes = settleWishes(item.tree, await peopleOf(treeId))
  if (changes.length === 0) return
  // Somebody may have settled them in the same moment; then there is nothing left to do.
  await submit(treeId, { kind: 'app', of: invitedBy }, { id: newEditId(), changes }).catch((error: unknown) => {
    if (!(error instanceof Fault)) throw error
  })
}
