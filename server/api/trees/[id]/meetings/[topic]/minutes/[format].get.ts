import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../../access/answer'
import { minutesFile } from '../../../../../../meetings/minutes'

export default answer(OPERATIONS.minutes, async ({ event, params, version }) => {
  const { data, type, name } = await minutesFile(params.id, params.topic, version, params.format)
  setResponseHeaders(event, {
    'content-type': type,
    'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
  })
  return data
})
