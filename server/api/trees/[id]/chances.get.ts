import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { runJob } from '../../../jobs/runner'
import { noPlan, todayOf, treeToPlan } from '../../../schedule/plan-of'

export default answer(OPERATIONS.readChances, async ({ event, params, query, account, version, epoch }) => {
  const item = await treeToPlan(params.id, version, epoch)
  const { rounds, seed, shape, status = todayOf(item.tree) } = query
  const left = new AbortController()
  event.node.res.once('close', () => left.abort())
  const made = await runJob(
    'chances',
    { snapshot: item.snapshotBytes(), today: status, asked: { rounds, seed, shape } },
    { person: account.id, signal: left.signal },
  )
  if (typeof made === 'string') throw noPlan(made)
  return made
})
