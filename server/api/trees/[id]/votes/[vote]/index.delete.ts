import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { dropVote } from '../../../../../votes/votes'

export default answer(OPERATIONS.dropVote, ({ params }) => dropVote(params.id, params.vote))
