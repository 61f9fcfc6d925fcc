import { OPERATIONS } from '#core/contract'
import { filesShown } from '#core/formats/files-shown'
import { topicOf } from '#core/tree'
import { answer } from '../../../../../access/answer'
import { shareFiles } from '../../../../../files/store'
import { momentOf } from '../../../../../trees/history'
import { inTurn } from '../../../../../trees/in-turn'
import { storeTree } from '../../../../../trees/store'

export default answer(OPERATIONS.copyMoment, async ({ params, body, account, version }) => {
  const { tree } = await inTurn(account.id, () => momentOf(params.id, params.number, version))
  const centre = topicOf(tree, tree.centre)
  if (body.title !== undefined) tree.topics.set(tree.centre, { ...centre, title: body.title })
  const id = await storeTree(tree, account.id, { from: { tree: params.id, number: params.number } })
  await shareFiles(params.id, id, filesShown(tree))
  return { id }
})
