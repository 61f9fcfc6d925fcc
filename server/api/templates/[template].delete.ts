import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { dropOwnTemplate } from '../../documents/own-templates'

export default answer(OPERATIONS.dropOwnTemplate, async ({ params, account }) => {
  await dropOwnTemplate(account.id, params.template)
  return { ok: true }
})
