import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { readMade } from '../../../../../documents/made-store'
import { sendMade } from '../../../../../documents/send-made'

export default answer(OPERATIONS.readMade, async ({ event, params, account }) =>
  sendMade(event, await readMade(params.id, account.id, params.made)),
)
