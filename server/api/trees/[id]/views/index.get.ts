import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { ownViewsOf } from '../../../../trees/views'

export default answer(OPERATIONS.listViews, ({ params, account }) => ownViewsOf(params.id, account.id))
