import { dayInWords } from '../schedule/days'
import { shorten } from '../tree/title'
import type { TellingData } from './from-edit'
import type { ToldKind } from './kinds'

/** A telling as whoever it's for reads it. */
export interface Tidings {
  readonly id: number
  readonly kind: ToldKind
  /** ISO 8601 instant. */
  readonly at: string
  readonly by: { readonly id: string; readonly name: string }
  readonly tree: { readonly id: string; readonly title: string }
  readonly topic: { readonly id: string; readonly title: string } | null
  /** Of a comment: the thread it is in, and how it begins. */
  readonly said: { readonly thread: string; readonly words: string } | null
  readonly data: TellingData
  readonly read: boolean
  /** Whether one wants to be told of it at once. */
  readonly loud: boolean
}

/** Things of one kind that are told together, newest first. */
export interface TidingsGroup {
  readonly kind: ToldKind
  readonly all: readonly Tidings[]
  readonly read: boolean
}

/** What belongs to one place is told together: talk by topic, the rest by tree. */
const placeOf = ({ kind, tree, topic, read }: Tidings): string =>
  [kind, tree.id, kind === 'mention' || kind === 'reply' || kind === 'watched' ? topic?.id : '', read].join(' ')

/** Puts together what is of one kind and place; each stands where its newest does. `list`: newest first. */
export function grouped(list: readonly Tidings[]): TidingsGroup[] {
  const found = new Map<string, Tidings[]>()
  for (const one of list) {
    const place = placeOf(one)
    const there = found.get(place)
    if (there) there.push(one)
    else found.set(place, [one])
  }
  return [...found.values()].map(all => ({ kind: all[0]!.kind, all, read: all[0]!.read }))
}

const named = (title: string): string => `“${shorten(title || 'untitled', 60)}”`

function people(all: readonly Tidings[]): string {
  const names = [...new Map(all.map(({ by }) => [by.id, by.name])).values()]
  if (names.length <= 2) return names.join(' and ')
  return `${names[0]} and ${names.length - 1} others`
}

const times = (count: number): string => (count === 1 ? '' : count === 2 ? ' twice' : ` ${count} times`)

/** One sentence for a group, without an end mark. */
export function tidingsInWords({ kind, all }: TidingsGroup): string {
  const [first] = all
  const { topic, tree, data } = first!
  const who = people(all)
  const where = topic ? named(topic.title) : `the talk of ${named(tree.title)}`
  const topics = new Set(all.map(one => one.topic?.id)).size
  const what = topics === 1 ? named(topic?.title ?? '') : `${named(topic?.title ?? '')} and ${topics - 1} more`
  switch (kind) {
    case 'mention':
      return `${who} mentioned you${times(all.length)} ${topic ? 'on' : 'in'} ${where}`
    case 'reply':
      return `${who} replied${times(all.length)} on ${where}`
    case 'task': {
      if (all.every(one => 'gone' in one.data)) return `${who} took away ${what}, which you were on`
      const given = all.filter(one => 'given' in one.data && one.data.given).length
      if (given === all.length) return `${who} put you on ${what}`
      return given === 0 ? `${who} took you off ${what}` : `${who} put you on or took you off ${what}`
    }
    case 'date': {
      if (all.length > 1) return `${who} moved dates of ${what}`
      if (!('field' in data)) return `${who} moved a date of ${what}`
      const name = data.field === 'due' ? 'due date' : 'start'
      if (data.value === null)
        return `${who} took the ${name}${data.was ? `, ${dayInWords(data.was)},` : ''} from ${what}`
      return data.was
        ? `${who} moved the ${name} of ${what} from ${dayInWords(data.was)} to ${dayInWords(data.value)}`
        : `${who} set the ${name} of ${what} to ${dayInWords(data.value)}`
    }
    case 'section':
      return all.length === 1 && 'by' in data
        ? `${who} asks you to fill in ${what} by ${dayInWords(data.by)}`
        : `${who} asks you to fill in ${what}`
    case 'invited': {
      const role = 'role' in data ? data.role : null
      if ('waits' in data && data.waits) return `${who} invites you to ${named(tree.title)}`
      return role === null
        ? `${who} took you out of ${named(tree.title)}`
        : `${who} made you ${role} of ${named(tree.title)}`
    }
    case 'watched': {
      const count = all.reduce((sum, one) => sum + ('count' in one.data ? one.data.count : 1), 0)
      return `${who} changed ${topic ? named(topic.title) : named(tree.title)}${times(count)}`
    }
  }
}

/** Where in the app a group is about. */
export function tidingsLink({ kind, all }: Pick<TidingsGroup, 'kind' | 'all'>): string {
  const { tree, topic, said, data } = all[0]!
  // The way to take an invitation up stands on Home.
  if ('waits' in data && data.waits) return '/'
  if ('role' in data && data.role === null) return '/trees'
  const path = `/trees/${tree.id}`
  if (said && !topic) return `${path}?panel=bench`
  // What went is named where one sees what is new.
  if ('gone' in data) return `${path}?panel=since`
  if (!topic) return kind === 'watched' ? `${path}?panel=since` : path
  return `${path}?topic=${topic.id}${said ? '&panel=comments' : ''}`
}
