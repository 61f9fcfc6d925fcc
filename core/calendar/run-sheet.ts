import { briefOf, isMeeting } from '../meeting/brief'
import { minuteOf } from '../schedule/times'
import { addDays, daysBetween } from '../schedule/days'
import type { Topic, TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { isWithin } from '../tree/walk'
import { type CalendarAsked, type CalendarEntry, calendarOf, turnsOf } from './calendar'

/*
 * The run-sheet of a day: what happens when, by whom and where, one after the other, and who would have to be in two places. Times
 * are minutes on the wall, from the midnight with which the day begins; what began the day before has less than 0.
 */

export interface RunLine {
  readonly entry: CalendarEntry
  /** Of what ends on the day and has no time at which it began: the midnight of the day it began on. */
  readonly begins: number
  /** Null: it's a moment, or nobody said how long it takes. More than 1440 on a day after. */
  readonly ends: number | null
  /** Members and named people, as the topic has them. */
  readonly people: readonly string[]
  /** Where it is; '' where nobody said. */
  readonly place: string
  /** Said to end before it begins. */
  readonly backwards: boolean
  /** People who have something else to do then, with what it is. */
  readonly clashes: readonly Clash[]
}
export interface Clash {
  readonly person: string
  readonly with: TopicId
}
export interface RunSheet {
  readonly day: string
  /** By the time at which they begin, then in reading order. */
  readonly lines: readonly RunLine[]
  /** What stands on the day without a time of it, or goes on all day. */
  readonly untimed: readonly CalendarEntry[]
}

const DAY = 1440
/** What lasts longer isn't presence: somebody who has a task all week is not there every hour of it. */
const MOST_PRESENT = DAY
/** Clashes that are told of one line. */
const MOST_CLASHES = 20

/** The run-sheet of a day, ISO 8601. Cost: all topics, and for each person the lines that overlap. */
export function runSheetOf(tree: Tree, asked: CalendarAsked, day: string): RunSheet {
  const there = [...calendarOf(tree, asked), ...turnsOf(tree, asked, day, day)].filter(
    ({ from, to }) => from <= day && day <= to,
  )
  const untimed: CalendarEntry[] = []
  const lines: Omit<RunLine, 'clashes'>[] = []
  for (const entry of there) {
    const begins = entry.time === null ? null : daysBetween(day, entry.from) * DAY + minuteOf(entry.time)
    const ends = entry.ends === null ? null : daysBetween(day, entry.to) * DAY + minuteOf(entry.ends)
    // On a day in between it neither begins nor ends.
    if ((begins === null || begins < 0) && (ends === null || ends > DAY)) {
      untimed.push(entry)
      continue
    }
    const topic = topicOf(tree, entry.id)
    const at = begins ?? daysBetween(day, entry.from) * DAY
    lines.push({
      entry,
      begins: at,
      ends,
      people: peopleOf(topic),
      place: topic.place?.name ?? (isMeeting(topic) ? briefOf(topic).where : ''),
      // A meeting has a length; in the hour that comes twice the wall may stand earlier at its end.
      backwards: ends !== null && ends < at && entry.kind !== 'meeting',
    })
  }
  lines.sort((a, b) => a.begins - b.begins)
  const clashes = clashesOf(tree, lines)
  return { day, untimed, lines: lines.map(line => ({ ...line, clashes: clashes.get(line.entry) ?? [] })) }
}

/** Who is to be there: of a meeting those who haven't said no. */
function peopleOf(topic: Topic): readonly string[] {
  if (!isMeeting(topic)) return topic.people
  return briefOf(topic)
    .people.filter(({ answer }) => answer !== 'declined')
    .flatMap(({ user }) => user ?? [])
}

/**
 * Who would have to be in two places: lines of one person that overlap by more than their ends. Not of what is done, what lies in the
 * other's branch, and what is said to be at the same place.
 */
function clashesOf(
  tree: Tree,
  lines: readonly Omit<RunLine, 'clashes'>[],
): ReadonlyMap<CalendarEntry, readonly Clash[]> {
  const found = new Map<CalendarEntry, Clash[]>()
  const byPerson = new Map<string, Omit<RunLine, 'clashes'>[]>()
  for (const line of lines) {
    const length = (line.ends ?? line.begins) - line.begins
    if (line.entry.done || length < 0 || length > MOST_PRESENT) continue
    for (const person of line.people) {
      const own = byPerson.get(person)
      if (own) own.push(line)
      else byPerson.set(person, [line])
    }
  }
  const note = (entry: CalendarEntry, clash: Clash): void => {
    const known = found.get(entry) ?? []
    if (known.length < MOST_CLASHES) found.set(entry, [...known, clash])
  }
  for (const [person, own] of byPerson)
    own.forEach((one, i) => {
      const end = one.ends ?? one.begins
      let told = 0
      for (let j = i + 1; j < own.length && told < MOST_CLASHES; j++) {
        const other = own[j]!
        if (other.begins > one.begins && other.begins >= end) break
        const [here, there] = [one.entry.id, other.entry.id]
        if (samePlace(one, other) || isWithin(tree, here, there) || isWithin(tree, there, here)) continue
        told++
        note(one.entry, { person, with: there })
        note(other.entry, { person, with: here })
      }
    })
  return found
}

const samePlace = (one: Pick<RunLine, 'place'>, other: Pick<RunLine, 'place'>): boolean =>
  one.place !== '' && one.place.trim().toLowerCase() === other.place.trim().toLowerCase()

/** A minute of a run-sheet as it stands on the wall: "07:30", and with the day it lies on where that's another. */
export function minuteInWords(minute: number): string {
  const of = ((minute % DAY) + DAY) % DAY
  const time = `${String(Math.floor(of / 60)).padStart(2, '0')}:${String(of % 60).padStart(2, '0')}`
  return minute === DAY ? '24:00' : time
}

/** "07:30", "07:30 to 08:15", "until 15:00", with the days before and after said. */
export function lineInWords({ entry, begins, ends }: Pick<RunLine, 'entry' | 'begins' | 'ends'>): string {
  const said = (minute: number): string =>
    `${minuteInWords(minute)}${minute < 0 ? ' the day before' : minute > DAY ? ' the day after' : ''}`
  if (ends === null) return said(begins)
  if (entry.time === null || begins < -DAY) return `until ${said(ends)}`
  return ends > 2 * DAY ? `from ${said(begins)}` : `${said(begins)} to ${said(ends)}`
}

/** What is wrong with a line, each in words: that it ends before it begins, who would have to be elsewhere too. */
export const warningsOf = (
  { backwards, clashes }: Pick<RunLine, 'backwards' | 'clashes'>,
  titleOf: (id: TopicId) => string,
  nameOf: (person: string) => string,
): string[] => [
  ...(backwards ? ['ends before it begins'] : []),
  ...clashes.map(clash => `${nameOf(clash.person)} is to be at “${titleOf(clash.with)}”, too`),
]

/** The nearest day from one on that has something with a time of day, or else the last before it; null where none has. */
export function dayWithTimes(tree: Tree, asked: CalendarAsked, from: string): string | null {
  const days = calendarOf(tree, asked)
    .flatMap(({ time, ends, from, to }) => [...(time === null ? [] : [from]), ...(ends === null ? [] : [to])])
    .sort()
  return days.find(day => day >= from) ?? days.at(-1) ?? null
}

/** A run-sheet in plain data, for whoever asks by the API: times as on the wall, "24:00" for the midnight with which the day ends. */
export function toldRunSheet(tree: Tree, sheet: RunSheet, zone: string | null, nameOf: (person: string) => string) {
  const moment = (minute: number): string => {
    const day = addDays(sheet.day, Math.floor(minute / DAY))
    return minute === DAY ? `${sheet.day}T24:00` : `${day}T${minuteInWords(minute)}`
  }
  return {
    day: sheet.day,
    zone,
    lines: sheet.lines.map(({ entry, begins, ends, people, place, backwards, clashes }) => ({
      topic: entry.id,
      title: topicOf(tree, entry.id).title,
      kind: entry.kind,
      begins: entry.time === null ? null : moment(begins),
      ends: ends === null ? null : moment(ends),
      people: people.map(id => ({ id, name: nameOf(id) })),
      place,
      done: entry.done,
      backwards,
      clashes: clashes.map(clash => ({ ...clash, title: topicOf(tree, clash.with).title })),
    })),
    untimed: sheet.untimed.map(({ id, kind, from, to, done }) => ({
      topic: id,
      title: topicOf(tree, id).title,
      kind,
      from,
      to,
      done,
    })),
  }
}
