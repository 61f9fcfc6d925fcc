import { OPERATIONS } from '#core/contract'
import { answer } from '../access/answer'
import { settings } from '../settings'

export default answer(OPERATIONS.about, () => {
  const { SIGN_UP, CONFIRM, DEMO } = settings()
  return { signUp: SIGN_UP, confirm: CONFIRM, demo: DEMO }
})
