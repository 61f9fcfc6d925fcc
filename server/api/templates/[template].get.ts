import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { readOwnTemplate } from '../../documents/own-templates'
import { runJob } from '../../jobs/runner'

export default answer(OPERATIONS.readOwnTemplate, async ({ params, account }) =>
  runJob('template', { bytes: await readOwnTemplate(account.id, params.template) }, { person: account.id }),
)
