import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { inviteAll } from '../../../../access/invitations'

export default answer(OPERATIONS.invite, ({ params, body, account }) =>
  inviteAll(params.id, [...(body.email === undefined ? [] : [body.email]), ...(body.emails ?? [])], body.role, account),
)
