import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { soleTrees } from '../../access/farewell'

export default answer(OPERATIONS.farewell, async ({ account }) => ({ trees: await soleTrees(account.id) }))
