import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { setRole } from '../../../../access/members'

export default answer(OPERATIONS.setRole, ({ params, body, account }) =>
  setRole(params.id, params.user, body.role, account.id),
)
