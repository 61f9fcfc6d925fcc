import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { readPages } from '../../../../files/linked-pages'

export default answer(OPERATIONS.readPages, ({ params }) => readPages(params.id))
