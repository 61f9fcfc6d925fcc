import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { setTrashed } from '../../../trees/store'

export default answer(OPERATIONS.restoreTree, ({ params }) => setTrashed(params.id, false))
