import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { changeLink } from '../../../../access/guest-links'

export default answer(OPERATIONS.changeLink, ({ params, body, account }) =>
  changeLink(params.id, params.link, account.id, body),
)
