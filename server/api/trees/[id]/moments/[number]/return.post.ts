import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { bringBack } from '../../../../../trees/bring-back'

export default answer(OPERATIONS.bringBack, ({ params, body, account, version }) =>
  bringBack(params.id, account.id, version, params.number, body.branch ?? null),
)
