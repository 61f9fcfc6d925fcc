import ICAL from 'ical.js'
import { addDays, daysBetween } from '../schedule/days'
import type { ToldPlan } from '../schedule/told'
import { daysOffOf, turnsAhead } from '../schedule/turns'
import { topicOf, type Tree } from '../tree/tree'
import { calendar, finished, sayProgress, taskUid, topicIn } from './icalendar'

/** How one waits for another, as RFC 9253 names it (section 5, the relation types of tasks). */
const RELATIONS = { FS: 'FINISHTOSTART', SS: 'STARTTOSTART', FF: 'FINISHTOFINISH', SF: 'STARTTOFINISH' } as const

/** Turns to come of a task that comes again: a year's, and no more than this. */
const AHEAD_DAYS = 366
const MOST_TURNS = 100

const dayOf = (day: string): ICAL.Time => ICAL.Time.fromDateString(day)

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
  for (const { topic: id, start, finish, milestone } of tasks) {
    const topic = topicOf(tree, id)
    const one = topicIn(milestone ? 'vevent' : 'vtodo', { uid: taskUid(of, id), title: topic.title, stamp })
    one.updatePropertyWithValue('dtstart', dayOf(milestone ? finish : start))
    if (milestone) one.updatePropertyWithValue('dtend', dayOf(addDays(finish, 1)))
    else {
      const days = daysBetween(start, finish) + 1
      one.updatePropertyWithValue('duration', ICAL.Duration.fromSeconds(days * 86_400))
      sayProgress(one, topic)
      // Each turn to come begins as long before its due date as the one that is open.
      const turns =
        topic.due === null ? [] : turnsAhead(topic, addDays(topic.due, AHEAD_DAYS), off, { most: MOST_TURNS })
      if (turns.length > 0) {
        const dates = new ICAL.Property('rdate')
        dates.resetType('date')
        dates.setValues(turns.map(turn => dayOf(addDays(start, daysBetween(topic.due!, turn)))))
        one.addProperty(dates)
      }
    }
    for (const { on, kind, lag, days } of topic.waits) {
      if (!planned.has(on)) continue
      const related = new ICAL.Property('related-to')
      related.setParameter('reltype', RELATIONS[kind])
      if (days === 'calendar' && lag !== 0)
        related.setParameter('gap', ICAL.Duration.fromSeconds(Math.round(lag * 86_400)).toString())
      related.setValue(taskUid(of, on))
      one.addProperty(related)
    }
    made.addSubcomponent(one)
  }
  return finished(made)
}
