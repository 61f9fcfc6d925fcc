import { OPERATIONS } from '#core/contract'
import { writePlanCalendar } from '#core/formats/plan-calendar'
import type { ToldPlan } from '#core/schedule/told'
import { fileStem, topicOf } from '#core/tree'
import { writeAccess } from '../../../access/access-log'
import { answer } from '../../../access/answer'
import { saveAs } from '../../../files/disposition'
import { askPlan, todayOf, treeToPlan } from '../../../schedule/plan-of'

export default answer(OPERATIONS.readPlanCalendar, async ({ event, params, query, account, version, epoch }) => {
  const item = await treeToPlan(params.id, version, epoch)
  const asked = { kind: 'plan', baseline: null } as const
  const told = (await askPlan(item, query.status ?? todayOf(item.tree), asked, account.id)) as ToldPlan
  await writeAccess({ treeId: params.id, by: account.id, what: 'exported', about: 'ics' })
  const name = `${fileStem(topicOf(item.tree, item.tree.centre).title)}.ics`
  setResponseHeaders(event, { 'content-type': 'text/calendar; charset=utf-8', 'content-disposition': saveAs(name) })
  return writePlanCalendar(item.tree, told, params.id, Date.now())
})
