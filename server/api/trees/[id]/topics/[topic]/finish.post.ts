import { OPERATIONS } from '#core/contract'
import { finished } from '#core/schedule/turns'
import { isLive, topicOf } from '#core/tree'
import { principalOf } from '../../../../../access/accounts'
import { answer } from '../../../../../access/answer'
import { Fault } from '../../../../../access/fault'
import { todayOf } from '../../../../../schedule/plan-of'
import { newEditId, submit } from '../../../../../trees/door'
import { readTree } from '../../../../../trees/held'

export default answer(OPERATIONS.finishTask, async ({ params, body, account, version, epoch }) => {
  const item = await readTree(params.id, version, epoch)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  const { tree } = item
  if (!tree.topics.has(params.topic) || !isLive(tree, params.topic))
    throw new Fault(404, 'no-topic', 'There is no such topic in this tree.')
  const topic = topicOf(tree, params.topic)
  // What somebody else finished just before isn't finished a second time.
  if (topic.done === 100 || (body.due !== undefined && body.due !== topic.due))
    throw new Fault(409, 'meanwhile', 'Somebody has done it meanwhile, or put it on another day.')
  const changes = finished(tree, topic, body.today ?? todayOf(tree), account.id)
  const { news } = await submit(params.id, principalOf(account), { id: newEditId(), changes })
  const next = changes.find(change => change.op === 'set' && change.field === 'due')
  return { number: news.number, next: next?.op === 'set' ? (next.value as string) : null }
})
