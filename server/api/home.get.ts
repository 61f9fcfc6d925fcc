import { OPERATIONS } from '#core/contract'
import { answer } from '../access/answer'
import { invitationsFor } from '../access/invitations'
import { listMeetings, sectionsOf } from '../meetings/list'
import { isoDay } from '#core/schedule/days'
import { openTasks } from '../work/tasks'
import { listTrees } from '../trees/store'

export default answer(OPERATIONS.home, async ({ account }) => {
  const [invited, tasks, trees, meetings, sections] = await Promise.all([
    invitationsFor(account.email),
    openTasks(account.id),
    listTrees(account.id, { scope: 'all' }),
    listMeetings(account.id, isoDay(new Date()), 6),
    sectionsOf(account.id),
  ])
  return { invited, tasks, sections, meetings, changed: trees.filter(tree => tree.news), recent: trees.slice(0, 8) }
})
