import { briefOf, sayPart } from '../meeting/brief'
import { addDays } from '../schedule/days'
import type { Change, Initial } from '../tree/change'
import { topicOf, type Tree } from '../tree/tree'
import type { CalendarEntry } from './calendar'

/**
 * The changes that put an entry so many days later, with its length and its time as they are: of a meeting the day in its own
 * zone, of typed days both. What a plan computed is moved by the plan's own rule, not here. Nothing for what has no day.
 */
export function entryMoved(tree: Tree, { id, kind }: CalendarEntry, days: number): Change[] {
  const topic = topicOf(tree, id)
  // A turn to come is where its rule puts it.
  if (days === 0 || kind === 'turn') return []
  if (kind === 'meeting') {
    const { begins } = briefOf(topic)
    if (!begins) return []
    const { day, time, zone } = begins
    return [sayPart(id, { id: 'begins', kind: 'begins', day: addDays(day, days), time, zone })]
  }
  return (['start', 'due'] as const).flatMap((field): Change[] => {
    const day = topic[field]
    return day === null ? [] : [{ op: 'set', topic: id, field, value: addDays(day, days) }]
  })
}

/** What a topic is given that is made on a day. */
export const bornOn = (day: string): Initial => ({ due: day })
