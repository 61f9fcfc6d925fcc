import { principalOf } from '../../../access/accounts'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { newEditId, submit } from '../../../trees/door'
import { readTree } from '../../../trees/held'

export default answer(OPERATIONS.renameTree, async ({ params, body, account, version }) => {
  const item = await readTree(params.id, version)
  const {
    news: { number, at },
  } = await submit(params.id, principalOf(account), {
    id: newEditId(),
    changes: [{ op: 'set', topic: item!.tree.centre, field: 'title', value: body.title }],
  })
  return { number, at }
})
