import { daysBetween } from '../schedule/days'

/*
 * What goes on from one meeting to the next: open actions, unanswered questions, parked topics, with their age. They
 * are referred to, not copied, so the age counts from where they were first raised.
 */

export type RecordKind = 'action' | 'question' | 'parked'

export interface Raised {
  readonly id: string
  readonly kind: RecordKind
  /** Done, answered, or taken up. */
  readonly settled: boolean
  readonly due: string | null
}

/** A meeting of a series that has been held. */
export interface Held {
  readonly id: string
  /** ISO 8601 day. */
  readonly day: string
  readonly raised: readonly Raised[]
}

export interface Carried {
  readonly id: string
  readonly kind: RecordKind
  readonly from: string
  /** Meetings since it was raised: 1 at the very next one. */
  readonly meetings: number
  readonly days: number
  readonly late: boolean
}

const ORDER: readonly RecordKind[] = ['action', 'question', 'parked']

/**
 * What the next meeting, on `day`, carries over: actions first, then questions, then what was parked; the oldest
 * first.
 */
export function carryOver(series: readonly Held[], day: string): Carried[] {
  const held = [...series]
    .filter(meeting => meeting.day < day)
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0))
  const carried = new Map<string, Carried>()
  held.forEach((meeting, i) => {
    for (const { id, kind, settled, due } of meeting.raised) {
      if (settled) carried.delete(id)
      else if (!carried.has(id))
        carried.set(id, {
          id,
          kind,
          from: meeting.id,
          meetings: held.length - i,
          days: daysBetween(meeting.day, day),
          late: kind === 'action' && due !== null && due < day,
        })
      else if (due !== null) carried.set(id, { ...carried.get(id)!, late: kind === 'action' && due < day })
    }
  })
  return [...carried.values()].sort((a, b) => ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind) || b.days - a.days)
}

/** "2 meetings ago, 14 days". */
export function ageInWords({ meetings, days }: Pick<Carried, 'meetings' | 'days'>): string {
  return `${meetings === 1 ? 'last meeting' : `${meetings} meetings ago`}, ${days === 1 ? '1 day' : `${days} days`}`
}

export interface SeriesFigure {
  readonly id: string
  readonly day: string
  readonly raised: number
  readonly closed: number
  /** Actions of all meetings up to this one that were open and late on the day. */
  readonly overdue: number
}

/**
 * Actions raised, closed and overdue, meeting by meeting. `closedOn`: the day an action was done; null while it's
 * open.
 */
export function actionFigures(series: readonly Held[], closedOn: (id: string) => string | null): SeriesFigure[] {
  const held = [...series].sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0))
  const known = new Map<string, Raised>()
  return held.map((meeting, i) => {
    const before = held[i - 1]?.day ?? ''
    const fresh = meeting.raised.filter(one => one.kind === 'action' && !known.has(one.id))
    for (const one of meeting.raised) if (one.kind === 'action') known.set(one.id, one)
    const closed = [...known.keys()].filter(id => {
      const day = closedOn(id)
      return day !== null && day > before && day <= meeting.day
    })
    const overdue = [...known.values()].filter(
      ({ id, due }) => due !== null && due < meeting.day && (closedOn(id) ?? '9999') > meeting.day,
    )
    return { id: meeting.id, day: meeting.day, raised: fresh.length, closed: closed.length, overdue: overdue.length }
  })
}

/** How many days actions lived, the half of them at most; null when none was closed. */
export function medianLife(
  lives: readonly { readonly raised: string; readonly closed: string | null }[],
): number | null {
  const days = lives
    .flatMap(({ raised, closed }) => (closed === null ? [] : [daysBetween(raised, closed)]))
    .sort((a, b) => a - b)
  if (days.length === 0) return null
  const middle = Math.floor(days.length / 2)
  return days.length % 2 === 1 ? days[middle]! : (days[middle - 1]! + days[middle]!) / 2
}
