import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { bench } from '../../../../talk/read'

export default answer(OPERATIONS.listBench, ({ params, query }) => bench(params.id, query))
