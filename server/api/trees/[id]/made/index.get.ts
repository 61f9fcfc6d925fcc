import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { madeOf } from '../../../../documents/made-store'

export default answer(OPERATIONS.listMade, ({ params, account }) => madeOf(params.id, account.id))
