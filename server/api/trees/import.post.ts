import { OPERATIONS } from '#core/contract'
import { Ambiguous } from '#core/formats/csv'
import { foreseenOf } from '#core/formats/foreseen'
import { fromSnapshot } from '#core/tree'
import { answer } from '../../access/answer'
import { Fault } from '../../access/fault'
import { runJob } from '../../jobs/runner'
import { keepTalk } from '../../talk/keep'
import { removeTree } from '../../trees/remove'
import { storeTree } from '../../trees/store'

/** Files may be larger than a message. */
const MOST = 16 * 1024 * 1024

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
      await keepTalk(id, account.id, read.talk, read.people).catch(async (error: unknown) => {
        // All of a file comes in, or nothing of it.
        await removeTree(id)
        throw error
      })
      return { id, left: read.left }
    } catch (error) {
      if (error instanceof Ambiguous) throw new Fault(422, 'which-parent', error.message, error.which)
      throw error
    }
  },
  MOST,
)
