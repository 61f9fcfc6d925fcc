import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { bus } from '../../../bus'
import { setTrashed } from '../../../trees/store'

export default answer(OPERATIONS.trashTree, async ({ params }) => {
  await setTrashed(params.id, true)
  bus.tell({ about: 'rights', tree: params.id })
})
