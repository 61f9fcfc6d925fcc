import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { Fault } from '../../../../access/fault'
import { removeMember } from '../../../../access/members'

export default answer(OPERATIONS.removeMember, ({ params, account, role }) => {
  if (params.user !== account.id && role !== 'owner')
    throw new Fault(403, 'role', 'Only owners can take somebody’s role away.')
  return removeMember(params.id, params.user, account.id)
})
