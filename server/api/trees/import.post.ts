import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { treeFromFile } from '../../trees/import'
import { storeTree } from '../../trees/store'

/** Files may be larger than a message. */
const MOST = 16 * 1024 * 1024

export default answer(OPERATIONS.importTree, async ({ account, body }) => ({ id: await storeTree(treeFromFile(body.format, body.name, body.text), account.id) }), MOST)
