import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { guestMeeting } from '../../meetings/invite'

export default answer(OPERATIONS.readAnswer, ({ params }) => guestMeeting(params.token))
