import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { renewLink } from '../../../../../access/guest-links'

export default answer(OPERATIONS.renewLink, ({ params }) => renewLink(params.id, params.link))
