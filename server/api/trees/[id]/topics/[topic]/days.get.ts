import { OPERATIONS } from '#core/contract'
import { type Days, daysOfTopic } from '#core/schedule/told'
import { type Elsewhere, isLive, MOST_SAID, shorten, topicOf } from '#core/tree'
import { answer } from '../../../../../access/answer'
import { Fault } from '../../../../../access/fault'
import { askPlan, todayOf } from '../../../../../schedule/plan-of'
import { readTree } from '../../../../../trees/held'

export default answer(OPERATIONS.readTopicDays, async ({ params, account, version, epoch }): Promise<Elsewhere> => {
  const item = await readTree(params.id, version, epoch)
  if (!item || !item.tree.topics.has(params.topic) || !isLive(item.tree, params.topic))
    throw new Fault(404, 'no-topic', 'There is no such topic any more.')
  const { tree } = item
  const { id: topic } = topicOf(tree, params.topic)
  const asked = Date.now()
  const days = await askPlan(item, todayOf(tree), { kind: 'days', topic }, account.id).catch((error: unknown) => {
    // Without a plan its dates are as they were typed.
    if (error instanceof Fault && error.status === 409) return daysOfTopic(tree, null, topic)
    throw error
  })
  return {
    tree: params.id,
    title: shorten(topicOf(tree, topic).title, MOST_SAID),
    treeTitle: shorten(topicOf(tree, tree.centre).title, MOST_SAID),
    ...(days as Days),
    asked,
  }
})
