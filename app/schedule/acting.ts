import { daysInWords } from '#core/schedule/plan-words'
import { plannedIn } from '#core/schedule/compiled'
import { addDays } from '#core/schedule/days'
import { allTopics, type Change, shorten, topicOf, type TopicId, type Wait } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'
import { planNow } from './planning'

/* What is done to the plan, by keys and by the pointer alike: each is one edit. */

const titled = (desk: Desk, id: TopicId): string => `“${shorten(topicOf(desk.tree, id).title || 'untitled', 40)}”`

/** Switches the plan on, from the first day that somebody typed or from today. */
export function beginPlan(desk: Desk): void {
  if (!desk.guard()) return
  let first: string | null = null
  for (const { start, began } of allTopics(desk.tree))
    for (const day of [start, began]) if (day !== null && (first === null || day < first)) first = day
  desk.run({ changes: [{ op: 'tree', field: 'planFrom', value: first ?? desk.treeDay }] })
  desk.say('The tree has a plan now. Typed starts are “not before”, typed due dates are deadlines.', true)
}

/** Lets planks say how tasks stand in the plan, or no longer. */
export function planOnPlanks(desk: Desk): void {
  const { planFrom, planPrint } = desk.tree.fields
  if (planFrom === null) {
    desk.say('This tree has no plan yet. The schedule offers to begin one.')
    return
  }
  if (!desk.guard()) return
  desk.run({ changes: [{ op: 'tree', field: 'planPrint', value: !planPrint }] })
  desk.say(planPrint ? 'Planks say nothing of the plan.' : 'Planks say how tasks stand in the plan.', true)
}

/** Switches it off again: dates are as they were typed. */
export function endPlan(desk: Desk): void {
  if (!desk.guard()) return
  desk.run({ changes: [{ op: 'tree', field: 'planFrom', value: null }] })
  desk.say('The tree has no plan any more; what was entered for it is kept.', true)
}

/** The tasks that a selection means in the plan; says so where there are none. */
function tasksOf(desk: Desk, ids: readonly TopicId[]): TopicId[] | null {
  const plan = planNow(desk)
  if (!plan) {
    desk.say('This tree has no plan yet. The schedule offers to begin one.')
    return null
  }
  const tasks = ids.filter(id => plan.tasks.has(id))
  if (tasks.length > 0) return tasks
  desk.say(
    ids.some(id => plan.branches.has(id))
      ? 'A branch begins and ends with its tasks. Move those.'
      : 'This isn’t a task yet. Give it a length, a date or somebody.',
  )
  return null
}

/** Lets tasks begin so many working days later (earlier when negative) than they're planned to. */
export function shift(desk: Desk, ids: readonly TopicId[], days: number): void {
  const tasks = desk.guard() ? tasksOf(desk, ids) : null
  if (!tasks) return
  const plan = planNow(desk)!
  const changes = tasks.flatMap(id => startAt(desk, id, plan.calendar.addWorkingDays(plan.tasks.get(id)!.start, days)))
  if (changes.length === 0) {
    desk.say('What is done or under way has begun already.')
    return
  }
  desk.run({ changes })
  tell(desk, tasks)
}

/** Lets a task begin on a day at the earliest. Where its length came from its dates, the due date goes along. */
export function startAt(desk: Desk, id: TopicId, day: string): Change[] {
  const plan = planNow(desk)!
  const { state } = plan.tasks.get(id)!
  const topic = topicOf(desk.tree, id)
  if (state === 'done' || state === 'begun') return []
  const changes: Change[] = []
  if (topic.start !== day) changes.push({ op: 'set', topic: id, field: 'start', value: day })
  if (topic.duration === null && topic.estimate === null && topic.start !== null && topic.due !== null) {
    const length = Math.max(1, plan.calendar.workingDaysBetween(topic.start, addDays(topic.due, 1)))
    changes.push({ op: 'set', topic: id, field: 'due', value: plan.calendar.addWorkingDays(day, length - 1) })
  }
  return changes
}

/** Makes tasks longer by so many working days (shorter when negative); none is shorter than nothing. */
export function lengthen(desk: Desk, ids: readonly TopicId[], by: number): void {
  const tasks = desk.guard() ? tasksOf(desk, ids) : null
  if (!tasks) return
  const plan = planNow(desk)!
  desk.run({
    changes: tasks.map(id => ({
      op: 'set',
      topic: id,
      field: 'duration',
      value: Math.max(0, Math.round((plan.tasks.get(id)!.length + by) * 100) / 100),
    })),
  })
  tell(desk, tasks)
}

/** Says what became of one task, for whoever doesn't see the bar. */
function tell(desk: Desk, [id, ...more]: readonly TopicId[]): void {
  const planned = planNow(desk)?.tasks.get(id!)
  if (!planned || more.length > 0) return
  desk.say(
    `${titled(desk, id!)}: ${dayInWords(planned.start)} to ${dayInWords(planned.finish)}, ${daysInWords(planned.length)}.`,
  )
}

/** Lets topics wait for another. */
export function waitFor(desk: Desk, ids: readonly TopicId[], on: TopicId, kind: Wait['kind'] = 'FS'): void {
  if (!desk.guard()) return
  const changes = ids
    .filter(id => !topicOf(desk.tree, id).waits.some(wait => !wait.elsewhere && wait.on === on && wait.kind === kind))
    .map((topic): Change => ({
      op: 'put',
      topic,
      set: 'waits',
      member: { id: newId(), on, kind, lag: 0, days: 'working' },
    }))
  if (changes.length === 0) desk.say(`That waits for ${titled(desk, on)} already.`)
  else if (desk.run({ changes }))
    desk.say(`${ids.length === 1 ? titled(desk, ids[0]!) : `${ids.length} topics`}: after ${titled(desk, on)}.`, true)
}

/** Goes to the next task that must not slip, in the order in which they begin. */
export function nextOnPath(desk: Desk): void {
  const plan = planNow(desk)
  if (!plan) {
    desk.say('This tree has no plan yet. The schedule offers to begin one.')
    return
  }
  const path = [...plan.tasks]
    .filter(([, { critical }]) => critical)
    .sort(([, a], [, b]) => a.from - b.from || a.to - b.to)
  if (path.length === 0) {
    desk.say('Nothing is critical: all that is left may slip, or all is done.')
    return
  }
  const at = path.findIndex(([id]) => id === desk.focus.value)
  desk.visit(path[(at + 1) % path.length]![0])
}

/** Writes what the plan computed into start and due date of every task that isn't done, as one edit. */
export function letPlanSetDates(desk: Desk): void {
  const plan = planNow(desk)
  if (!desk.guard()) return
  if (!plan) {
    desk.say('This tree has no plan yet. The schedule offers to begin one.')
    return
  }
  const changes: Change[] = []
  for (const id of plannedIn(desk.tree).tasks) {
    const { state, start, finish } = plan.tasks.get(id)!
    if (state === 'done') continue
    const topic = topicOf(desk.tree, id)
    // Its length stays what it was, also where that came from the dates that go.
    if (topic.duration === null && topic.estimate === null && topic.effort === null)
      changes.push({ op: 'set', topic: id, field: 'duration', value: plan.tasks.get(id)!.length })
    if (topic.start !== start) changes.push({ op: 'set', topic: id, field: 'start', value: start })
    if (topic.due !== finish) changes.push({ op: 'set', topic: id, field: 'due', value: finish })
  }
  if (changes.length === 0) desk.say('The dates are those of the plan already.')
  else if (desk.run({ changes })) desk.say('The plan has set the dates.', true)
}
