import { addDays, dayInWords } from '../schedule/days'
import {
  type Condition,
  isGroup,
  type KINDS,
  type PLANNED,
  type Query,
  type STATES,
  type TALK_STATES,
} from '../tree/query'

export * from '../tree/query'

/*
 * A filter as people read it.
 */

/** Names for what a condition holds by id. */
export interface Names {
  marker(id: string): string
  person(id: string): string
  measure?(id: string): string
  group?(id: string): string
}

export const KIND_WORDS: Record<(typeof KINDS)[number], string> = {
  task: 'a task',
  reference: 'a reference',
  annex: 'with an annex',
  loose: 'loose',
  parent: 'with something under it',
  leaf: 'with nothing under it',
  untied: 'with no cross-link from or to it',
  'lone-marker': 'with a marker that stands nowhere else',
  again: 'that comes again',
  unopened: 'with a file that nobody has opened',
}
const TALK_WORDS: Record<(typeof TALK_STATES)[number], string> = {
  some: 'with comments',
  open: 'with comments that aren’t settled',
  settled: 'with comments that are all settled',
  'names-me': 'with comments that name me',
}
const PLAN_WORDS: Record<Exclude<(typeof PLANNED)[number], 'tight'>, string> = {
  critical: 'that must not slip',
  late: 'planned to end late',
  slipped: 'planned to end later than agreed',
  agreed: 'in the newest baseline',
  waits: 'that can’t begin yet',
  ready: 'that can begin now',
  overloaded: 'in a week in which somebody has too much',
}
const STATE_WORDS: Record<(typeof STATES)[number], string> = {
  open: 'open',
  'not-begun': 'not begun',
  'under-way': 'under way',
  done: 'done',
}

/** A condition in words that carry on the sentence "Topics …": "due within 7 days", "not marked Risk". */
export function conditionInWords(condition: Condition, names: Names): string {
  const words = plainWords(condition, names)
  return condition.not ? `not ${words}` : words
}

function plainWords(condition: Condition, names: Names): string {
  switch (condition.about) {
    case 'text':
      return `with “${condition.words}”${condition.where === 'anywhere' ? '' : ` in the ${condition.where}`}`
    case 'marker':
      return `marked ${names.marker(condition.marker)}`
    case 'person':
      return condition.person === 'me'
        ? 'mine'
        : condition.person === 'nobody'
          ? 'nobody’s'
          : condition.person === 'somebody'
            ? 'somebody’s'
            : `of ${names.person(condition.person)}`
    case 'group':
      return `of somebody in ${names.group?.(condition.group) ?? 'a group'}`
    case 'due': {
      const date = condition.day ? dayInWords(condition.day) : '…'
      const said: Record<typeof condition.is, string> = {
        late: 'late',
        today: 'due today',
        within: `due within ${condition.days ?? 7} days`,
        before: `due before ${date}`,
        after: `due after ${date}`,
        on: `due on ${date}`,
        some: 'with a due date',
        none: 'without a due date',
      }
      return said[condition.is]
    }
    case 'state':
      return STATE_WORDS[condition.is]
    case 'done':
      return condition.least === condition.most
        ? `${condition.least} % done`
        : condition.most === 100
          ? `${condition.least} % done or more`
          : condition.least === 0
            ? `${condition.most} % done or less`
            : `${condition.least} to ${condition.most} % done`
    case 'plan':
      return condition.is === 'tight' ? `with float under ${condition.days ?? 5} d` : PLAN_WORDS[condition.is]
    case 'priority':
      return condition.most === 1 ? 'of priority 1' : `of priority 1 to ${condition.most}`
    case 'depth':
      return condition.least === condition.most
        ? `at depth ${condition.least}`
        : condition.least === 0
          ? `to depth ${condition.most}`
          : condition.most >= 400
            ? `from depth ${condition.least}`
            : `at depth ${condition.least} to ${condition.most}`
    case 'kind':
      return KIND_WORDS[condition.is]
    case 'changed': {
      const when = condition.since
        ? ` since ${dayInWords(condition.since)}`
        : condition.days === undefined
          ? ''
          : condition.days === 0
            ? ' today'
            : ` in the last ${condition.days} days`
      return `changed${when}${condition.by ? ` by ${condition.by === 'me' ? 'me' : names.person(condition.by)}` : ''}`
    }
    case 'figure': {
      const measure = names.measure?.(condition.measure) ?? 'a figure'
      const said: Record<typeof condition.is, string> = {
        over: `over ${condition.value ?? '…'}`,
        under: `under ${condition.value ?? '…'}`,
        off: 'off its target',
        some: 'that is there',
        none: 'that is missing',
        wrong: 'that can’t be worked out',
      }
      return `with ${measure} ${said[condition.is]}`
    }
    case 'has':
      return `with a ${condition.what}`
    case 'talk': {
      const by = condition.by ? ` by ${condition.by === 'me' ? 'me' : names.person(condition.by)}` : ''
      return `${TALK_WORDS[condition.is]}${by}`
    }
  }
}

/** A whole filter as a sentence. */
export function queryInWords(query: Query, names: Names, inner = false): string {
  if (!isGroup(query)) return conditionInWords(query, names)
  const joined = query.of.map(one => queryInWords(one, names, true)).join(query.join === 'all' ? ' and ' : ' or ')
  if (query.not) return `not (${joined})`
  return inner && query.of.length > 1 ? `(${joined})` : joined
}

/** The day a `changed` condition counts from; null when any change counts. */
export function changedFrom(condition: Extract<Condition, { about: 'changed' }>, today: string): string | null {
  return condition.since ?? (condition.days === undefined ? null : addDays(today, -condition.days))
}
