import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { lastChanges } from '../../../trees/changes'

export default answer(OPERATIONS.listChanges, async ({ params }) => lastChanges(params.id))
