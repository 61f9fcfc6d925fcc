import { OPERATIONS } from '#core/contract'
import { writeAccess } from '../../../../../../access/access-log'
import { answer } from '../../../../../../access/answer'
import { minutesFile } from '../../../../../../meetings/minutes'
import { saveAs } from '../../../../../../files/disposition'

export default answer(OPERATIONS.minutes, async ({ event, params, query, version, account }) => {
  const { data, type, name } = await minutesFile(
    params.id,
    params.topic,
    version,
    params.format,
    account,
    query.template ?? null,
  )
  await writeAccess({ treeId: params.id, by: account.id, what: 'exported', about: `minutes (${params.format})` })
  setResponseHeaders(event, { 'content-type': type, 'content-disposition': saveAs(name) })
  return data
})
