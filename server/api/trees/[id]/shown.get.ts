import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { Fault } from '../../../access/fault'
import { shownOf } from '../../../references/shown'
import { readTree } from '../../../trees/held'

export default answer(OPERATIONS.listShown, async ({ params, account, version }) => {
  const item = await readTree(params.id, version)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  return shownOf(item.tree, account.id)
})
