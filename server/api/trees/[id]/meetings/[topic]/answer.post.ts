import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { answerAs } from '../../../../../meetings/invite'

export default answer(OPERATIONS.answerMeeting, ({ params, version, body, account }) =>
  answerAs(account, params.id, params.topic, version, body.answer, body.comment),
)
