/*
 * Whether a meeting is ready to be held: what is missing, in words, who can mend it, and where. Pure: what it needs to
 * know of the world (whose calendar is taken, which documents open) is passed in.
 */

import type { Intent } from '../tree/meeting'
import { shorten } from '../tree/title'

/** One sentence for why is as much as people keep in mind. Common practice, no source. */
export const LONGEST_WHY = 200

export interface PlannedItem {
  readonly id: string
  readonly title: string
  readonly intent: Intent
  readonly minutes: number | null
  readonly owner: string | null
  /** The things that must be settled which this item serves. */
  readonly serves: readonly string[]
  /** The owner was asked to fill in the section by a day, and whether they have. */
  readonly section: { readonly by: string; readonly ready: boolean } | null
  readonly documents: readonly { readonly name: string; readonly opens: boolean }[]
  /** Of how many who were invited to it, how many have read it as it stands; null when there is nothing to read, or nobody. */
  readonly reading: { readonly of: number; readonly read: number } | null
}

export interface Invited {
  readonly id: string
  readonly name: string
  readonly needed: boolean
  readonly invited: boolean
  /** Another meeting at the same time, by its title. */
  readonly elsewhere: string | null
}

export interface Planned {
  readonly lead: string
  readonly why: string
  /** How many must be settled at most, by the tree’s setting. */
  readonly mostMusts: number
  /** In order; the first ones must be settled, the rest goes to a later meeting. */
  readonly musts: readonly { readonly id: string; readonly text: string }[]
  readonly items: readonly PlannedItem[]
  /** Minutes that were set aside; null when the items alone decide. */
  readonly slot: number | null
  /** Whether it has a day and time, and one that exists on the wall. */
  readonly start: 'none' | 'gap' | 'set'
  /** False while there are items that aren't topics of the tree yet. */
  readonly laidOut: boolean
  readonly people: readonly Invited[]
}

export type FindingKind =
  | 'why-missing'
  | 'why-long'
  | 'musts-missing'
  | 'musts-many'
  | 'must-unserved'
  | 'items-missing'
  | 'item-minutes'
  | 'item-owner'
  | 'section-open'
  | 'document-closed'
  | 'unread'
  | 'over-slot'
  | 'start-missing'
  | 'start-gap'
  | 'not-laid-out'
  | 'nobody-needed'
  | 'not-invited'
  | 'elsewhere'

export interface Finding {
  readonly kind: FindingKind
  /** 'stop': the meeting shouldn't be held like this. 'look': worth a look. */
  readonly weight: 'stop' | 'look'
  readonly words: string
  /** Who can mend it: a person's id. */
  readonly who: string
  /** Where: a part of the brief, or an item, a must or a person by id. */
  readonly where:
    | { readonly part: 'why' | 'musts' | 'items' | 'time' | 'people' }
    | { readonly item: string }
    | { readonly must: string }
    | { readonly person: string }
}

const named = (title: string): string => `“${shorten(title)}”`

/** What stands between a meeting and its being ready, the gravest first; none when it is. */
export function findingsOf({ lead, why, musts, mostMusts, items, slot, start, laidOut, people }: Planned): Finding[] {
  const found: Finding[] = []
  const add = (
    kind: FindingKind,
    weight: Finding['weight'],
    words: string,
    where: Finding['where'],
    who = lead,
  ): void => {
    found.push({ kind, weight, words, who, where })
  }
  const sentence = why.trim()
  if (sentence === '')
    add(
      'why-missing',
      'stop',
      'It doesn’t say why you meet. If one sentence can’t be found, perhaps no meeting is needed.',
      { part: 'why' },
    )
  else if (sentence.length > LONGEST_WHY)
    add(
      'why-long',
      'look',
      `Why you meet takes ${sentence.length} letters; ${LONGEST_WHY} are enough for a sentence.`,
      { part: 'why' },
    )
  const must = musts.slice(0, mostMusts)
  if (must.length === 0) add('musts-missing', 'stop', 'Nothing is said that must be settled.', { part: 'musts' })
  if (musts.length > mostMusts)
    add(
      'musts-many',
      'look',
      `${musts.length} things are to be settled. ${mostMusts === 1 ? 'The first must be' : `The first ${mostMusts} must be`}; leave the rest to a later meeting.`,
      { part: 'musts' },
    )
  for (const one of must)
    if (!items.some(item => item.serves.includes(one.id)))
      add('must-unserved', 'stop', `No item leads to ${named(one.text)}.`, { must: one.id })
  if (items.length === 0) add('items-missing', 'stop', 'There is no way there yet: no items.', { part: 'items' })
  for (const item of items) {
    if (item.minutes === null || item.minutes <= 0)
      add('item-minutes', 'stop', `${named(item.title)} has no minutes.`, { item: item.id })
    if (item.owner === null) add('item-owner', 'stop', `Nobody owns ${named(item.title)}.`, { item: item.id })
    if (item.section && !item.section.ready)
      add('section-open', 'look', `${named(item.title)} isn’t filled in yet.`, { item: item.id }, item.owner ?? lead)
    for (const { name, opens } of item.documents)
      if (!opens)
        add(
          'document-closed',
          'stop',
          `${named(name)} on ${named(item.title)} doesn’t open.`,
          { item: item.id },
          item.owner ?? lead,
        )
    if (item.reading && item.reading.read < item.reading.of)
      add('unread', 'look', `${item.reading.read} of ${item.reading.of} have read ${named(item.title)}.`, {
        item: item.id,
      })
  }
  const needed = items.reduce((sum, { minutes }) => sum + Math.max(0, minutes ?? 0), 0)
  if (slot !== null && needed > slot)
    add('over-slot', 'stop', `The items take ${needed} minutes, and ${slot} are set aside.`, { part: 'time' })
  if (start === 'none') add('start-missing', 'stop', 'It has no day and time yet.', { part: 'time' })
  if (start === 'gap')
    add('start-gap', 'stop', 'That time is left out: clocks go forward then. Choose another.', { part: 'time' })
  if (items.length > 0 && !laidOut)
    add('not-laid-out', 'look', 'The agenda isn’t laid out in the tree yet.', { part: 'items' })
  if (!people.some(person => person.needed))
    add('nobody-needed', 'stop', 'Nobody is asked to come.', { part: 'people' })
  for (const person of people) {
    if (person.needed && !person.invited)
      add('not-invited', 'stop', `${person.name} is needed and hasn’t been invited.`, { person: person.id })
    if (person.elsewhere !== null)
      add(
        'elsewhere',
        person.needed ? 'stop' : 'look',
        `${person.name} is in ${named(person.elsewhere)} at that time.`,
        { person: person.id },
      )
  }
  return [...found.filter(({ weight }) => weight === 'stop'), ...found.filter(({ weight }) => weight === 'look')]
}

/** How ready a meeting is: 0 to 1, the share of what is asked of it that is there. */
export function readinessOf(planned: Planned): number {
  const asked =
    4 +
    Math.min(planned.mostMusts, planned.musts.length) +
    planned.items.length * 2 +
    planned.items.filter(item => item.section).length +
    planned.items.filter(item => item.reading).length +
    planned.items.reduce((sum, item) => sum + item.documents.length, 0) +
    planned.people.filter(person => person.needed).length
  const missing = findingsOf(planned).filter(
    ({ kind }) => !['why-long', 'musts-many', 'elsewhere', 'over-slot', 'not-laid-out'].includes(kind),
  ).length
  return Math.max(0, Math.min(1, (asked - missing) / asked))
}
