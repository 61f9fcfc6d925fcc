import { readDay, readLength } from '../schedule/day-words'
import { timesAtTheEnd } from '../schedule/clock-words'
import { momentInWords } from '../schedule/times'
import { addDays, dayInWords } from '../schedule/days'
import type { Field } from '../tree/fields'
import type { Figure } from '../tree/figure'
import type { Change, Initial } from '../tree/change'
import { readRhythmWords, rhythmInWords } from '../schedule/turn-words'
import { firstTurn } from '../schedule/turns'
import { type Rhythm, writeRhythm } from '../tree/again'
import type { Wait } from '../tree/plan'
import type { TopicId } from '../tree/topic'
import type { OutlineItem } from '../tree/outline'

export interface Known {
  readonly people: readonly Person[]
  readonly markers: readonly { readonly id: string; readonly name: string }[]
  /** The calendar day that words like "fri" count from, ISO 8601. */
  readonly today: string
  /** The person's locale, for names of days and months. */
  readonly locale?: string
  /** The topic that words after “after” name, which the one that is typed may wait for; null where none is meant, or several are. */
  /** A figure that words mean in the tree's measures; null where they mean none. */
  readonly figureIn?: ((words: string) => QuickFigure | null) | undefined
  /** When the topic is due already, from which what comes again is counted, and whose times of day are said. */
  readonly due?: string | null
  readonly start?: string | null
  readonly topicCalled?: (words: string) => { readonly id: TopicId; readonly title: string } | null
}
/** What stands in a measure of the tree. */
interface QuickFigure {
  readonly figure: Figure
  readonly text: string
}
interface Person {
  readonly id: string
  readonly name: string
  readonly email?: string
}

/** One thing that was understood, for showing while somebody types. */
export interface Chip {
  readonly kind:
    | 'person'
    | 'start'
    | 'due'
    | 'length'
    | 'estimate'
    | 'work'
    | 'waits'
    | 'done'
    | 'priority'
    | 'marker'
    | 'figure'
    | 'again'
    | 'which'
  readonly text: string
  /** Of `which`: what was said, and what it may mean; put in its place, each is understood. */
  readonly said?: string
  readonly choices?: readonly string[]
}

export interface Understood {
  readonly title: string
  readonly details: Pick<
    Initial,
    | 'people'
    | 'start'
    | 'due'
    | 'startTime'
    | 'dueTime'
    | 'duration'
    | 'estimate'
    | 'effort'
    | 'waits'
    | 'done'
    | 'priority'
    | 'markers'
    | 'figures'
    | 'again'
  >
  readonly chips: readonly Chip[]
}

/** `//` with white space before it and after it (or the end): never the one in an address. */
const DIVIDER = /(?:^|\s)\/\/(?:\s+|$)/

/**
 * Who is meant: by the whole name, an address, the first name, initials, or three letters and more that a name begins
 * with. Several when they can't be told apart.
 */
function findPeople(word: string, people: readonly Person[], exactly = false): readonly Person[] {
  const said = word.toLocaleLowerCase()
  const initials = (name: string): string =>
    name
      .split(/\s+/)
      .map(part => part[0] ?? '')
      .join('')
      .toLocaleLowerCase()
  const ways: readonly ((person: Person) => boolean)[] = [
    ({ name, email }) => name.toLocaleLowerCase() === said || email?.toLocaleLowerCase() === said,
    ({ name }) => name.toLocaleLowerCase().split(/\s+/)[0] === said,
    ({ name }) => said.length > 1 && initials(name) === said,
    ({ name }) => said.length >= 3 && name.toLocaleLowerCase().startsWith(said),
  ]
  for (const way of exactly ? ways.slice(0, 2) : ways) {
    const found = people.filter(way)
    if (found.length > 0) return found
  }
  return []
}

/** What to write to mean this one and nobody else: the name, or the address where two have one name. */
function surely(person: Person, people: readonly Person[]): string {
  return people.filter(other => other.name.toLocaleLowerCase() === person.name.toLocaleLowerCase()).length > 1 &&
    person.email
    ? person.email
    : person.name
}

/**
 * Parts between commas. A comma inside a number belongs to it, and one before a year to the day it follows: "2,5
 * days", "Dec 15, 2028".
 */
function partsOf(text: string, known: Known): string[] {
  const parts: string[] = []
  for (const part of text
    .split(/,(?!\d)|(?<!\d),/)
    .map(piece => piece.trim())
    .filter(Boolean)) {
    const before = parts.at(-1)
    if (before !== undefined && /^\d{4}$/.test(part) && readDay(`${before}, ${part}`, known) !== null)
      parts[parts.length - 1] = `${before}, ${part}`
    else parts.push(part)
  }
  return parts
}

/**
 * Reads plain words after `//` in a title: people, dates, a length, done, priority, marker names, parted by commas.
 * What is understood becomes details; what isn't stays in the title.
 */
export function readDetails(text: string, known: Known): Understood {
  const divider = DIVIDER.exec(text)
  if (!divider) return { title: text, details: {}, chips: [] }
  const details: Details = {}
  const chips: Chip[] = []
  const left: string[] = []
  let comesAgain: ReturnType<typeof readRhythmWords> = null
  const times: Times[] = []
  for (const part of partsOf(text.slice(divider.index + divider[0].length), known)) {
    const rhythm = readRhythmWords(part, known)
    if (rhythm) {
      comesAgain = rhythm
      continue
    }
    const time = timesAlone(part)
    if (time) {
      times.push(time)
      continue
    }
    const chip = understand(part, known, details)
    if (chip) chips.push(chip)
    if (!chip || chip.kind === 'which') left.push(part)
  }
  // Counted from the day that is said beside it, wherever it stands.
  if (comesAgain) chips.push(again(comesAgain, known, details))
  for (const one of times) chips.push(atTimes(one, known, details))
  const title = text.slice(0, divider.index).trimEnd()
  return { title: left.length > 0 ? `${title} // ${left.join(', ')}` : title, details, chips }
}

type Details = { -readonly [K in keyof Understood['details']]: Understood['details'][K] }

/** “due”, “by”, “from” … and a day, a time, or both. */
const DATED = /^(due|by|start|from|starts|not before)\s+(.+)$/i
const isStart = (word: string): boolean => /^(?:starts?|from|not before)$/i.test(word)

/** Times of day, and of what; null: nobody said whether it begins or ends then. */
interface Times {
  readonly from: string
  readonly to: string | null
  readonly kind: 'start' | 'due' | null
}

/** “14:30”, “from 7:30”, “9:30 to 11:00”: times alone, of a day that is said beside them or is there. */
function timesAlone(part: string): Times | null {
  const dated = DATED.exec(part)
  const times = timesAtTheEnd(dated ? dated[2]! : part)
  if (!times || times.before !== '') return null
  return { ...times, kind: dated ? (isStart(dated[1]!) ? 'start' : 'due') : null }
}

function atTimes({ from, to, kind }: Times, known: Known, details: Details): Chip {
  const start = details.start ?? known.start ?? null
  const due = details.due ?? known.due ?? null
  if (to !== null) return between(details.start ?? due ?? start ?? known.today, from, to, known, details)
  // Where only a start is known, the time is the start's.
  const of = kind ?? (due === null && start !== null ? 'start' : 'due')
  return onDay(of, (of === 'start' ? (start ?? due) : (due ?? start)) ?? known.today, from, known, details)
}

/** A day that is there already isn't said again: somebody else may be moving it. */
function setDay(kind: 'start' | 'due', day: string, known: Known, details: Details): void {
  if (details[kind] !== undefined || known[kind] !== day) details[kind] = day
}

/** A start or a due date, with its time where one was said. */
function onDay(kind: 'start' | 'due', day: string, time: string | null, known: Known, details: Details): Chip {
  setDay(kind, day, known, details)
  if (time !== null) details[kind === 'start' ? 'startTime' : 'dueTime'] = time
  return { kind, text: `${kind} ${momentInWords(day, time, known.locale)}` }
}

/** From one time of a day to another; one that isn't later is the next day's. */
function between(day: string, from: string, to: string, known: Known, details: Details): Chip {
  // After the last day that ISO 8601's four digits can say there is none.
  const end = to > from || day === '9999-12-31' ? day : addDays(day, 1)
  setDay('start', day, known, details)
  setDay('due', end, known, details)
  Object.assign(details, { startTime: from, dueTime: to })
  return {
    kind: 'start',
    text: `${momentInWords(day, from, known.locale)} to ${end === day ? to : momentInWords(end, to, known.locale)}`,
  }
}

/** How it comes again: from the day it's due, or from the first such day from today on, which is then its due date. */
function again(rhythm: (from: string) => Rhythm, known: Known, details: Details): Chip {
  const due = details.due ?? known.due
  const rule = writeRhythm(rhythm(due ?? known.today))
  // “Every Monday” from a Wednesday begins on the Monday after it.
  const from = due ?? firstTurn(rule, known.today)
  details.again = { rule, from }
  if (!due) details.due = from
  return { kind: 'again', text: `${rhythmInWords(rule, known.locale)}, next on ${dayInWords(from, known.locale)}` }
}

/** What was understood, as the changes that give it to a topic. */
export function detailChanges(topic: TopicId, details: Understood['details']): Change[] {
  return Object.entries(details).flatMap(([name, value]): Change[] =>
    name === 'people' || name === 'markers' || name === 'waits' || name === 'figures'
      ? (value as (string | Wait | Figure)[]).map(member => ({ op: 'put', topic, set: name, member }) as Change)
      : [{ op: 'set', topic, field: name as Field, value } as Change],
  )
}

/** “3 to 8 days”, “3 to 4 to 8 d”: best and worst, with what is likely between them where it's said. */
const RANGE =
  /^(\d{1,5}(?:[.,]\d{1,2})?)\s*(?:–|-|to)\s*(?:(\d{1,5}(?:[.,]\d{1,2})?)\s*(?:–|-|to)\s*)?(\d{1,5}(?:[.,]\d{1,2})?\s*\p{L}+)\.?$/u
const HOURS = /^(\d{1,6}(?:[.,]\d{1,2})?)\s*(?:h|hrs?|hours?|std|stunden?|heures?|horas?|timer?)\.?$/i
const AFTER = /^after\s+(.+?)(?:\s*\+\s*(\d.*))?$/i

/** What the plan takes: estimates, hours of work, what it waits for. */
function understandPlan(part: string, known: Known, details: Details): Chip | null {
  const range = RANGE.exec(part)
  const worst = range && readLength(range[3]!, known.locale)
  if (range && worst !== null) {
    const unit = /\p{L}+\.?$/u.exec(range[3]!)![0]
    const best = readLength(`${range[1]} ${unit}`, known.locale)
    const said = range[2] === undefined ? null : readLength(`${range[2]} ${unit}`, known.locale)
    const likely = said ?? (best === null || worst === null ? null : Math.round((best + worst) * 50) / 100)
    if (best !== null && worst !== null && likely !== null && best <= likely && likely <= worst) {
      details.estimate = { best, likely, worst }
      return { kind: 'estimate', text: `${best} to ${worst} working days, likely ${likely}` }
    }
  }
  const hours = HOURS.exec(part)
  if (hours) {
    details.effort = Number(hours[1]!.replace(',', '.'))
    return { kind: 'work', text: `${details.effort} ${details.effort === 1 ? 'hour' : 'hours'} of work` }
  }
  const after = AFTER.exec(part)
  const lag = after?.[2] === undefined ? 0 : readLength(after[2], known.locale)
  const topic = after && lag !== null ? known.topicCalled?.(after[1]!) : null
  if (!topic || lag === null) return null
  const wait: Wait = { id: `after-${topic.id}`.slice(0, 40), on: topic.id, kind: 'FS', lag, days: 'working' }
  details.waits = [...(details.waits ?? []), wait]
  return { kind: 'waits', text: `after ${topic.title}${lag ? `, ${lag} working ${lag === 1 ? 'day' : 'days'}` : ''}` }
}

function understand(part: string, known: Known, details: Details): Chip | null {
  const figure = known.figureIn?.(part)
  if (figure) {
    details.figures = [...(details.figures ?? []).filter(({ id }) => id !== figure.figure.id), figure.figure]
    return { kind: 'figure', text: figure.text }
  }
  const done = /^(\d{1,3})\s*%$/.exec(part)
  if ((done && Number(done[1]) <= 100) || /^done$/i.test(part)) {
    details.done = done ? Number(done[1]) : 100
    return { kind: 'done', text: `${details.done} % done` }
  }
  const planned = understandPlan(part, known, details)
  if (planned) return planned
  const length = readLength(part, known.locale)
  if (length !== null) {
    details.duration = length
    return { kind: 'length', text: `${length} working ${length === 1 ? 'day' : 'days'}` }
  }
  const priority = /^(?:p|priority\s+)([1-5])$/i.exec(part)
  if (priority) {
    details.priority = Number(priority[1])
    return { kind: 'priority', text: `priority ${priority[1]}` }
  }
  const word = part.toLocaleLowerCase()
  // By its very name before by what it's called for short: "risk" is no short form where a marker has that name.
  const marker =
    known.markers.find(({ id, name }) => [id, name.toLocaleLowerCase()].includes(word)) ??
    known.markers.find(({ name }) => name.toLocaleLowerCase() === `at ${word}`)
  if (marker) {
    details.markers = [...(details.markers ?? []), marker.id]
    return { kind: 'marker', text: marker.name }
  }
  // A day word beats a name that begins like it; with @ somebody is meant.
  const dated = DATED.exec(part)
  const name = part.replace(/^@/, '')
  const called = findPeople(name, known.people, true)
  // “frida” begins Friday, but where a Frida works it's her; “fri” is Friday all the same.
  const sense = { today: known.today, locale: known.locale, whole: called.length > 0 }
  const said = dated ? dated[2]! : part
  const whole = readDay(said, sense)
  const times = whole === null ? timesAtTheEnd(said) : null
  const day = whole ?? (times && readDay(times.before, sense))
  if (day && times?.to != null) return between(day, times.from, times.to, known, details)
  if (day) return onDay(dated && isStart(dated[1]!) ? 'start' : 'due', day, times?.from ?? null, known, details)
  const people = called.length > 0 ? called : findPeople(name, known.people)
  if (people.length > 1)
    return {
      kind: 'which',
      text: `Which ${name}?`,
      said: part,
      choices: people.slice(0, 6).map(person => surely(person, known.people)),
    }
  const [person] = people
  if (person) {
    details.people = [...(details.people ?? []), person.id]
    return { kind: 'person', text: person.name }
  }
  return null
}

/**
 * Items with what their titles say after `//` as details, all the way down; what an item carries already stays, unless
 * the words say otherwise.
 */
export function readItems(items: readonly OutlineItem[], known: Known): OutlineItem[] {
  return items.map(item => {
    const { title, details: said } = readDetails(item.title, known)
    const details = { ...item.details, ...said }
    return { title, ...(Object.keys(details).length > 0 ? { details } : {}), children: readItems(item.children, known) }
  })
}
