import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { sittingsBefore } from '../../../../trees/history'

export default answer(OPERATIONS.listHistory, async ({ params, query, role, version }) => ({
  role,
  ...(await sittingsBefore(params.id, version, query)),
}))
