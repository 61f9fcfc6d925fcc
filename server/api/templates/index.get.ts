import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { ownTemplatesOf } from '../../documents/own-templates'

export default answer(OPERATIONS.listOwnTemplates, ({ account }) => ownTemplatesOf(account.id))
