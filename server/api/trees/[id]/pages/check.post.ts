import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { checkAddresses } from '../../../../files/linked-pages'

export default answer(OPERATIONS.checkAddresses, ({ params, body, account, version, epoch }) =>
  checkAddresses({ treeId: params.id, version, epoch }, account.id, body.addresses),
)
