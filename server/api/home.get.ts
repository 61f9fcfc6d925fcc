import { OPERATIONS } from '#core/contract'
import { answer } from '../access/answer'
import { listMeetings, sectionsOf } from '../meetings/list'
import { isoDay } from '#core/schedule/days'
import { openTasks } from '../work/tasks'
import { listTrees } from '../trees/store'

export default answer(OPERATIONS.home, async ({ account }) => {
  const [tasks, trees, meetings, sections] = await Promise.all([openTasks(account.id), listTrees(account.id, { scope: 'all' }), listMeetings(account.id, isoDay(new Date()), 6), sectionsOf(account.id)])
  return { tasks, sections, meetings, changed: trees.filter(tree => tree.version > tree.seenVersion), recent: trees.slice(0, 8) }
})
