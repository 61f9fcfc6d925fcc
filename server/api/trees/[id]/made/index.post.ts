import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { makeMeanwhile } from '../../../../documents/meanwhile'

export default answer(OPERATIONS.makeMeanwhile, async ({ params, body, account, version, epoch }) => {
  const { today, zone, letter, ...choice } = body
  return { id: await makeMeanwhile({ treeId: params.id, account, version, epoch, choice, today, zone }, letter) }
})
