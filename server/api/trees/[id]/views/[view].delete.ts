import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { dropOwnView } from '../../../../trees/views'

export default answer(OPERATIONS.dropView, ({ params, account }) => dropOwnView(params.id, account.id, params.view))
