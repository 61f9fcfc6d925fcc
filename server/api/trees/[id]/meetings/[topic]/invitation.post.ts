import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { inviteAll } from '../../../../../meetings/invite'

export default answer(OPERATIONS.invitePeople, ({ params, version, body, account }) =>
  inviteAll(params.id, params.topic, version, account, body.cancel),
)
