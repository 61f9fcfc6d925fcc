import { OPERATIONS } from '#core/contract'
import { answer } from '../access/answer'

export default answer(OPERATIONS.me, ({ account: { id, name, email } }) => ({ id, name, email }))
