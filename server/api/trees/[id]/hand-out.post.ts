import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { whenLeft } from '../../../access/left'
import { makeFor } from '../../../documents/make-for'
import { sendMade } from '../../../documents/send-made'

export default answer(OPERATIONS.handOut, async ({ event, params, body, account, version, epoch }) => {
  const { today, zone, ...choice } = body
  const made = await makeFor({ treeId: params.id, account, version, epoch, choice, today, zone }, whenLeft(event))
  return sendMade(event, made)
})
