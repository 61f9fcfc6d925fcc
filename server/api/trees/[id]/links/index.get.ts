import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { listLinks } from '../../../../access/guest-links'

export default answer(OPERATIONS.listLinks, ({ params }) => listLinks(params.id))
