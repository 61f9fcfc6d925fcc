import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { invite } from '../../../../access/invitations'

export default answer(OPERATIONS.invite, ({ params, body, account }) => invite(params.id, body.email, body.role, account))
