import { OPERATIONS } from '#core/contract'
import { runSheetOf, toldRunSheet } from '#core/calendar/run-sheet'
import { isZone } from '#core/meeting/zones'
import type { ToldPlan } from '#core/schedule/told'
import { Fault } from '../../../access/fault'
import { answer } from '../../../access/answer'
import { everybodyIn, nameFrom } from '../../../meetings/meeting'
import { askPlan, todayOf } from '../../../schedule/plan-of'
import { readTree } from '../../../trees/held'

export default answer(OPERATIONS.readRunSheet, async ({ params, query, account, version, epoch }) => {
  const item = await readTree(params.id, version, epoch)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  const { tree } = item
  const asked = tree.fields.zone ?? query.zone ?? 'UTC'
  const zone = isZone(asked) ? asked : 'UTC'
  const today = todayOf(tree)
  const told =
    tree.fields.planFrom === null
      ? null
      : ((await askPlan(item, today, { kind: 'plan', baseline: null }, account.id)) as ToldPlan)
  const plan = told && { tasks: new Map(told.tasks.map(task => [task.topic, task])) }
  const sheet = runSheetOf(tree, { plan, today, zone, only: null, hidden: () => false }, query.day)
  return toldRunSheet(tree, sheet, tree.fields.zone, nameFrom(await everybodyIn(tree)))
})
