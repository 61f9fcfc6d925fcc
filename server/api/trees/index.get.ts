import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { listTrees } from '../../trees/store'

export default answer(OPERATIONS.listTrees, ({ account, query }) => listTrees(account.id, query))
