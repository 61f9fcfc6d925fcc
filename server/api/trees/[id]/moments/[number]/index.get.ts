import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { momentOf } from '../../../../../trees/history'
import { inTurn } from '../../../../../trees/in-turn'
import { peopleOf } from '../../../../../trees/store'

export default answer(OPERATIONS.openMoment, async ({ event, params, account, version }) => {
  const people = await peopleOf(params.id)
  const item = await inTurn(account.id, () => momentOf(params.id, params.number, version))
  setResponseHeader(event, 'content-type', 'application/json')
  const head = JSON.stringify({ id: params.id, version: item.version, role: 'viewer', people })
  return Buffer.concat([Buffer.from(`${head.slice(0, -1)},"snapshot":`), item.snapshotBytes(), Buffer.from('}')])
})
