import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { Fault } from '../../../access/fault'
import { readTree } from '../../../trees/held'
import { fileLimit } from '../../../files/limit'
import { peopleOf, seenBy } from '../../../trees/store'

export default answer(OPERATIONS.openTree, async ({ event, params, account, role, version, epoch }) => {
  const [people, seen] = await Promise.all([peopleOf(params.id), seenBy(params.id, account.id)])
  // Last of all: from here to the answer nothing may come between, or an edit that isn't stored yet could show.
  const item = await readTree(params.id, version, epoch)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  // Put together as bytes, so that a large tree is written down once for all who open it.
  setResponseHeader(event, 'content-type', 'application/json')
  const head = JSON.stringify({
    id: params.id,
    version: item.version,
    epoch,
    role,
    people,
    seen,
    fileLimit: fileLimit(),
  })
  return Buffer.concat([Buffer.from(`${head.slice(0, -1)},"snapshot":`), item.snapshotBytes(), Buffer.from('}')])
})
