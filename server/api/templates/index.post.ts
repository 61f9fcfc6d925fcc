import { OPERATIONS } from '#core/contract'
import { answer, rawBody } from '../../access/answer'
import { keepOwnTemplate } from '../../documents/own-templates'
import { runJob } from '../../jobs/runner'

/** Bytes of a template at most. */
const MOST = 8 * 1024 * 1024

export default answer(
  OPERATIONS.keepOwnTemplate,
  async ({ event, query, account }) => {
    const data = await rawBody(event, MOST)
    // Read before it's kept: what can't be filled in isn't offered.
    const said = await runJob('template', { bytes: data }, { person: account.id })
    return { ...(await keepOwnTemplate(account.id, query.name, data, said.theme && 'pptx')), said }
  },
  0,
)
