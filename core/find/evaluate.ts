import { addDays } from '../schedule/days'
import { ALL } from '../talk/everybody'
import type { TopicSign } from '../talk/thread'
import { isTask, type Topic, type TopicId } from '../tree/topic'
import { childrenOf, isLive, type Tree } from '../tree/tree'
import { allTopics } from '../tree/walk'
import { changedFrom, type Condition, isGroup, type Query, type SubstanceKind } from './conditions'
import { hasAll, hasWords } from './search'
import { fold, foldedText, foldedTitle, foldedNote } from './text'

/** When a person last changed a topic. */
export interface LastChange {
  readonly user: string
  /** ISO 8601 instant. */ readonly at: string
}

/** What conditions need to know besides the tree. */
export interface Circumstances {
  readonly me: string
  /** The present day, ISO 8601. */
  readonly today: string
  /** Who changed a topic when, each person's last change; nothing when it isn't known. */
  changesOf?(id: TopicId): readonly LastChange[]
  /** What was said on a topic; null for nothing, or when it isn't known. */
  talkOf(id: TopicId): TopicSign | null
  /** When a task was to begin and end by the newest baseline; null where it isn't in it. */
  agreed?(topic: TopicId): { readonly start: string; readonly finish: string } | null
  /** Whether somebody has opened a file; none counts as unopened where nobody can say. */
  isOpened?(file: string): boolean
  /** Who is in a group, by account; without it those whom the tree's own name by account. */
  inGroup?(group: string): readonly string[]
  /** Whether what a topic comes to in a measure is as asked; never where nobody can say. */
  figureMeets?(topic: TopicId, condition: FigureCondition): boolean
  /** How what the plan says is asked for (`planTest`); never met where nobody can say. */
  planTest?(condition: PlanCondition, tree: Tree, today: string, agreed: Circumstances['agreed']): Test
  /** The calendar day of an instant where the person is. */
  dayOf(instant: string): string
}

export type FigureCondition = Extract<Condition, { about: 'figure' }>
export type PlanCondition = Extract<Condition, { about: 'plan' }>
export type Test = (topic: Topic) => boolean

/** Whether a topic carries something of a kind. */
export function has(topic: Topic, what: SubstanceKind): boolean {
  switch (what) {
    case 'note':
      return topic.note !== null
    case 'link':
      return topic.links.length > 0
    case 'file':
      return topic.files.length > 0
    case 'checklist':
      return topic.checks.length > 0
    case 'place':
      return topic.place !== null
    case 'sketch':
      return topic.sketch !== null
    case 'cross-link':
      return topic.ties.length > 0
    case 'picture':
      return topic.picture !== null
    case 'vote':
      return topic.votes.length > 0
  }
}

/** Topics that a cross-link leads from or to. */
function tiedIn(tree: Tree): ReadonlySet<TopicId> {
  const tied = new Set<TopicId>()
  for (const { id, ties } of allTopics(tree)) for (const { to } of ties) if (isLive(tree, to)) tied.add(id).add(to)
  return tied
}

/** How often each marker stands. */
function markersIn(tree: Tree): ReadonlyMap<string, number> {
  const counts = new Map<string, number>()
  for (const { markers } of allTopics(tree)) for (const id of markers) counts.set(id, (counts.get(id) ?? 0) + 1)
  return counts
}

/** A filter made ready for many topics. */
export function compile(
  query: Query,
  tree: Tree,
  { me, today, changesOf, talkOf, dayOf, figureMeets, planTest, agreed, isOpened, inGroup }: Circumstances,
): Test {
  const plain = (condition: Condition): Test => {
    switch (condition.about) {
      case 'text': {
        const words = fold(condition.words).split(/\s+/).filter(Boolean)
        const text = condition.where === 'title' ? foldedTitle : condition.where === 'note' ? foldedNote : foldedText
        return condition.where === 'anywhere' ? topic => hasWords(topic, words) : topic => hasAll(text(topic), words)
      }
      case 'marker':
        return topic => topic.markers.includes(condition.marker)
      case 'person': {
        if (condition.person === 'nobody') return topic => topic.people.length === 0
        if (condition.person === 'somebody') return topic => topic.people.length > 0
        const person = condition.person === 'me' ? me : condition.person
        return topic => topic.people.includes(person)
      }
      case 'group': {
        const named = inGroup?.(condition.group) ?? tree.fields.groups.find(({ id }) => id === condition.group)?.who
        const people = new Set(named)
        return topic => topic.people.some(id => people.has(id))
      }
      case 'due':
        return dueTest(condition, today)
      case 'state':
        switch (condition.is) {
          case 'done':
            return topic => topic.done === 100
          case 'open':
            return topic => isTask(topic) && topic.done !== 100
          case 'not-begun':
            return topic => isTask(topic) && (topic.done ?? 0) === 0
          case 'under-way':
            return topic => topic.done !== null && topic.done > 0 && topic.done < 100
        }
      // falls through: never, each state returns
      case 'done':
        return topic => topic.done !== null && topic.done >= condition.least && topic.done <= condition.most
      case 'plan':
        return planTest?.(condition, tree, today, agreed) ?? (() => false)
      case 'priority':
        return topic => topic.priority !== null && topic.priority <= condition.most
      case 'depth':
        return topic => {
          let level = 0
          // No further up than it takes to know that it's too deep.
          for (let at = topic.parent; at !== null && level <= condition.most; at = tree.topics.get(at)?.parent ?? null)
            level++
          return level >= condition.least && level <= condition.most
        }
      case 'kind':
        switch (condition.is) {
          case 'task':
            return isTask
          case 'reference':
            return topic => topic.reference !== null
          case 'annex':
            return topic => topic.annex
          case 'loose':
            return topic => topic.parent === null && topic.id !== tree.centre
          case 'parent':
            return topic => childrenOf(tree, topic.id).length > 0
          case 'leaf':
            return topic => childrenOf(tree, topic.id).length === 0
          case 'untied': {
            const tied = tiedIn(tree)
            return topic => !tied.has(topic.id)
          }
          case 'again':
            return topic => topic.again !== null
          case 'lone-marker': {
            const counts = markersIn(tree)
            return topic => topic.markers.some(marker => counts.get(marker) === 1)
          }
          case 'unopened':
            return topic => isOpened !== undefined && topic.files.some(({ file }) => !isOpened(file))
        }
      // falls through: never, each kind returns
      case 'changed': {
        const from = changedFrom(condition, today)
        const by = condition.by === 'me' ? me : condition.by
        return topic =>
          (changesOf?.(topic.id) ?? []).some(
            ({ user, at }) => (by === undefined || user === by) && (from === null || dayOf(at) >= from),
          )
      }
      case 'figure':
        return topic => figureMeets?.(topic.id, condition) ?? false
      case 'has':
        return topic => has(topic, condition.what)
      case 'talk': {
        const by = condition.by === 'me' ? me : condition.by
        const fits = (sign: TopicSign): boolean => {
          switch (condition.is) {
            case 'some':
              return true
            case 'open':
              return sign.open > 0
            case 'settled':
              return sign.open === 0
            case 'names-me':
              return sign.mentions.has(me) || sign.mentions.has(ALL)
          }
        }
        return topic => {
          const sign = talkOf(topic.id)
          return sign !== null && fits(sign) && (by === undefined || sign.by.has(by))
        }
      }
    }
  }
  const build = (one: Query): Test => {
    const test = isGroup(one) ? joined(one.of.map(build), one.join) : plain(one)
    return one.not ? topic => !test(topic) : test
  }
  return build(query)
}

/** An empty group asks for nothing, so everything fits it. */
function joined(tests: readonly Test[], join: 'all' | 'any'): Test {
  if (tests.length === 0) return () => true
  if (tests.length === 1) return tests[0]!
  return join === 'all' ? topic => tests.every(test => test(topic)) : topic => tests.some(test => test(topic))
}

function dueTest(condition: Extract<Condition, { about: 'due' }>, today: string): Test {
  const { day } = condition
  switch (condition.is) {
    case 'some':
      return topic => topic.due !== null
    case 'none':
      return topic => topic.due === null
    // What is done can't be late any more.
    case 'late':
      return topic => topic.due !== null && topic.due < today && topic.done !== 100
    case 'today':
      return topic => topic.due === today
    case 'within': {
      const last = addDays(today, condition.days ?? 7)
      return topic => topic.due !== null && topic.due >= today && topic.due <= last
    }
    case 'before':
      return topic => topic.due !== null && day !== undefined && topic.due < day
    case 'after':
      return topic => topic.due !== null && day !== undefined && topic.due > day
    case 'on':
      return topic => topic.due !== null && topic.due === day
  }
}
