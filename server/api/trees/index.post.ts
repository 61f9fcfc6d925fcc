import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { beginTree } from '../../trees/begin'

export default answer(OPERATIONS.newTree, async ({ account, body }) => ({ id: await beginTree(account.id, body) }))
