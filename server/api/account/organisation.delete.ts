import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { leaveOrganisation } from '../../access/organisation-account'

export default answer(OPERATIONS.leaveOrganisation, ({ account }) => leaveOrganisation(account.id))
