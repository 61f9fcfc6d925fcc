import { OPERATIONS } from '#core/contract'
import { answer, rawBody } from '../../../../access/answer'
import { runJob } from '../../../../jobs/runner'

/** What a table that figures are taken from may weigh, bytes. */
const MOST = 20 * 1024 * 1024

export default answer(
  OPERATIONS.readTables,
  async ({ event, query, account }) =>
    runJob('tables', { bytes: new Uint8Array(await rawBody(event, MOST)), name: query.name }, { person: account.id }),
  0,
)
