import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { Fault } from '../../../access/fault'
import { takeReplies } from '../../../meetings/invite'
import { readTree } from '../../../trees/held'

export default answer(OPERATIONS.takeReplies, async ({ params, version, body, account }) => {
  const held = await readTree(params.id, version)
  if (!held) throw new Fault(404, 'no-tree', 'There is no such tree.')
  return takeReplies(params.id, held.tree, account, body.text)
})
