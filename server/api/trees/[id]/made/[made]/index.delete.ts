import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { Fault } from '../../../../../access/fault'
import { dropMeanwhile } from '../../../../../documents/meanwhile'

export default answer(OPERATIONS.dropMade, async ({ params, account }) => {
  if (!(await dropMeanwhile(params.id, account.id, params.made)))
    throw new Fault(404, 'no-file', 'There is no such file of yours.')
  return { ok: true }
})
