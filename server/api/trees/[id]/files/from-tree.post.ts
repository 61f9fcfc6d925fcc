import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { needRole } from '../../../../access/roles'
import { shareFiles } from '../../../../files/store'

export default answer(OPERATIONS.bringFiles, async ({ params, body, account }) => {
  await needRole(body.tree, account.id, 'viewer')
  await shareFiles(body.tree, params.id, body.files)
})
