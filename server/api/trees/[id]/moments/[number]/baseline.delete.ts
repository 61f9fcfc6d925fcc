import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { letMomentGo } from '../../../../../trees/kept-moments'

export default answer(OPERATIONS.letBaselineGo, ({ params }) => letMomentGo(params.id, params.number, 'baseline'))
