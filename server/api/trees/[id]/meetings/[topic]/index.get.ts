import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { worldOf } from '../../../../../meetings/world'

export default answer(OPERATIONS.lookAtMeeting, ({ params, version, account }) =>
  worldOf(params.id, params.topic, version, account.id),
)
