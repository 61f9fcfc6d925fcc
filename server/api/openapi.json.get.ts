import { openApi, OPERATIONS } from '#core/contract'
import { answer } from '../access/answer'

export default answer(OPERATIONS.openapi, () => openApi())
