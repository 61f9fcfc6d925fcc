import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { rememberBrowser } from '../../../access/known'
import { personFromOrganisation } from '../../../access/organisation'
import { accountOf } from '../../../access/organisation-account'
import { organisationErrand } from '../../../access/organisation-errand'
import { backWith } from '../../../access/organisation-way'
import { openSession } from '../../../access/sessions'

export default answer(OPERATIONS.organisationBack, async ({ event }) => {
  const then = (await organisationErrand(event)).data.then ?? '/'
  try {
    const person = await personFromOrganisation(event)
    const user = await accountOf(person)
    if (user.totpSecret !== null) {
      // The organisation stands for the password, not for what its owner asks for beside it.
      await (
        await organisationErrand(event)
      ).update({ user: user.id, then, at: Date.now(), state: undefined, nonce: undefined, verifier: undefined })
      const query = new URLSearchParams({ ask: 'code', ...(then === '/' ? {} : { then }) })
      await sendRedirect(event, `/sign-in?${query.toString()}`, 303)
      return
    }
    rememberBrowser(event, user)
    await openSession(event, user.id)
    await sendRedirect(event, then, 303)
  } catch (error) {
    await backWith(event, error, then)
  }
})
