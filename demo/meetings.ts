import { generateKeyBetween } from 'fractional-indexing'
import { endOfWeek } from '#core/schedule/day-words'
import { addDays } from '#core/schedule/days'
import {
  type Answer,
  type BriefPart,
  type Change,
  childrenOf,
  type EntryKind,
  type Intent,
  type ItemPart,
  type TopicId,
  topicOf,
  type Tree,
} from '#core/tree'
import { carryOver } from '#core/meeting/carry'
import { openItemId, OPEN_TITLE, heldIn } from '#core/meeting/next'
import { itemFrom } from '#core/meeting/agenda'
import { instantOf } from '#core/meeting/zones'

/*
 * The demo's coordination meetings as meetings: every second Tuesday, one to be prepared next week and two that were
 * held.
 */

export interface DemoItem {
  readonly title: string
  readonly intent: Intent
  readonly minutes: number | null
  readonly spent?: number
  readonly serves?: readonly string[]
  readonly pattern?: readonly string[]
  readonly asked?: boolean
}

export interface DemoMeeting {
  readonly title: string
  /** Weeks before the one to come. */
  readonly back: number
  readonly why: string
  readonly musts: readonly string[]
  readonly items: readonly DemoItem[]
  /** By the key of a person in the demo: whether they were there. */
  readonly came?: Readonly<Record<string, boolean>>
  readonly slot: number
}

export interface DemoSeries {
  readonly zone: string
  readonly time: string
  readonly where: string
  readonly people: readonly {
    readonly name: string
    readonly needed: boolean
    readonly role: 'chair' | 'notes' | null
    readonly mail?: string
  }[]
  readonly meetings: readonly DemoMeeting[]
  /** Actions that have been done since, by title: by whom, and how many days ago. */
  readonly done: Readonly<Record<string, readonly [string, number]>>
  /** Lines of the record by title: what they are, and who said them. */
  readonly record: Readonly<Record<string, readonly [EntryKind, string]>>
}

/** The Tuesday of the week after the one that a day lies in. */
export function nextTuesday(today: string): string {
  return addDays(endOfWeek(today), 2)
}

const MINUTE = 60_000

/** The changes that make the demo's branches meetings. `find`: a topic by its title under a parent (any, when null). */
export function demoMeetings(
  tree: Tree,
  series: DemoSeries,
  people: readonly { id: string; name: string }[],
  today: string,
  find: (title: string, under: TopicId | null) => TopicId,
): Change[] {
  const changes: Change[] = []
  const idOf = (name: string): string | null => people.find(person => person.name.startsWith(name))?.id ?? null
  const persons = series.people.map((person, i): Extract<BriefPart, { kind: 'person' }> => ({
    id: `who${i}`,
    kind: 'person',
    user: person.mail ? null : idOf(person.name),
    mail: person.mail ?? null,
    name: person.mail ? person.name : '',
    needed: person.needed,
    role: person.role,
  }))
  const comes = nextTuesday(today)
  series.meetings.forEach(meeting => {
    const topic = find(meeting.title, null)
    const day = addDays(comes, -7 * meeting.back)
    const held = meeting.back > 0
    const start = instantOf(day, series.time, series.zone)
    const began = (start.kind === 'gap' ? start.after : start.instant) + 2 * MINUTE
    const put = (member: BriefPart): void => {
      changes.push({ op: 'put', topic, set: 'meeting', member })
    }
    put({ id: 'stage', kind: 'stage', stage: held ? 'ended' : 'planned' })
    put({ id: 'begins', kind: 'begins', day, time: series.time, zone: series.zone })
    put({ id: 'rule', kind: 'rule', rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', closed: [] })
    put({ id: 'slot', kind: 'slot', minutes: meeting.slot })
    put({ id: 'where', kind: 'where', text: series.where })
    if (meeting.why) put({ id: 'why', kind: 'why', text: meeting.why })
    meeting.musts.forEach((text, i) => put({ id: `must${i}`, kind: 'must', order: `a${i}`, text }))
    for (const person of persons) put(person)
    let spent = 0
    const open: TopicId[] = []
    meeting.items.forEach(item => {
      const at = find(item.title, topic)
      open.push(at)
      const parts: ItemPart[] = [
        { id: 'intent', kind: 'intent', intent: item.intent },
        ...(item.minutes === null ? [] : [{ id: 'minutes' as const, kind: 'minutes' as const, minutes: item.minutes }]),
      ]
      for (const must of item.serves ?? []) parts.push({ id: `must${meeting.musts.indexOf(must)}`, kind: 'serves' })
      if (item.pattern) parts.push({ id: 'pattern', kind: 'pattern', parts: [...item.pattern] })
      if (item.spent !== undefined) parts.push({ id: 'spent', kind: 'spent', ms: item.spent * MINUTE })
      if (item.asked)
        parts.push({
          id: 'asked',
          kind: 'asked',
          by: addDays(day, -1),
          of: idOf('Ines')!,
          at: Date.parse(`${today}T08:00Z`),
        })
      for (const member of parts) changes.push({ op: 'put', topic: at, set: 'item', member })
      // Each line of the record came up some minutes into its item.
      childrenOf(tree, at).forEach((child, i) => {
        const said = series.record[topicOf(tree, child).title]
        if (!said || !held) return
        changes.push(
          {
            op: 'set',
            topic: child,
            field: 'entry',
            value: { kind: said[0], by: idOf(said[1]), name: said[1], at: began + (spent + 2 + i * 3) * MINUTE },
          },
          { op: 'put', topic: child, set: 'markers', member: said[0] },
        )
      })
      spent += item.spent ?? 0
    })
    if (!held) return
    put({
      id: 'run',
      kind: 'run',
      step: open.length + 1,
      current: null,
      since: null,
      began,
      ended: began + spent * MINUTE,
      version: 0,
      by: idOf('Ines')!,
    })
    put({
      id: 'invitation',
      kind: 'invitation',
      uid: `demo-${meeting.title}`,
      sequence: 0,
      at: began - 6 * 86_400_000,
      by: idOf('Ines')!,
      to: [],
      digest: '',
    })
    series.people.forEach(({ name }, i) => {
      const came = meeting.came?.[name] ?? true
      const answer: Answer = came ? 'accepted' : 'declined'
      put({ id: `a-who${i}`, kind: 'answer', of: `who${i}`, answer, comment: '', at: began - 5 * 86_400_000 })
      put({ id: `c-who${i}`, kind: 'attendance', of: `who${i}`, came })
    })
  })
  return changes
}

/** What the meeting to come shows of the earlier ones: made as the app makes it. */
export function demoStillOpen(
  tree: Tree,
  series: DemoSeries,
  people: readonly { id: string; name: string }[],
  today: string,
  find: (title: string, under: TopicId | null) => TopicId,
  newId: () => TopicId,
): Change[] {
  const next = series.meetings.find(({ back }) => back === 0)
  if (!next) return []
  const meeting = find(next.title, null)
  const open = carryOver(
    heldIn(
      tree,
      series.meetings.filter(({ back }) => back > 0).map(({ title }) => find(title, null)),
    ),
    nextTuesday(today),
  ).filter(({ id }) => !(topicOf(tree, id).title in series.done))
  const first = childrenOf(tree, meeting)[0]
  const item = openItemId(meeting)
  return [
    {
      op: 'add',
      topic: item,
      parent: meeting,
      order: generateKeyBetween(null, first === undefined ? null : topicOf(tree, first).order),
      with: itemFrom({
        title: OPEN_TITLE,
        intent: 'inform',
        minutes: 10,
        floor: null,
        owner: people.find(person => person.name.startsWith('Ines'))?.id ?? null,
        serves: [],
        pattern: [],
      }),
    },
    ...open.map((one, i): Change => ({
      op: 'add',
      topic: newId(),
      parent: item,
      order: `a${i}`,
      with: { title: topicOf(tree, one.id).title, reference: { tree: null, topic: one.id } },
    })),
  ]
}
