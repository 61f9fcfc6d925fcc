import ICAL from 'ical.js'
import { addDays, daysBetween } from '../schedule/days'
import { timesOf } from '../schedule/times'
import type { ToldPlan } from '../schedule/told'
import { daysOffOf, turnsAhead } from '../schedule/turns'
import { topicOf, type Tree } from '../tree/tree'
import { isZone } from '../meeting/zones'
import { calendar, finished, sayDays, sayProgress, taskUid, topicIn, withZones } from './icalendar'

/** How one waits for another, as RFC 9253 names it (section 5, the relation types of tasks). */
const RELATIONS = { FS: 'FINISHTOSTART', SS: 'STARTTOSTART', FF: 'FINISHTOFINISH', SF: 'STARTTOFINISH' } as const

/** Turns to come of a task that comes again: a year's, and no more than this. */
const AHEAD_DAYS = 366
const MOST_TURNS = 100

/**
 * The plan of a tree as a calendar to be read: tasks as to-dos with their planned days and what they wait for, milestones as all-day
 * events. `of`: the tree's address, in every uid; `stamp`: when this was written, ms since 1970 UTC.
 *
 * A to-do has its length beside its start, since a due date must be later than the start (RFC 5545, section 3.8.2.3) and a task of one
 * day ends on the day it begins. A lag in calendar days is a GAP (RFC 9253, section 6); one in working days has no form there, and
 * the planned days say it.
 */
export function writePlanCalendar(tree: Tree, { tasks }: ToldPlan, of: string, stamp: number): string {
  const made = calendar(null)
  const off = daysOffOf(tree.fields)
  const planned = new Set(tasks.map(({ topic }) => topic))
  const zone = tree.fields.zone !== null && isZone(tree.fields.zone) ? tree.fields.zone : null
  const starts: number[] = []
  for (const { topic: id, start, finish, milestone } of tasks) {
    const topic = topicOf(tree, id)
    const one = topicIn(milestone ? 'vevent' : 'vtodo', { uid: taskUid(of, id), title: topic.title, stamp })
    const first = milestone ? finish : start
    const { time: begins, ends } = timesOf(topic, first, finish)
    // Both have a time of day, or none has (RFC 5545, section 3.8.2.3); a task that begins at a time and ends on another day, who knows
    // when, is told by its days.
    const runs = begins !== null && ends !== null && `${first}T${begins}` < `${finish}T${ends}`
    const time = runs || first === finish ? begins : null
    sayDays(one, 'dtstart', [first], time, zone)
    if (time !== null) starts.push(Date.parse(`${first}T${time}Z`))
    // An event at a time takes none where no end is said (RFC 5545, section 3.6.1).
    if (milestone && time === null) sayDays(one, 'dtend', [addDays(finish, 1)], null, zone)
    if (!milestone) {
      if (runs) sayDays(one, 'due', [finish], ends, zone)
      else if (time === null)
        one.updatePropertyWithValue('duration', ICAL.Duration.fromSeconds((daysBetween(start, finish) + 1) * 86_400))
      sayProgress(one, topic)
      // Each turn to come begins as long before its due date as the one that is open.
      const turns =
        topic.due === null ? [] : turnsAhead(topic, addDays(topic.due, AHEAD_DAYS), off, { most: MOST_TURNS })
      sayDays(
        one,
        'rdate',
        turns.map(turn => addDays(start, daysBetween(topic.due!, turn))),
        time,
        zone,
      )
    }
    for (const { on, elsewhere, kind, lag, days } of topic.waits) {
      if (elsewhere || !planned.has(on)) continue
      const related = new ICAL.Property('related-to')
      related.setParameter('reltype', RELATIONS[kind])
      if (days === 'calendar' && lag !== 0)
        related.setParameter('gap', ICAL.Duration.fromSeconds(Math.round(lag * 86_400)).toString())
      related.setValue(taskUid(of, on))
      one.addProperty(related)
    }
    made.addSubcomponent(one)
  }
  if (zone !== null)
    withZones(
      made,
      starts.map(at => ({ zone, start: at, rule: null })),
    )
  return finished(made)
}
