import { OPERATIONS } from '#core/contract'
import { principalOf } from '../../../../../access/accounts'
import { answer } from '../../../../../access/answer'
import { bringBack } from '../../../../../trees/bring-back'
import { inTurn } from '../../../../../trees/in-turn'

export default answer(OPERATIONS.bringBack, ({ params, body, account, version }) =>
  inTurn(account.id, () =>
    bringBack(params.id, principalOf(account), version, params.number, {
      branch: body.branch ?? null,
      topic: body.topic,
      part: body.part,
    }),
  ),
)
