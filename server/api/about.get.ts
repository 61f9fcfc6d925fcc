import { OPERATIONS } from '#core/contract'
import { answer } from '../access/answer'
import { hasOrganisation } from '../access/organisation'
import { settings } from '../settings'

export default answer(OPERATIONS.about, () => {
  const { SIGN_UP, CONFIRM, DEMO, OIDC_NAME } = settings()
  return { signUp: SIGN_UP, confirm: CONFIRM, demo: DEMO, organisation: hasOrganisation() ? OIDC_NAME : null }
})
