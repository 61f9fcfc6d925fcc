import { generateNKeysBetween } from 'fractional-indexing'
import { addAt } from '../tree/actions'
import type { Change } from '../tree/change'
import type { BriefPart } from '../tree/meeting'
import type { TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { placeOf } from '../tree/walk'
import { itemFrom, itemsOf, patternId } from './agenda'
import { briefOf, dayOf, seriesOf } from './brief'
import { type Carried, carryOver, type Held } from './carry'
import { raisedIn } from './record'
import { nextDay, slotOf } from './recurrence'

/*
 * The next meeting of a series: the same people and shape, the next day by the rule, and what is still open as
 * references to where it was raised.
 */

/** The item under which a meeting shows what was still open when it was made. */
export function openItemId(meeting: TopicId): TopicId {
  return `${meeting.slice(0, 34)}-open`
}

export const OPEN_TITLE = 'Still open'
/** Minutes for each thing still open, ten at most. Common practice, no source. */
const MINUTES_EACH = 2
const MOST_MINUTES = 10

/** The meetings of a series that have been held, with what they raised. */
export function heldIn(tree: Tree, series: readonly TopicId[]): Held[] {
  return series.flatMap(id => {
    const brief = briefOf(topicOf(tree, id))
    const day = dayOf(brief)
    return brief.stage === 'ended' && day !== '' ? [{ id, day, raised: raisedIn(tree, id) }] : []
  })
}

/**
 * What is open from the meetings before a day, with its age. Whatever lies in the trash has been dropped from the
 * record.
 */
export function stillOpen(tree: Tree, meeting: TopicId, day: string): Carried[] {
  return carryOver(
    heldIn(
      tree,
      seriesOf(tree, meeting).filter(id => id !== meeting || briefOf(topicOf(tree, id)).stage === 'ended'),
    ),
    day,
  )
}

/** The day after `meeting`'s by its rule, skipping closed days; null without a rule or a day. */
export function dayOfNext(tree: Tree, meeting: TopicId): string | null {
  const brief = briefOf(topicOf(tree, meeting))
  if (!brief.rule || !brief.begins) return null
  const closed = new Set(brief.closed)
  // One that was moved by hand stands for the rule's day all the same: the next ones stay where they were.
  const slot = slotOf(brief.begins.day, brief.rule)
  return nextDay(slot, brief.rule, slot > brief.begins.day ? slot : brief.begins.day, day => closed.has(day))
}

/**
 * "Meeting 3" becomes "Meeting 4". A title without a number at its end stays, and so does one that ends in a day or a
 * year.
 */
export function nextTitle(title: string): string {
  return title.replace(/(^|[\s#№(])(\d{1,6})(\)?\s*)$/u, (whole, before: string, number: string, after: string) =>
    isYear(title, number) ? whole : `${before}${Number(number) + 1}${after}`,
  )
}

/** "12 May 2027", "2027": a number that names a year is none that goes on. */
function isYear(title: string, number: string): boolean {
  return /^(?:19|20)\d\d$/.test(number) && !/(?:#|№|\bno\.?|\bnr\.?)\s*\d+\)?\s*$/iu.test(title)
}

/**
 * Where the next one stands: beside `meeting`, before it in a series that has the newest first, else after it; under
 * the centre where that is the meeting.
 */
function slotOfNext(tree: Tree, meeting: TopicId): { parent: TopicId | null; index: number } {
  if (meeting === tree.centre) return { parent: tree.centre, index: childrenOf(tree, tree.centre).length }
  const { parent } = topicOf(tree, meeting)
  const days = childrenOf(tree, parent)
    .filter(id => topicOf(tree, id).meeting.length > 0)
    .map(id => dayOf(briefOf(topicOf(tree, id))))
    .filter(Boolean)
  const newestFirst = days.length > 1 && days[0]! > days.at(-1)!
  return { parent, index: placeOf(tree, meeting) + (newestFirst ? 0 : 1) }
}

/**
 * The changes that lay out the meeting after `meeting`. `day`: ISO 8601, where somebody has chosen one against the
 * rule.
 */
export function nextMeeting(
  tree: Tree,
  meeting: TopicId,
  newId: () => TopicId,
  day: string | null = dayOfNext(tree, meeting),
): { changes: Change[]; id: TopicId } {
  const topic = topicOf(tree, meeting)
  const brief = briefOf(topic)
  const kept: readonly BriefPart['kind'][] = ['slot', 'where', 'rule', 'person']
  const parts: BriefPart[] = topic.meeting.filter(({ kind }) => kept.includes(kind))
  if (brief.begins && day !== null) parts.push({ ...brief.begins, day })
  parts.push({ id: 'stage', kind: 'stage', stage: 'planned' })
  const {
    changes,
    made: [id],
  } = addAt(tree, slotOfNext(tree, meeting), newId, { title: nextTitle(topic.title), meeting: parts })
  const added: Change[] = [...changes]
  const open = stillOpen(tree, meeting, day ?? '9999-12-31')
  const items = itemsOf(tree, meeting).filter(item => item.id !== openItemId(meeting))
  const orders = generateNKeysBetween(null, null, items.length + 1)
  if (open.length > 0) {
    const item = openItemId(id!)
    added.push({
      op: 'add',
      topic: item,
      parent: id!,
      order: orders[0]!,
      with: itemFrom({
        title: OPEN_TITLE,
        intent: 'inform',
        minutes: Math.min(MOST_MINUTES, open.length * MINUTES_EACH),
        floor: null,
        owner: brief.people.find(({ role }) => role === 'chair')?.user ?? null,
        serves: [],
        pattern: [],
      }),
    })
    const keys = generateNKeysBetween(null, null, open.length)
    open.forEach((one, i) =>
      added.push({
        op: 'add',
        topic: newId(),
        parent: item,
        order: keys[i]!,
        with: { title: topicOf(tree, one.id).title, reference: { tree: null, topic: one.id } },
      }),
    )
  }
  items.forEach((item, i) => {
    const fresh = newId()
    added.push({
      op: 'add',
      topic: fresh,
      parent: id!,
      order: orders[i + 1]!,
      with: itemFrom({ ...item, floor: item.floor > 1 ? item.floor : null, owner: item.owners[0] ?? null, serves: [] }),
    })
    const keys = generateNKeysBetween(null, null, item.pattern.length)
    item.pattern.forEach((title, n) =>
      added.push({ op: 'add', topic: patternId(fresh, title), parent: fresh, order: keys[n]!, with: { title } }),
    )
  })
  return { changes: added, id: id! }
}

/** What a meeting shows of earlier ones, with its age as of its day: the references under "Still open". */
export function carriedInto(
  tree: Tree,
  meeting: TopicId,
  today: string,
): { readonly reference: TopicId; readonly carried: Carried }[] {
  const shown = childrenOf(tree, openItemId(meeting))
    .map(id => topicOf(tree, id))
    .filter(({ reference }) => reference?.tree === null)
  if (shown.length === 0) return []
  const day = dayOf(briefOf(topicOf(tree, meeting))) || today
  const before = heldIn(
    tree,
    seriesOf(tree, meeting).filter(id => id !== meeting),
  ).filter(held => held.day < day)
  // Its age is told also once it's settled: the list is what was open when the meeting was made.
  const all = new Map(
    carryOver(
      before.map(held => ({ ...held, raised: held.raised.map(one => ({ ...one, settled: false })) })),
      day,
    ).map(one => [one.id, one]),
  )
  return shown.flatMap(({ id, reference }) =>
    all.has(reference!.topic) ? [{ reference: id, carried: all.get(reference!.topic)! }] : [],
  )
}
