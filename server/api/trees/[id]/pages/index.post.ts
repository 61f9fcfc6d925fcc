import { allows, OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { lookAtPage } from '../../../../files/linked-pages'

export default answer(OPERATIONS.lookAtPage, ({ params, body, account, role, version, epoch }) =>
  lookAtPage({ treeId: params.id, version, epoch }, account.id, body.address, body.again && allows(role, 'editor')),
)
