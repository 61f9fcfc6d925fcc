import { OPERATIONS } from '#core/contract'
import { writeAccess } from '../../../access/access-log'
import { answer } from '../../../access/answer'
import { setTrashed } from '../../../trees/store'

export default answer(OPERATIONS.restoreTree, async ({ params, account }) => {
  await setTrashed(params.id, false)
  await writeAccess({ treeId: params.id, by: account.id, what: 'brought-back', about: '' })
})
