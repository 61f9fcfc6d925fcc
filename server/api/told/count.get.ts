import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { countOf } from '../../telling/read'
import { noteZone } from '../../telling/ways'

export default answer(OPERATIONS.countTold, async ({ query, account }) => {
  if (query.zone !== undefined) await noteZone(account.id, query.zone)
  return countOf(account.id, Date.now())
})
