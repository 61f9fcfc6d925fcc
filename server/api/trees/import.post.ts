import { OPERATIONS } from '#core/contract'
import { Ambiguous } from '#core/formats/csv'
import { foreseenOf } from '#core/formats/foreseen'
import { fromSnapshot } from '#core/tree'
import { answer } from '../../access/answer'
import { Fault } from '../../access/fault'
import type { DrawnFile } from '../../documents/drawn-pictures'
import { storeFile } from '../../files/store'
import { runJob } from '../../jobs/runner'
import { keepTalk } from '../../talk/keep'
import { removeTree } from '../../trees/remove'
import { storeTree } from '../../trees/store'

/** Files may be larger than a message. */
const MOST = 16 * 1024 * 1024

/** Keeps a picture that came with a document. Throws a `Fault` when there's no room. */
async function keepDrawn(tree: string, person: string, { bytes, type, width, height }: DrawnFile): Promise<void> {
  if (!(await storeFile(tree, person, Buffer.from(bytes), { type, width, height })))
    throw new Fault(413, 'no-room', 'There’s no room for the pictures of this document. Nothing was changed.')
}

export default answer(
  OPERATIONS.importTree,
  async ({ event, account, body }) => {
    const left = new AbortController()
    // Whoever goes away, or stops it, needs no tree any more.
    event.node.res.on('close', () => left.abort())
    try {
      const read = await runJob('import', body, { person: account.id, signal: left.signal })
      if (body.preview) return { foreseen: foreseenOf(fromSnapshot(read.snapshot)), left: read.left }
      const id = await storeTree(fromSnapshot(read.snapshot), account.id)
      try {
        await keepTalk(id, account.id, read.talk, read.people)
        for (const picture of read.pictures) await keepDrawn(id, account.id, picture)
      } catch (error) {
        // All of a file comes in, or nothing of it.
        await removeTree(id)
        throw error
      }
      return { id, left: read.left }
    } catch (error) {
      if (error instanceof Ambiguous) throw new Fault(422, 'which-parent', error.message, error.which)
      throw error
    }
  },
  MOST,
)
