import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { overview } from '../../../../talk/read'

export default answer(OPERATIONS.talkOverview, ({ params, account }) => overview(params.id, account.id))
