import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { Fault } from '../../../../access/fault'
import { readFileOf } from '../../../../files/store'

/** Only pictures that were drawn anew here are shown in the page; anything else comes as a download. All from a sandbox. */
const SHOWN = ['image/jpeg', 'image/webp']

export default answer(OPERATIONS.openFile, async ({ event, params }) => {
  const found = await readFileOf(params.id, params.file)
  if (!found) throw new Fault(404, 'no-file', 'This tree has no such file.')
  const { type } = found.file
  setResponseHeaders(event, {
    'content-type': SHOWN.includes(type) ? type : 'application/octet-stream',
    'content-disposition': SHOWN.includes(type) ? 'inline' : 'attachment',
    'content-security-policy': 'default-src \'none\'; sandbox',
    'x-content-type-options': 'nosniff',
    'cache-control': 'private, max-age=31536000, immutable',
    'content-length': found.data.length,
  })
  return found.data
})
