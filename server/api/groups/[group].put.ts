import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { keepOwnGroup } from '../../access/own-groups'

export default answer(OPERATIONS.keepOwnGroup, ({ account, params, body }) =>
  keepOwnGroup(account.id, { ...body, id: params.group }),
)
