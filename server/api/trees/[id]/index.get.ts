import { OPERATIONS } from '#core/contract'
import { toSnapshot } from '#core/tree'
import { answer } from '../../../access/answer'
import { Fault } from '../../../access/fault'
import { readTree } from '../../../trees/held'
import { peopleOf } from '../../../trees/store'

export default answer(OPERATIONS.openTree, async ({ params, role, version }) => {
  const [item, people] = await Promise.all([readTree(params.id, version), peopleOf(params.id)])
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  return { id: params.id, version: item.version, role, people, snapshot: toSnapshot(item.tree) }
})
