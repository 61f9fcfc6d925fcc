import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { recheck } from '../../../live/rooms'
import { setTrashed } from '../../../trees/store'

export default answer(OPERATIONS.trashTree, async ({ params }) => {
  await setTrashed(params.id, true)
  await recheck(params.id)
})
