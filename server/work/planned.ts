import { and, inArray, sql } from 'drizzle-orm'
import type { TaskTold } from '#core/schedule/told'
import { Fault } from '../access/fault'
import { database } from '../database/connect'
import { trees } from '../database/schema'
import { askPlan } from '../schedule/plan-of'
import { readTree } from '../trees/held'
import { openTasks } from './tasks'

/** Trees whose plans are asked at once: who owes more than that has another worry first. */
const MOST_TREES = 20

export interface TaskPlan extends TaskTold {
  readonly treeId: string
}

/** What their plans say of the tasks that somebody owes, as known on a day. Trees without a plan say nothing. */
export async function plansOfWork(userId: string, today: string): Promise<TaskPlan[]> {
  const owed = new Map<string, string[]>()
  for (const { treeId, id } of await openTasks(userId)) {
    const known = owed.get(treeId)
    if (known) known.push(id)
    else owed.set(treeId, [id])
  }
  if (owed.size === 0) return []
  const planned = await database()
    .select({ id: trees.id, version: trees.version, epoch: trees.epoch })
    .from(trees)
    .where(and(inArray(trees.id, [...owed.keys()]), sql`json_value(${trees.fields}, '$.planFrom') is not null`))
  const order = [...owed.keys()]
  const first = planned.sort((a, b) => order.indexOf(a.id) - order.indexOf(b.id)).slice(0, MOST_TREES)
  const found: TaskPlan[] = []
  // One after the other: large ones are worked out in a thread, where one's own wait for each other anyway.
  for (const { id, version, epoch } of first) {
    const item = await readTree(id, version, epoch)
    if (!item) continue
    // One without a working day, say, has nothing to say of its tasks.
    const told = (await askPlan(item, today, { kind: 'tasks', topics: owed.get(id)! }, userId).catch(
      (error: unknown) => {
        if (error instanceof Fault) return []
        throw error
      },
    )) as TaskTold[]
    found.push(...told.map(task => ({ treeId: id, ...task })))
  }
  return found
}
