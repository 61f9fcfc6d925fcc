import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { told } from '../../../../../trees/history'

export default answer(OPERATIONS.listHappenings, ({ params, version }) =>
  told(params.id, params.from, Math.min(params.to, version)),
)
