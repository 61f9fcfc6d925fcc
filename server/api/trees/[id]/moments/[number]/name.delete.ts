import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { letMomentGo } from '../../../../../trees/kept-moments'

export default answer(OPERATIONS.letMomentGo, ({ params }) => letMomentGo(params.id, params.number))
