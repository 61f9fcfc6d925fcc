import { OPERATIONS } from '#core/contract'
import { isPlainFileName } from '#core/tree'
import { answer } from '../../../../access/answer'
import { Fault } from '../../../../access/fault'
import { takeIn } from '../../../../files/upload'

export default answer(
  OPERATIONS.attach,
  async ({ event, params, query, account }) => {
    if (!isPlainFileName(query.name))
      throw new Fault(
        400,
        'file-name',
        'A file’s name may not lead out of its folder: no slashes, 200 characters at most. Nothing was changed.',
      )
    return takeIn(params.id, account.id, query.name, event.node.req)
  },
  0,
)
