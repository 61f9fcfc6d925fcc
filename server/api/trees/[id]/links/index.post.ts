import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { makeLink } from '../../../../access/guest-links'

export default answer(OPERATIONS.makeLink, ({ params, body, account }) => makeLink(params.id, account.id, body))
