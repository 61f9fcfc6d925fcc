import { OPERATIONS } from '#core/contract'
import { answer } from '../access/answer'
import { openTasks } from '../work/tasks'
import { listTrees } from '../trees/store'

export default answer(OPERATIONS.home, async ({ account }) => {
  const [tasks, trees] = await Promise.all([openTasks(account.id), listTrees(account.id, { scope: 'all' })])
  return { tasks, changed: trees.filter(tree => tree.version > tree.seenVersion), recent: trees.slice(0, 8) }
})
