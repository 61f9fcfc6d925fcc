import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { withdrawInvitation } from '../../../../access/invitations'

export default answer(OPERATIONS.withdrawInvitation, ({ params, account }) =>
  withdrawInvitation(params.id, params.invitation, account.id),
)
