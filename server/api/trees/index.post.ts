import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { newTree, storeTree } from '../../trees/store'

export default answer(OPERATIONS.newTree, async ({ account, body }) => ({ id: await storeTree(newTree(body.title, body.arrangement), account.id) }))
