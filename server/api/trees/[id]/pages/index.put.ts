import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { letPages } from '../../../../files/linked-pages'

export default answer(OPERATIONS.letPages, ({ params, body }) => letPages(params.id, body.on))
