import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { keptOf } from '../../../../trees/kept-moments'

export default answer(OPERATIONS.listMoments, ({ params }) => keptOf(params.id))
