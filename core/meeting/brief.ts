import type { Change } from '../tree/change'
import type { Answer, BriefPart, Stage } from '../tree/meeting'
import type { Topic, TopicId } from '../tree/topic'
import { isLive, topicOf, type Tree } from '../tree/tree'
import { pathTo } from '../tree/walk'
import { readRule, type Rule } from './recurrence'
import { instantOf, type WallTime, wallTime } from './zones'

/*
 * A meeting's brief as it's read: the parts that its topic carries, put together. Whatever somebody hasn't said is null
 * or empty.
 */

export interface BriefPerson {
  readonly id: string
  /** A member's id; null for a guest, who has a mail address. */
  readonly user: string | null
  readonly mail: string | null
  readonly name: string
  readonly needed: boolean
  readonly role: 'chair' | 'notes' | null
  readonly answer: Answer
  readonly comment: string
  /** Whether they were there; null when nobody has said. */
  readonly came: boolean | null
}

export type BriefLine = Extract<BriefPart, { kind: 'line' }>
export type Outcome = Extract<BriefPart, { kind: 'outcome' }>
export type Begins = Extract<BriefPart, { kind: 'begins' }>
export type Run = Extract<BriefPart, { kind: 'run' }>
export type Invitation = Extract<BriefPart, { kind: 'invitation' }>

export interface Brief {
  readonly why: string
  readonly musts: readonly { readonly id: string; readonly order: string; readonly text: string }[]
  readonly outcomes: readonly Outcome[]
  readonly lines: readonly BriefLine[]
  readonly begins: Begins | null
  /** Minutes set aside; null when the items alone decide. */
  readonly slot: number | null
  readonly where: string
  readonly people: readonly BriefPerson[]
  readonly stage: Stage
  readonly rule: Rule | null
  readonly closed: readonly string[]
  readonly invitation: Invitation | null
  readonly run: Run | null
}

const known = new WeakMap<readonly BriefPart[], Brief>()
const byOrder = (a: { order: string; id: string }, b: { order: string; id: string }): number =>
  a.order < b.order ? -1 : a.order > b.order ? 1 : a.id < b.id ? -1 : 1

export function isMeeting(topic: Topic): boolean {
  return topic.meeting.length > 0
}

/** The brief of a meeting, put together once for each state of its parts. */
export function briefOf({ meeting }: Pick<Topic, 'meeting'>): Brief {
  const made = known.get(meeting)
  if (made) return made
  const one = <K extends BriefPart['kind']>(kind: K): Extract<BriefPart, { kind: K }> | null =>
    meeting.find((part): part is Extract<BriefPart, { kind: K }> => part.kind === kind) ?? null
  const all = <K extends BriefPart['kind']>(kind: K): Extract<BriefPart, { kind: K }>[] =>
    meeting.filter((part): part is Extract<BriefPart, { kind: K }> => part.kind === kind)
  const answers = new Map(all('answer').map(part => [part.of, part]))
  const came = new Map(all('attendance').map(part => [part.of, part.came]))
  const rule = one('rule')
  const brief: Brief = {
    why: one('why')?.text ?? '',
    musts: all('must').sort(byOrder),
    outcomes: all('outcome'),
    lines: all('line').sort(byOrder),
    begins: one('begins'),
    slot: one('slot')?.minutes ?? null,
    where: one('where')?.text ?? '',
    people: all('person').map(({ id, user, mail, name, needed, role }) => ({
      id,
      user,
      mail,
      name,
      needed,
      role,
      answer: answers.get(id)?.answer ?? 'needs-action',
      comment: answers.get(id)?.comment ?? '',
      came: came.get(id) ?? null,
    })),
    stage: one('stage')?.stage ?? 'planned',
    rule: rule ? readRule(rule.rule) : null,
    closed: rule?.closed ?? [],
    invitation: one('invitation'),
    run: one('run'),
  }
  known.set(meeting, brief)
  return brief
}

/**
 * What a brief's start means: an instant, the hour that comes twice, or a time that daylight saving leaves out. Null
 * while it isn't said.
 */
export function startOf(brief: Brief): WallTime | null {
  if (!brief.begins) return null
  try {
    return instantOf(brief.begins.day, brief.begins.time, brief.begins.zone)
  } catch {
    return null
  }
}

/** The instant a meeting begins as planned; what falls in a gap begins as far after it. */
export function instantOfStart(brief: Brief): number | null {
  const start = startOf(brief)
  return start === null ? null : start.kind === 'gap' ? start.after : start.instant
}

/** Puts one part of a meeting's brief in place of the one with its id. */
export function sayPart(meeting: TopicId, part: BriefPart): Change {
  return { op: 'put', topic: meeting, set: 'meeting', member: part }
}

export function takePart(meeting: TopicId, part: string): Change {
  return { op: 'take', topic: meeting, set: 'meeting', member: part }
}

/** The meeting that a topic belongs to: itself, or the nearest above it. */
export function meetingOf(tree: Tree, id: TopicId): TopicId | null {
  return pathTo(tree, id).findLast(isMeeting)?.id ?? null
}

/** Every live meeting of a tree. */
export function meetingsOf(tree: Tree): TopicId[] {
  const found: TopicId[] = []
  for (const topic of tree.topics.values()) if (topic.meeting.length > 0 && isLive(tree, topic.id)) found.push(topic.id)
  return found
}

/** The day a meeting was held, or else is planned for; '' while nobody has said. */
export function dayOf(brief: Brief): string {
  return brief.run ? wallTime(brief.run.began, brief.begins?.zone ?? 'UTC').day : (brief.begins?.day ?? '')
}

/**
 * The meetings that follow one another: those under the same parent, by day, the ones without a day last. A meeting
 * that is the centre is followed by those that hang from it.
 */
export function seriesOf(tree: Tree, meeting: TopicId): TopicId[] {
  const { parent } = topicOf(tree, meeting)
  const root =
    meeting === tree.centre || (parent === tree.centre && isMeeting(topicOf(tree, tree.centre))) ? tree.centre : null
  const all = meetingsOf(tree).filter(id =>
    root !== null ? id === root || topicOf(tree, id).parent === root : topicOf(tree, id).parent === parent,
  )
  const day = (id: TopicId): string => dayOf(briefOf(topicOf(tree, id))) || '9999'
  return all.sort((a, b) => (day(a) < day(b) ? -1 : day(a) > day(b) ? 1 : a < b ? -1 : 1))
}

/**
 * The meeting to show when nobody has named one: the one that runs, else the next, else the last. `today`: ISO 8601.
 */
export function nearestMeeting(tree: Tree, today: string): TopicId | null {
  const all = meetingsOf(tree).map(id => ({ id, brief: briefOf(topicOf(tree, id)) }))
  const running = all.find(({ brief }) => brief.stage === 'running')
  if (running) return running.id
  const dated = all
    .filter(({ brief }) => brief.stage === 'planned')
    .sort((a, b) => ((dayOf(a.brief) || '9999') < (dayOf(b.brief) || '9999') ? -1 : 1))
  const next = dated.find(({ brief }) => dayOf(brief) >= today) ?? dated[0]
  return next?.id ?? all.sort((a, b) => (dayOf(a.brief) < dayOf(b.brief) ? 1 : -1))[0]?.id ?? null
}

/** The agenda item that is on in a meeting that runs; null where none is. */
export function itemThatIsOn(tree: Tree): TopicId | null {
  for (const id of meetingsOf(tree)) {
    const { stage, run } = briefOf(topicOf(tree, id))
    if (stage === 'running' && run?.current && isLive(tree, run.current)) return run.current
  }
  return null
}

/** The number of the tree at which the meeting that was begun last began, and its title; null where none has begun. */
export function lastBegun(tree: Tree): { readonly number: number; readonly title: string } | null {
  let last: { number: number; title: string } | null = null
  for (const id of meetingsOf(tree)) {
    const topic = topicOf(tree, id)
    const { run } = briefOf(topic)
    if (run && (!last || run.version > last.number)) last = { number: run.version, title: topic.title }
  }
  return last
}
