import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { keepOwnView } from '../../../../trees/views'

export default answer(OPERATIONS.keepView, ({ params, body, account }) =>
  keepOwnView(params.id, account.id, { ...body, id: params.view }),
)
