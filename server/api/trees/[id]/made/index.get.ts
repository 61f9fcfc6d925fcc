import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { madeOf } from '../../../../documents/made-store'
import { partOf } from '../../../../documents/meanwhile'

export default answer(OPERATIONS.listMade, async ({ params, account }) =>
  (await madeOf(params.id, account.id)).map(one => ({ ...one, part: one.state === 'making' ? partOf(one.id) : null })),
)
