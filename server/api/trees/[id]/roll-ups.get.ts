import { OPERATIONS } from '#core/contract'
import { allTopics } from '#core/tree'
import { answer } from '../../../access/answer'
import { Fault } from '../../../access/fault'
import { readTree } from '../../../trees/held'

export default answer(OPERATIONS.listRollUps, async ({ params, version, epoch }) => {
  const item = await readTree(params.id, version, epoch)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  return [...allTopics(item.tree)].flatMap(({ id }) => {
    const rollUp = item.rollUps.of(id)
    return rollUp ? [{ topic: id, ...rollUp }] : []
  })
})
