import { planSince } from '#core/formats/plan-standing'
import type { Brief } from '#core/meeting/brief'
import type { Minutes } from '#core/meeting/minutes'
import { planOf } from '#core/schedule/plan'
import { Fault } from '../access/fault'
import { runJob } from '../jobs/runner'
import { AT_ONCE, readBaseline, todayOf } from '../schedule/plan-of'
import { readTree } from '../trees/held'

/** How the plan stands since a meeting began, for its minutes; nothing where there is no plan, or was none. `person`: who asks. */
export async function planSinceBegin(
  treeId: string,
  version: number,
  { run }: Pick<Brief, 'run'>,
  person: string,
): Promise<Minutes['plan']> {
  const item = await readTree(treeId, version)
  if (!run || !item || item.tree.fields.planFrom === null) return undefined
  let then
  try {
    then = await readBaseline(treeId, run.version, version, person)
  } catch (error) {
    // There was no plan then, or what was then can't be opened any more.
    if (error instanceof Fault) return undefined
    throw error
  }
  const today = todayOf(item.tree)
  const agreed = { tasks: then.tasks, finish: then.finish }
  if (item.tree.topics.size > AT_ONCE)
    return runJob('planSince', { snapshot: item.snapshotBytes(), today, then: agreed }, { person })
  const plan = planOf(item.tree, today)
  return typeof plan === 'string' ? undefined : planSince(item.tree, plan, agreed)
}
