import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { acceptInvitation } from '../../access/invitations'

export default answer(OPERATIONS.acceptInvitation, ({ params, account }) => acceptInvitation(params.token, account))
