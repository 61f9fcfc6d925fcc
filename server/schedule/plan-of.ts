import { and, desc, eq, lte } from 'drizzle-orm'
import { type Baseline, datesOf } from '#core/schedule/baseline'
import type { NoPlan } from '#core/schedule/compiled'
import { planOf } from '#core/schedule/plan'
import { noPlanInWords } from '#core/schedule/plan-words'
import { dayIn } from '#core/schedule/zone-day'
import { answerPlan, type PlanQuestion } from '#core/schedule/told'
import type { Tree } from '#core/tree'
import { Fault } from '../access/fault'
import { database } from '../database/connect'
import { edits } from '../database/schema'
import { runJob } from '../jobs/runner'
import { readTree } from '../trees/held'
import { momentOf } from '../trees/history'
import { inTurn } from '../trees/in-turn'
import { keptOf } from '../trees/kept-moments'
import type { LiveTree } from '../trees/live-tree'

/** Topics up to which a plan is worked out here, in some 20 ms; larger ones in a thread, so that nobody waits for them. */
export const AT_ONCE = 2000

export const todayUtc = (): string => new Date().toISOString().slice(0, 10)
/** The day that it is for a tree, in its zone, or else in UTC. */
export const todayOf = ({ fields }: Pick<Tree, 'fields'>): string => dayIn(fields.zone) ?? todayUtc()

export const noPlan = (why: NoPlan): Fault => new Fault(409, why === 'off' ? 'no-plan' : why, noPlanInWords(why))

export async function treeToPlan(id: string, version: number, epoch: string): Promise<LiveTree> {
  const item = await readTree(id, version, epoch)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  if (item.tree.fields.planFrom === null) throw noPlan('off')
  return item
}

/** What is asked of a tree's plan, as it's known on a day. Throws `Fault` where there is none. `person`: who asks. */
export async function askPlan<Q extends PlanQuestion>(
  item: LiveTree,
  today: string,
  question: Q,
  person: string,
): Promise<unknown> {
  if (item.tree.topics.size > AT_ONCE) {
    const answer = await runJob('plan', { snapshot: item.snapshotBytes(), today, question }, { person })
    if (typeof answer === 'string') throw noPlan(answer)
    return answer
  }
  const plan = planOf(item.tree, today)
  if (typeof plan === 'string') throw noPlan(plan)
  return answerPlan(item.tree, plan, question)
}

/** When the tree became what it is after an edit; now where the log doesn't say. */
async function timeOf(id: string, number: number): Promise<Date> {
  const [edit] = await database()
    .select({ at: edits.at })
    .from(edits)
    .where(and(eq(edits.treeId, id), lte(edits.number, number)))
    .orderBy(desc(edits.number))
    .limit(1)
  return edit?.at ?? new Date()
}

/** The newest baseline of a tree; null where it has none, or it can't be opened any more. `person`: who asks. */
export async function newestBaseline(id: string, version: number, person: string): Promise<Baseline | null> {
  const newest = (await keptOf(id)).findLast(({ why }) => why === 'baseline')
  try {
    return newest ? await readBaseline(id, newest.number, version, person) : null
  } catch (error) {
    if (error instanceof Fault) return null
    throw error
  }
}

/** The plan as it was after an edit, known up to the day on which that was kept, or made. Throws `Fault` where the tree had none. */
export async function readBaseline(id: string, number: number, version: number, person: string): Promise<Baseline> {
  const [then, kept] = await Promise.all([inTurn(person, () => momentOf(id, number, version)), keptOf(id)])
  const moment = kept.find(one => one.number === number && one.why === 'baseline')
  const at = moment?.at ?? (await timeOf(id, number)).toISOString()
  const today = at.slice(0, 10)
  const known = { number, name: moment?.name ?? '', at }
  if (then.tree.topics.size > AT_ONCE) {
    const told = await runJob('planDates', { snapshot: then.snapshotBytes(), today }, { person })
    if (typeof told === 'string') throw noPlan(told)
    return { ...known, ...told }
  }
  const plan = planOf(then.tree, today)
  if (typeof plan === 'string') throw noPlan(plan)
  return { ...known, finish: plan.finish, tasks: datesOf(plan) }
}
