import { OPERATIONS } from '#core/contract'
import { Ambiguous } from '#core/formats/csv'
import { answer } from '../../access/answer'
import { Fault } from '../../access/fault'
import { treeFromFile } from '../../trees/import'
import { storeTree } from '../../trees/store'

/** Files may be larger than a message. */
const MOST = 16 * 1024 * 1024

export default answer(OPERATIONS.importTree, async ({ account, body }) => {
  try {
    const { tree, left } = treeFromFile(body.format, body.name, body.text, body.parents)
    return { id: await storeTree(tree, account.id), left }
  }
  catch (error) {
    if (error instanceof Ambiguous) throw new Fault(422, 'which-parent', error.message, error.which)
    throw error
  }
}, MOST)
