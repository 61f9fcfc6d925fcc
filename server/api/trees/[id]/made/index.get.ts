import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { madeOf } from '../../../../documents/made-store'
import { getReady } from '../../../../jobs/runner'
import { partOf } from '../../../../documents/meanwhile'

// It's asked for when somebody opens Hand out.
export default answer(OPERATIONS.listMade, async ({ params, account }) => {
  getReady(account.id)
  const made = await madeOf(params.id, account.id)
  return made.map(one => ({ ...one, part: one.state === 'making' ? partOf(one.id) : null }))
})
