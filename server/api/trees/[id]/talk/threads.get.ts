import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { threadsOf } from '../../../../talk/read'

export default answer(OPERATIONS.listThreads, ({ params, query }) => threadsOf(params.id, query))
