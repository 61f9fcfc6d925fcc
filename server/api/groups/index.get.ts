import { OPERATIONS } from '#core/contract'
import { ownGroupsOf } from '../../access/own-groups'
import { answer } from '../../access/answer'

export default answer(OPERATIONS.listOwnGroups, ({ account }) => ownGroupsOf(account.id))
