import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { Fault } from '../../../../access/fault'
import { filesFor } from '../../../../documents/files-for'
import { runJob } from '../../../../jobs/runner'

export default answer(OPERATIONS.readTemplate, async ({ params, account }) => {
  const bytes = (await filesFor(params.id, [params.file]))[params.file]?.bytes
  if (!bytes) throw new Fault(404, 'no-file', 'The tree has no such file.')
  return runJob('template', { bytes }, { person: account.id })
})
