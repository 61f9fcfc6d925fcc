import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { dropOwnGroup } from '../../access/own-groups'

export default answer(OPERATIONS.dropOwnGroup, ({ account, params }) => dropOwnGroup(account.id, params.group))
