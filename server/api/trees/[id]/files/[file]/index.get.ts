import { Readable } from 'node:stream'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { Fault } from '../../../../../access/fault'
import { saveAs } from '../../../../../files/disposition'
import { rangeOf } from '../../../../../files/range'
import { findFile, readChunks } from '../../../../../files/store'

/**
 * Only pictures that were drawn anew here are shown in the page by themselves; anything else comes as a download. All from a
 * sandbox.
 */
const SHOWN = ['image/jpeg', 'image/webp']
/** Sound and moving pictures say what they are, so that the page can play them; nothing else could come of it. */
const PLAYED = /^(?:audio|video)\/[\w.+-]+$/

export default answer(OPERATIONS.openFile, async ({ event, params, query }) => {
  const file = await findFile(params.id, params.file)
  if (!file) throw new Fault(404, 'no-file', 'This tree has no such file.')
  const drawnHere = file.width !== null && SHOWN.includes(file.type)
  const range = rangeOf(getHeader(event, 'range'), file.size)
  setResponseHeaders(event, {
    'content-type': drawnHere || PLAYED.test(file.type) ? file.type : 'application/octet-stream',
    'content-disposition': drawnHere ? 'inline' : query.name ? saveAs(query.name) : 'attachment',
    'content-security-policy': "default-src 'none'; sandbox",
    'x-content-type-options': 'nosniff',
    'cache-control': 'private, max-age=31536000, immutable',
    'accept-ranges': 'bytes',
    etag: `"${file.id}"`,
  })
  if (range === 'outside') {
    setResponseHeader(event, 'content-range', `bytes */${file.size}`)
    throw new Fault(416, 'range', 'The file ends before that.')
  }
  const { from, to } = range ?? { from: 0, to: file.size - 1 }
  if (range) {
    setResponseStatus(event, 206)
    setResponseHeader(event, 'content-range', `bytes ${from}-${to}/${file.size}`)
  }
  setResponseHeader(event, 'content-length', to - from + 1)
  return sendStream(event, Readable.from(readChunks(file.id, from, to), { objectMode: false }))
})
