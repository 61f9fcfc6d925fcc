import type { Change, TopicId } from '../tree'
import type { ToldKind } from './kinds'

/** Something that one person is to be told, as it comes from what another did. */
export interface Telling {
  readonly to: string
  readonly kind: ToldKind
  readonly topic: TopicId | null
  /** What is told once of the same deed. */
  readonly once: string
  readonly data: TellingData
}

/** What a telling says beside its kind. */
export type TellingData =
  | { readonly given: boolean }
  /** `was`: what it was before; absent where that isn't known. */
  | { readonly field: 'start' | 'due'; readonly value: string | null; readonly was?: string | null }
  /** A topic that one was on was taken away. */
  | { readonly gone: true }
  | { readonly by: string }
  | { readonly role: string | null; readonly waits?: boolean }
  | { readonly count: number; readonly from: number; readonly to: number; readonly topics: readonly TopicId[] }
  | Record<never, never>

/** An edit as far as it matters here: `by` is the account that it was done by, or for. */
export interface DoneEdit {
  readonly number: number
  readonly by: string
  readonly changes: readonly Change[]
}

/** What is known of the topics that edits touch. */
export interface Around {
  /** The people on a topic. */
  peopleOn(topic: TopicId): readonly string[]
  /** The people on the topics of a branch that is taken away. */
  peopleBelow(root: TopicId): ReadonlyMap<TopicId, readonly string[]>
  /** A date as it was before an edit; undefined where that isn't known. */
  was(topic: TopicId, number: number, field: 'start' | 'due'): string | null | undefined
}

/**
 * What an edit tells people of tasks, dates and sections. Nobody is told of what they did themselves. What one edit does and takes
 * back again on a topic is nothing; a task that is given is told with its date, not beside it.
 */
export function tellingsOfEdit(edit: DoneEdit, { peopleOn, peopleBelow, was }: Around): Telling[] {
  const people = new Map<string, { topic: TopicId; to: string; given: boolean }>()
  const dates = new Map<string, { topic: TopicId; field: 'start' | 'due'; value: string | null }>()
  const asked = new Map<TopicId, string>()
  const gone = new Set<TopicId>()
  const turn = (topic: TopicId, to: string, given: boolean): void => {
    const key = `${topic} ${to}`
    const before = people.get(key)
    if (before && before.given !== given) people.delete(key)
    else people.set(key, { topic, to, given })
  }
  for (const change of edit.changes) {
    if (change.op === 'remove') gone.add(change.topic)
    if (change.op === 'restore') gone.delete(change.topic)
    if (change.op === 'add') for (const to of change.with?.people ?? []) turn(change.topic, to, true)
    if (change.op === 'put' && change.set === 'people') turn(change.topic, change.member, true)
    if (change.op === 'take' && change.set === 'people') turn(change.topic, change.member, false)
    if (change.op === 'put' && change.set === 'item' && change.member.kind === 'asked')
      asked.set(change.topic, change.member.by)
    if (change.op === 'take' && change.set === 'item' && change.member === 'asked') asked.delete(change.topic)
    if (change.op === 'set' && (change.field === 'due' || change.field === 'start'))
      dates.set(`${change.topic} ${change.field}`, { topic: change.topic, field: change.field, value: change.value })
  }
  const found: Telling[] = []
  const tell = (to: string, kind: ToldKind, topic: TopicId, data: TellingData, more = ''): void => {
    if (to !== edit.by) found.push({ to, kind, topic, once: `e${edit.number} ${kind} ${topic}${more}`, data })
  }
  const went = new Map([...gone].flatMap(root => [...peopleBelow(root)]))
  for (const [topic, on] of went) for (const to of on) tell(to, 'task', topic, { gone: true })
  for (const { topic, to, given } of people.values()) if (!went.has(topic)) tell(to, 'task', topic, { given })
  for (const { topic, field, value } of dates.values()) {
    if (went.has(topic)) continue
    const before = was(topic, edit.number, field)
    if (before === value) continue
    for (const to of peopleOn(topic))
      if (!people.has(`${topic} ${to}`))
        tell(to, 'date', topic, { field, value, ...(before === undefined ? {} : { was: before }) }, ` ${field}`)
  }
  for (const [topic, by] of asked)
    if (!went.has(topic)) for (const to of peopleOn(topic)) tell(to, 'section', topic, { by })
  return found
}

/** The topics that an edit touches; null stands for the tree itself. */
export function touchedTopics(changes: readonly Change[]): ReadonlySet<TopicId | null> {
  return new Set(changes.map(change => ('topic' in change ? change.topic : null)))
}

/** Whether a topic is one, or below one, of those that are watched, by the ways up. */
export function watchedAbove(
  topic: TopicId | null,
  watched: ReadonlySet<TopicId>,
  parentOf: (topic: TopicId) => TopicId | null | undefined,
): TopicId[] {
  const found: TopicId[] = []
  const seen = new Set<TopicId>()
  for (let at: TopicId | null | undefined = topic; at != null && !seen.has(at); at = parentOf(at)) {
    seen.add(at)
    if (watched.has(at)) found.push(at)
  }
  return found
}
