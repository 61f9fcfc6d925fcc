import { en } from 'chrono-node'
import type { Change, Field, Initial } from '../tree/change'
import type { TopicId } from '../tree/topic'
import type { OutlineItem } from '../tree/outline'

export interface Known {
  readonly people: readonly { readonly id: string, readonly name: string }[]
  readonly markers: readonly { readonly id: string, readonly name: string }[]
  /** The calendar day that words like "fri" count from, ISO 8601. */
  readonly today: string
}

/** One thing that was understood, for showing while somebody types. */
export interface Chip {
  readonly kind: 'person' | 'start' | 'due' | 'length' | 'done' | 'priority' | 'marker'
  readonly text: string
}

export interface Understood {
  readonly title: string
  readonly details: Pick<Initial, 'people' | 'start' | 'due' | 'duration' | 'done' | 'priority' | 'markers'>
  readonly chips: readonly Chip[]
}

/** `//` with white space before it and after it (or the end): never the one in an address. */
const DIVIDER = /(?:^|\s)\/\/(?:\s+|$)/

/** Working days in a week, for "2 weeks" as a length. Common practice, no source. */
const WORKING_WEEK = 5

/** A whole phrase that names a certain day, as an ISO 8601 date; null when it doesn't. */
export function readDay(phrase: string, today: string): string | null {
  const text = phrase.trim()
  if (/^\d{4}-\d{2}-\d{2}$/.test(text)) return Number.isNaN(Date.parse(text)) ? null : text
  const reference = { instant: new Date(`${today}T12:00:00Z`), timezone: 0 }
  for (const reader of [en.GB, en.casual]) {
    const [match, ...more] = reader.parse(text, reference, { forwardDate: true })
    if (!match || more.length > 0 || match.text.length !== text.length || match.end) continue
    const { start } = match
    if (!start.isCertain('day') && !start.isCertain('weekday')) continue
    const day = [String(start.get('year')).padStart(4, '0'), String(start.get('month')).padStart(2, '0'), String(start.get('day')).padStart(2, '0')].join('-')
    return day
  }
  return null
}

function findPerson(word: string, people: Known['people']): Known['people'][number] | null {
  const said = word.toLocaleLowerCase()
  const initials = (name: string): string => name.split(/\s+/).map(part => part[0] ?? '').join('').toLocaleLowerCase()
  const exact = people.filter(({ name }) => {
    const whole = name.toLocaleLowerCase()
    return whole === said || whole.split(/\s+/)[0] === said || initials(name) === said
  })
  if (exact.length === 1) return exact[0]!
  const begun = said.length >= 3 ? people.filter(({ name }) => name.toLocaleLowerCase().startsWith(said)) : []
  return begun.length === 1 ? begun[0]! : null
}

/**
 * Reads plain words after `//` in a title: people, dates, a length, done, priority, marker names, parted by commas.
 * What is understood becomes details; what isn't stays in the title.
 */
export function readDetails(text: string, known: Known): Understood {
  const divider = DIVIDER.exec(text)
  if (!divider) return { title: text, details: {}, chips: [] }
  const details: { -readonly [K in keyof Understood['details']]: Understood['details'][K] } = {}
  const chips: Chip[] = []
  const left: string[] = []
  for (const part of text.slice(divider.index + divider[0].length).split(',').map(piece => piece.trim()).filter(Boolean)) {
    const chip = understand(part, known, details)
    if (chip) chips.push(chip)
    else left.push(part)
  }
  const title = text.slice(0, divider.index).trimEnd()
  return { title: left.length > 0 ? `${title} // ${left.join(', ')}` : title, details, chips }
}

/** What was understood, as the changes that give it to a topic. */
export function detailChanges(topic: TopicId, details: Understood['details']): Change[] {
  return Object.entries(details).flatMap(([name, value]): Change[] => name === 'people' || name === 'markers'
    ? (value as string[]).map(member => ({ op: 'put', topic, set: name, member }))
    : [{ op: 'set', topic, field: name as Field, value } as Change])
}

function understand(part: string, known: Known, details: { -readonly [K in keyof Understood['details']]: Understood['details'][K] }): Chip | null {
  const done = /^(\d{1,3})\s*%$/.exec(part)
  if ((done && Number(done[1]) <= 100) || /^done$/i.test(part)) {
    details.done = done ? Number(done[1]) : 100
    return { kind: 'done', text: `${details.done} % done` }
  }
  const length = /^(\d{1,4}(?:\.\d)?)\s*(d|days?|w|weeks?)$/i.exec(part)
  if (length) {
    details.duration = Number(length[1]) * (/^w/i.test(length[2]!) ? WORKING_WEEK : 1)
    return { kind: 'length', text: `${details.duration} working ${details.duration === 1 ? 'day' : 'days'}` }
  }
  const priority = /^(?:p|priority\s+)([1-5])$/i.exec(part)
  if (priority) {
    details.priority = Number(priority[1])
    return { kind: 'priority', text: `priority ${priority[1]}` }
  }
  const marker = known.markers.find(({ id, name }) => [id, name.toLowerCase(), name.toLowerCase().replace('at ', '')].includes(part.toLowerCase()))
  if (marker) {
    details.markers = [...details.markers ?? [], marker.id]
    return { kind: 'marker', text: marker.name }
  }
  const person = findPerson(part.replace(/^@/, ''), known.people)
  if (person) {
    details.people = [...details.people ?? [], person.id]
    return { kind: 'person', text: person.name }
  }
  const dated = /^(due|by|start|from)\s+(.+)$/i.exec(part)
  const day = readDay(dated ? dated[2]! : part, known.today)
  if (day) {
    const kind = dated && /^(?:start|from)$/i.test(dated[1]!) ? 'start' : 'due'
    details[kind] = day
    return { kind, text: `${kind} ${day}` }
  }
  return null
}

/** Items with what their titles say after `//` as details, all the way down; what an item carries already stays, unless the words say otherwise. */
export function readItems(items: readonly OutlineItem[], known: Known): OutlineItem[] {
  return items.map((item) => {
    const { title, details: said } = readDetails(item.title, known)
    const details = { ...item.details, ...said }
    return { title, ...(Object.keys(details).length > 0 ? { details } : {}), children: readItems(item.children, known) }
  })
}
