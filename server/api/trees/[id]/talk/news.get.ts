import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { newsSince } from '../../../../talk/read'

export default answer(OPERATIONS.talkNews, ({ params, query }) => newsSince(params.id, query.since))
