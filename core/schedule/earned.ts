import { topicOf, type Tree } from '../tree/tree'
import type { Baseline } from './baseline'
import { addDays } from './days'
import type { Plan } from './plan'
import type { WorkingCalendar } from './working-calendar'
import { mondayOf } from './weekdays'

/*
 * Earned value, in hours of work: what should have been done by a day, what was, and what it took. The standard formulas (PV, EV, AC and
 * what follows from them; as in ISO 21508 and ANSI/EIA-748, from memory). Work is spread evenly over the working days of a task.
 */

/** Three ways to say what all of it will take. */
export interface Estimates {
  /** As what is done went: BAC ÷ CPI. */
  readonly typical: number | null
  /** As was planned from here on: AC + BAC − EV. */
  readonly asPlanned: number | null
  /** As what is done went, in time too: AC + (BAC − EV) ÷ (CPI × SPI). */
  readonly both: number | null
}

/** Hours; ratios have no unit. Null where it can't be said: nobody has said what was spent, or nothing was planned yet. */
export interface Earned {
  /** Budget at completion: all work that was planned. */
  readonly bac: number
  readonly pv: number
  readonly ev: number
  readonly ac: number | null
  readonly sv: number
  readonly cv: number | null
  readonly spi: number | null
  readonly cpi: number | null
  readonly eac: Estimates
  /** What is still to come, and what will be over at the end, by the typical way. */
  readonly etc: number | null
  readonly vac: number | null
  /** How well the rest has to go to end within the budget. */
  readonly tcpi: number | null
}

const over = (a: number, b: number): number | null => (b === 0 ? null : a / b)

/** All that follows from budget, planned, earned and actual. */
export function earnedFrom({
  bac,
  pv,
  ev,
  ac,
}: {
  readonly bac: number
  readonly pv: number
  readonly ev: number
  readonly ac: number | null
}): Earned {
  const spi = over(ev, pv)
  const cpi = ac === null ? null : over(ev, ac)
  const typical = cpi === null ? null : over(bac, cpi)
  return {
    bac,
    pv,
    ev,
    ac,
    sv: ev - pv,
    cv: ac === null ? null : ev - ac,
    spi,
    cpi,
    eac: {
      typical,
      asPlanned: ac === null ? null : ac + bac - ev,
      both: ac === null || !cpi || !spi ? null : ac + (bac - ev) / (cpi * spi),
    },
    etc: typical === null || ac === null ? null : typical - ac,
    vac: typical === null ? null : bac - typical,
    tcpi: ac === null ? null : over(bac - ev, bac - ac),
  }
}

/** Hours of work in a task, of all its people together: said, or its length in full days. */
function workOf(tree: Tree, plan: Plan, id: string): number {
  return topicOf(tree, id).effort ?? (plan.tasks.get(id)!.length * plan.calendar.minutes) / 60
}

/** What tasks are counted by: hours of work, or what they cost. */
export interface Worth {
  /** What a task is worth when it's done. */
  of(task: string): number
  /** What went into it in fact; null where nobody said. */
  spent(task: string): number | null
}
/** Hours of work, as they're planned and as they were spent. */
export const hoursIn = (tree: Tree, plan: Plan): Worth => ({
  of: id => workOf(tree, plan, id),
  spent: id => topicOf(tree, id).spent,
})

/** The share of a task that lies on or before a day, 0 to 1. */
function shareBy(
  calendar: WorkingCalendar,
  { start, finish }: { readonly start: string; readonly finish: string },
  day: string,
): number {
  if (day < start) return 0
  if (day >= finish) return 1
  const whole = calendar.workingDaysBetween(start, addDays(finish, 1))
  return whole === 0 ? 1 : calendar.workingDaysBetween(start, addDays(day, 1)) / whole
}

/** Earned value on the status date, against what was agreed; without a baseline against the plan as it is. */
export function earnedNow(
  tree: Tree,
  plan: Plan,
  base: Pick<Baseline, 'tasks'> | null,
  worth: Worth = hoursIn(tree, plan),
): Earned {
  let [bac, pv, ev] = [0, 0, 0]
  let ac: number | null = null
  for (const [id, planned] of plan.tasks) {
    const work = worth.of(id)
    const spent = worth.spent(id)
    const { done, ended } = topicOf(tree, id)
    bac += work
    pv += work * shareBy(plan.calendar, base?.tasks[id] ?? planned, plan.status)
    ev += (work * (ended === null ? (done ?? 0) : 100)) / 100
    if (spent !== null) ac = (ac ?? 0) + spent
  }
  return earnedFrom({ bac, pv, ev, ac })
}

export interface CurvePoint {
  /** The Sunday that ends the week, ISO 8601. */
  readonly day: string
  /** Hours that were to be done by then, as agreed and as it's planned now. */
  readonly agreed: number | null
  readonly planned: number
  /** Hours that were still to be done then, of all that is in the plan now; null beyond the status date. */
  readonly left: number | null
}
/** Weeks that are shown at most: ten years. */
const MOST_WEEKS = 520

/** Hours, or what else is counted by, to be done week by week, from the first day of either plan to the last. */
export function curveOf(
  tree: Tree,
  plan: Plan,
  base: Pick<Baseline, 'tasks'> | null,
  worth: Worth = hoursIn(tree, plan),
): CurvePoint[] {
  const tasks = Array.from(plan.tasks, ([id, planned]) => {
    const { done, ended } = topicOf(tree, id)
    const whole = ended !== null || done === 100
    return {
      work: worth.of(id),
      planned,
      agreed: base?.tasks[id] ?? null,
      earned: whole ? 1 : (done ?? 0) / 100,
      // Nobody says on which days a part was done: it's spread from the first to the status date.
      spread: { start: planned.start, finish: whole && planned.finish < plan.status ? planned.finish : plan.status },
    }
  })
  if (tasks.length === 0) return []
  const days = tasks.flatMap(({ planned, agreed }) => [
    planned.start,
    planned.finish,
    ...(agreed ? [agreed.start, agreed.finish] : []),
  ])
  const first = days.reduce((a, b) => (b < a ? b : a))
  const last = days.reduce((a, b) => (b > a ? b : a))
  const points: CurvePoint[] = []
  for (let day = addDays(mondayOf(first), -1); points.length < MOST_WEEKS; day = addDays(day, 7)) {
    const by = (dates: { readonly start: string; readonly finish: string }): number =>
      shareBy(plan.calendar, dates, day)
    const upTo = day < plan.status ? day : plan.status
    points.push({
      day,
      left:
        addDays(day, -6) > plan.status
          ? null
          : tasks.reduce(
              (sum, { work, earned, spread }) => sum + work * (1 - earned * shareBy(plan.calendar, spread, upTo)),
              0,
            ),
      agreed: base && tasks.reduce((sum, { work, agreed }) => sum + (agreed ? work * by(agreed) : 0), 0),
      planned: tasks.reduce((sum, { work, planned }) => sum + work * by(planned), 0),
    })
    if (day >= last) break
  }
  return points
}
