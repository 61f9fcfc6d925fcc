import { OPERATIONS } from '#core/contract'
import { contentsKindOf } from '#core/formats/contents'
import { answer } from '../../../../../access/answer'
import { Fault } from '../../../../../access/fault'
import { inMegabytes } from '../../../../../files/limit'
import { findFile, readChunks } from '../../../../../files/store'
import { runJob } from '../../../../../jobs/runner'

/** What a file that is shown in place may weigh, bytes. */
const MOST = 24 * 1024 * 1024

export default answer(OPERATIONS.readContents, async ({ event, params, query, account }) => {
  const file = await findFile(params.id, params.file)
  if (!file) throw new Fault(404, 'no-file', 'This tree has no such file.')
  if (contentsKindOf({ type: file.type, name: query.name }) === null)
    throw new Fault(
      415,
      'not-shown',
      'A file of this kind can’t be shown here. It can be saved and opened with another program.',
    )
  if (file.size > MOST)
    throw new Fault(
      413,
      'too-large',
      `What is shown here has at most ${inMegabytes(MOST)}. It can be saved and opened with another program.`,
    )
  const left = new AbortController()
  event.node.res.once('close', () => left.abort())
  const pieces: Buffer[] = []
  for await (const piece of readChunks(file.id)) pieces.push(piece)
  const contents = await runJob(
    'contents',
    { bytes: new Uint8Array(Buffer.concat(pieces)), type: file.type, name: query.name },
    { person: account.id, signal: left.signal },
  )
  setResponseHeader(event, 'cache-control', 'private, max-age=86400')
  return contents
})
