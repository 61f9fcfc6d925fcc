import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { peopleOf } from '../../../../trees/store'

export default answer(OPERATIONS.listMembers, ({ params }) => peopleOf(params.id))
