import { copyTree } from '#core/capture/copy'
import { OPERATIONS } from '#core/contract'
import { filesShown } from '#core/formats/files-shown'
import { topicOf } from '#core/tree'
import { answer } from '../../../access/answer'
import { Fault } from '../../../access/fault'
import { shareFiles } from '../../../files/store'
import { readTree } from '../../../trees/held'
import { storeTree } from '../../../trees/store'

export default answer(OPERATIONS.duplicateTree, async ({ params, body, account, version }) => {
  const item = await readTree(params.id, version)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  const { starter, title, ...choice } = body
  const copy = copyTree(item.tree, choice)
  const centre = topicOf(copy, copy.centre)
  copy.topics.set(copy.centre, {
    ...centre,
    title: title ?? (starter ? centre.title : `${centre.title} (copy)`).slice(0, 10_000),
  })
  const id = await storeTree(copy, account.id, { starter, from: { tree: params.id, number: item.version } })
  await shareFiles(params.id, id, filesShown(copy))
  return { id }
})
