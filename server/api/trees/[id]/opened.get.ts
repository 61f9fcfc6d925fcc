import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { openedFilesOf } from '../../../meetings/reading'

export default answer(OPERATIONS.listOpened, async ({ params }) => openedFilesOf(params.id))
