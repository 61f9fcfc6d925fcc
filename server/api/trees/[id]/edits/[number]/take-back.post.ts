import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { takeBack } from '../../../../../trees/bring-back'

export default answer(OPERATIONS.takeBack, ({ params, account, version }) =>
  takeBack(params.id, account.id, version, params.number),
)
