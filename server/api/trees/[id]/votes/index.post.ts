import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { beginVote } from '../../../../votes/votes'

export default answer(OPERATIONS.beginVote, ({ params, body, account }) => beginVote(params.id, account.id, body))
