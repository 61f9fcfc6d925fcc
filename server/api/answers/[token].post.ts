import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { answerAsGuest } from '../../meetings/invite'

export default answer(OPERATIONS.giveAnswer, ({ params, body }) =>
  answerAsGuest(params.token, body.answer, body.comment),
)
