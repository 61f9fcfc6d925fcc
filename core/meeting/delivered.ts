import type { Change } from '../tree/change'
import type { Standing } from '../tree/meeting'
import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { itemsOf } from './agenda'
import { type Brief, briefOf } from './brief'
import { entriesIn } from './record'

/*
 * What of the things that must be settled was delivered: said by hand with a word of why, else reached by the decision of an item that
 * serves it, else open.
 */

export interface Delivered {
  /** Of the thing to be settled. */
  readonly id: string
  readonly text: string
  /** Null while it's open. */
  readonly is: Standing | null
  readonly why: string
  /** Whether somebody said so; else the decisions did. */
  readonly byHand: boolean
  /** Titles of the decisions in items that serve it. */
  readonly decisions: readonly string[]
}

export function deliveredOf(tree: Tree, meeting: TopicId): Delivered[] {
  const brief = briefOf(topicOf(tree, meeting))
  const agenda = itemsOf(tree, meeting)
  return brief.musts.map(({ id, text }) => {
    const decisions = agenda
      .filter(({ serves }) => serves.includes(id))
      .flatMap(item => entriesIn(tree, item.id))
      .filter(({ entry }) => entry!.kind === 'decision')
      .map(({ title }) => title)
    const said = outcomeIn(brief, id)
    return {
      id,
      text,
      decisions,
      is: said?.is ?? (decisions.length > 0 ? 'reached' : null),
      why: said?.why ?? '',
      byHand: said !== undefined,
    }
  })
}

const outcomeIn = (brief: Brief, must: string) => brief.outcomes.find(({ of }) => of === must)

/** How many were reached, partly, not, and how many are open. */
export type Tally = Readonly<Record<Standing | 'open', number>>

export function tallyOf(delivered: readonly Pick<Delivered, 'is'>[]): Tally {
  const count = (is: Standing | null): number => delivered.filter(one => one.is === is).length
  return { reached: count('reached'), partly: count('partly'), not: count('not'), open: count(null) }
}

/** "2 of 3 reached, 1 partly"; '' where nothing is to be settled. */
export function tallyInWords({ reached, partly, not, open }: Tally): string {
  const all = reached + partly + not + open
  if (all === 0) return ''
  return [
    `${reached} of ${all} reached`,
    partly ? `${partly} partly` : '',
    not ? `${not} not` : '',
    open ? `${open} open` : '',
  ]
    .filter(Boolean)
    .join(', ')
}

export const STANDING_WORDS: Record<Standing, string> = {
  reached: 'reached',
  partly: 'partly reached',
  not: 'not reached',
}

/** "reached: Two Rivers moves us", "partly reached: the price is open", "not settled". */
export function deliveredInWords({
  is,
  why,
  byHand,
  decisions,
}: Pick<Delivered, 'is' | 'why' | 'byHand' | 'decisions'>): string {
  if (is === null) return 'not settled'
  const because = byHand && why ? why : decisions.join('; ')
  return because ? `${STANDING_WORDS[is]}: ${because}` : STANDING_WORDS[is]
}

/** The part of a brief that says how a thing to be settled turned out. Its id is made of that thing's, so that there is one. */
const outcomeId = (must: string): string => `o-${must}`.slice(0, 40)

/** Says by hand how a thing turned out; null leaves it to the decisions again. */
export function sayOutcome(meeting: TopicId, must: string, is: Standing | null, why = ''): Change {
  return is === null
    ? { op: 'take', topic: meeting, set: 'meeting', member: outcomeId(must) }
    : {
        op: 'put',
        topic: meeting,
        set: 'meeting',
        member: { id: outcomeId(must), kind: 'outcome', of: must, is, why: why.trim().toWellFormed().slice(0, 500) },
      }
}
