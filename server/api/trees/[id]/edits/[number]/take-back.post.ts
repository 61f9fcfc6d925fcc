import { OPERATIONS } from '#core/contract'
import { principalOf } from '../../../../../access/accounts'
import { answer } from '../../../../../access/answer'
import { takeBack } from '../../../../../trees/bring-back'

export default answer(OPERATIONS.takeBack, ({ params, account, version }) =>
  takeBack(params.id, principalOf(account), version, params.number),
)
