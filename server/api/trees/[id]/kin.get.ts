import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { kinOf } from '../../../trees/kin'

export default answer(OPERATIONS.listKin, async ({ params, account }) => ({
  trees: await kinOf(params.id, account.id),
}))
