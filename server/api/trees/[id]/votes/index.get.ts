import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { runningVotes } from '../../../../votes/votes'

export default answer(OPERATIONS.listVotes, ({ params, account }) => runningVotes(params.id, account.id))
