import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../../access/answer'
import { minutesFile } from '../../../../../../meetings/minutes'
import { saveAs } from '../../../../../../files/disposition'

export default answer(OPERATIONS.minutes, async ({ event, params, version }) => {
  const { data, type, name } = await minutesFile(params.id, params.topic, version, params.format)
  setResponseHeaders(event, { 'content-type': type, 'content-disposition': saveAs(name) })
  return data
})
