import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { Fault } from '../../../access/fault'
import { endOneOf } from '../../../access/sessions'

export default answer(OPERATIONS.endSession, async ({ params, account }) => {
  if (!(await endOneOf(account.id, params.session)))
    throw new Fault(404, 'no-session', 'That session has ended already.')
})
