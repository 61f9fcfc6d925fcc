import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { sittingsBefore } from '../../../../trees/history'

export default answer(OPERATIONS.listHistory, ({ params, query, version }) => sittingsBefore(params.id, version, query))
