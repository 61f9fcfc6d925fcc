import { OPERATIONS } from '#core/contract'
import { readAccess } from '../../../access/access-log'
import { answer } from '../../../access/answer'

export default answer(OPERATIONS.accessLog, ({ params }) => readAccess(params.id))
