import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { pageOf } from '../../telling/read'

export default answer(OPERATIONS.listTold, ({ query, account }) => pageOf(account.id, query.before))
