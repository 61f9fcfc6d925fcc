import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { withdrawLink } from '../../../../access/guest-links'

export default answer(OPERATIONS.withdrawLink, ({ params, account }) =>
  withdrawLink(params.id, params.link, account.id),
)
