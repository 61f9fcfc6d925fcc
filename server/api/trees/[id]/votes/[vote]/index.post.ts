import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { castVote } from '../../../../../votes/votes'

export default answer(OPERATIONS.castVote, ({ params, body, account }) =>
  castVote(params.id, params.vote, account.id, body.cast),
)
