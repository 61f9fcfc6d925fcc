import { OPERATIONS } from '#core/contract'
import { principalOf } from '../../../../../access/accounts'
import { answer } from '../../../../../access/answer'
import { closeVote } from '../../../../../votes/votes'

export default answer(OPERATIONS.closeVote, ({ params, account }) =>
  closeVote(params.id, params.vote, principalOf(account), account.id),
)
