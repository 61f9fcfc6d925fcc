import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { purge } from '../../../trees/purge'

export default answer(OPERATIONS.purge, ({ params, body, account }) => purge(params.id, account.id, body.text))
