import { OPERATIONS } from '#core/contract'
import { answer } from '../access/answer'

export default answer(OPERATIONS.health, () => ({ ok: true }))
