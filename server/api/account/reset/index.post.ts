import { OPERATIONS } from '#core/contract'
import { sendReset } from '../../../access/account-links'
import { addressOf } from '../../../access/address'
import { answer } from '../../../access/answer'
import { mustSpend } from '../../../access/tries'
import { log } from '../../../log'

const AN_HOUR = 20

export default answer(OPERATIONS.askReset, async ({ event, body }) => {
  await mustSpend('reset', addressOf(event), AN_HOUR, 3600)
  // Not waited for: how long it takes would tell whether there is such an account.
  sendReset(body.email).catch((error: unknown) => log.error({ error }, 'a letter for a new password was not written'))
})
