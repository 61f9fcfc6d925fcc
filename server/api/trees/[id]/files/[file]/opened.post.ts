import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { Fault } from '../../../../../access/fault'
import { findFile } from '../../../../../files/store'
import { keepOpened } from '../../../../../meetings/reading'

export default answer(OPERATIONS.openedFile, async ({ params, account }) => {
  if (!(await findFile(params.id, params.file))) throw new Fault(404, 'no-file', 'This tree has no such file.')
  await keepOpened(params.id, params.file, account.id)
})
