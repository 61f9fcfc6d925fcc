import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { pendingInvitations } from '../../../../access/invitations'

export default answer(OPERATIONS.listInvitations, ({ params }) => pendingInvitations(params.id))
