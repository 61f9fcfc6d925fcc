import { OPERATIONS } from '#core/contract'
import { writeAccess } from '../../../access/access-log'
import { answer } from '../../../access/answer'
import { bus } from '../../../bus'
import { setTrashed } from '../../../trees/store'

export default answer(OPERATIONS.trashTree, async ({ params, account }) => {
  await setTrashed(params.id, true)
  await writeAccess({ treeId: params.id, by: account.id, what: 'trashed', about: '' })
  bus.tell({ about: 'rights', tree: params.id })
})
