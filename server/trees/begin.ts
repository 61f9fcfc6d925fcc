import { nanoid } from 'nanoid'
import { copyTree, WHOLE } from '#core/capture/copy'
import { filesShown } from '#core/formats/files-shown'
import { growStarter } from '#core/starters/grow'
import { starterOf } from '#core/starters/starters'
import { type Arrangement, topicOf } from '#core/tree'
import { Fault } from '../access/fault'
import { needRole } from '../access/roles'
import { shareFiles } from '../files/store'
import { readTree } from './held'
import { newTree } from './new-tree'
import { storeTree } from './store'

/**
 * A new tree: blank, from a starter that came with the app, or from one of somebody's own, which is a tree they may
 * see.
 */
export async function beginTree(
  userId: string,
  {
    title,
    arrangement,
    starter,
  }: { title?: string | undefined; arrangement?: Arrangement | undefined; starter?: string | undefined },
): Promise<string> {
  if (!starter) return storeTree(newTree(title ?? 'New tree', arrangement ?? 'both'), userId)
  const shipped = starterOf(starter)
  if (shipped) {
    const tree = growStarter(
      shipped,
      title ?? shipped.name,
      new Date().toISOString().slice(0, 10),
      () => nanoid(12),
      userId,
    )
    if (arrangement) tree.fields = { ...tree.fields, arrangement }
    return storeTree(tree, userId)
  }
  const { version } = await needRole(starter, userId, 'viewer')
  const item = await readTree(starter, version)
  if (!item) throw new Fault(404, 'no-starter', 'There is no such starter.')
  const tree = copyTree(item.tree, WHOLE)
  if (title) tree.topics.set(tree.centre, { ...topicOf(tree, tree.centre), title })
  if (arrangement) tree.fields = { ...tree.fields, arrangement }
  const id = await storeTree(tree, userId, { from: { tree: starter, number: item.version } })
  await shareFiles(starter, id, filesShown(tree))
  return id
}
