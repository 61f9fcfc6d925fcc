import { briefInCopy, entryInCopy, itemInCopy } from '../meeting/copy'
import { addDays } from '../schedule/days'
import { type Again, readRhythm, writeRhythm } from '../tree/again'
import type { OutlineItem } from '../tree/outline'
import type { Topic } from '../tree/topic'
import { childrenOf, emptyTree, swapTopic, topicOf, type Tree } from '../tree/tree'

/** What of a branch a copy takes along. Everything else always comes. */
export interface CopyChoice {
  readonly notes: boolean
  readonly people: boolean
  readonly dates: boolean
  /** Done %, when things began and ended in fact, and standing. */
  readonly progress: boolean
  readonly links: boolean
  /** Attachments and pictures. */
  readonly files: boolean
  /** Figures, what one weighs by, named values and what-ifs; measures come without them. */
  readonly figures: boolean
  /** Lines of the record of meetings, with what hangs below them, and votes. */
  readonly record: boolean
  /** Days by which the copy's dates are moved; 0 leaves them. */
  readonly shift: number
}

export const WHOLE: CopyChoice = {
  notes: true,
  people: true,
  dates: true,
  progress: true,
  links: true,
  files: true,
  figures: true,
  record: true,
  shift: 0,
}
/** Nothing that somebody may not want others to have: titles, order, markers and looks alone. */
export const BARE: CopyChoice = {
  notes: false,
  people: false,
  dates: false,
  progress: false,
  links: false,
  files: false,
  figures: false,
  record: false,
  shift: 0,
}

type Chosen = Pick<
  Topic,
  | 'note'
  | 'people'
  | 'links'
  | 'files'
  | 'picture'
  | 'start'
  | 'due'
  | 'startTime'
  | 'dueTime'
  | 'again'
  | 'turns'
  | 'done'
  | 'began'
  | 'ended'
  | 'left'
  | 'spent'
  | 'meeting'
  | 'item'
  | 'entry'
  | 'votes'
  | 'figures'
  | 'choice'
>

/** How it comes again so many days later: counted from there, and with its end as much later. */
function againMoved({ rule, from }: Again, shift: number): Again {
  const rhythm = readRhythm(rule)
  const later = rhythm && { ...rhythm, until: rhythm.until && addDays(rhythm.until, shift) }
  return { rule: later ? writeRhythm(later) : rule, from: addDays(from, shift) }
}

/** What is left of the details that a copy may leave behind. */
function choose(choice: CopyChoice, given: Chosen): Chosen {
  const {
    note,
    people,
    links,
    files,
    picture,
    start,
    due,
    startTime,
    dueTime,
    again,
    turns,
    done,
    began,
    ended,
    left,
    spent,
    meeting,
    item,
    entry,
    votes,
    figures,
    choice: criteria,
  } = given
  const moved = (day: string | null): string | null =>
    day !== null && choice.dates ? addDays(day, choice.shift) : null
  const own = { people: choice.people, progress: choice.progress, moved }
  return {
    note: choice.notes ? note : null,
    people: choice.people ? people : [],
    links: choice.links ? links : [],
    files: choice.files ? files : [],
    picture: choice.files ? picture : null,
    start: moved(start),
    due: moved(due),
    startTime: choice.dates ? startTime : null,
    dueTime: choice.dates ? dueTime : null,
    again: again && choice.dates ? againMoved(again, choice.shift) : null,
    turns: choice.progress ? turns.map(turn => (choice.people ? turn : { ...turn, by: null })) : [],
    done: choice.progress ? done : null,
    began: choice.progress ? moved(began) : null,
    ended: choice.progress ? moved(ended) : null,
    left: choice.progress ? left : null,
    spent: choice.progress ? spent : null,
    meeting: meeting.length > 0 ? briefInCopy(meeting, own) : meeting,
    item: item.length > 0 ? itemInCopy(item, own) : item,
    entry: entryInCopy(entry, own),
    // What was voted names who voted, and belongs to what was said.
    votes: choice.record ? votes : [],
    figures: choice.figures ? figures : [],
    choice: choice.figures ? criteria : [],
  }
}

/** A copy of items as the choice says. Lengths stay when dates go: they are estimates, not dates. */
export function copyItems(items: readonly OutlineItem[], choice: CopyChoice): OutlineItem[] {
  return items.flatMap(item => {
    if (!choice.record && item.details?.entry) return []
    const given = item.details ?? {}
    const chosen = choose(choice, {
      note: given.note ?? null,
      people: given.people ?? [],
      links: given.links ?? [],
      files: given.files ?? [],
      picture: given.picture ?? null,
      start: given.start ?? null,
      due: given.due ?? null,
      startTime: given.startTime ?? null,
      dueTime: given.dueTime ?? null,
      again: given.again ?? null,
      turns: given.turns ?? [],
      done: given.done ?? null,
      began: given.began ?? null,
      ended: given.ended ?? null,
      left: given.left ?? null,
      spent: given.spent ?? null,
      meeting: given.meeting ?? [],
      item: given.item ?? [],
      entry: given.entry ?? null,
      votes: given.votes ?? [],
      figures: given.figures ?? [],
      choice: given.choice ?? [],
    })
    const details = Object.fromEntries(
      Object.entries({ ...given, ...chosen }).filter(
        ([, value]) => value !== null && !(Array.isArray(value) && value.length === 0),
      ),
    )
    return {
      title: item.title,
      ...(Object.keys(details).length > 0 ? { details } : {}),
      children: copyItems(item.children, choice),
    }
  })
}

/** A whole tree copied as the choice says, with the same addresses inside; what lies in the trash stays behind. */
export function copyTree(tree: Tree, choice: CopyChoice): Tree {
  const copy = emptyTree(topicOf(tree, tree.centre))
  copy.fields = fieldsInCopy(tree.fields, choice)
  const take = (topic: Topic): void => {
    if (!choice.record && topic.entry !== null) return
    swapTopic(copy, topic.id, topic.id === tree.centre ? topic : undefined, { ...topic, ...choose(choice, topic) })
    for (const child of childrenOf(tree, topic.id)) take(topicOf(tree, child))
  }
  for (const root of new Set([tree.centre, ...childrenOf(tree, null)])) take(topicOf(tree, root))
  return choice.record ? copy : withoutLoose(copy)
}

/** What led to topics that stayed behind leads nowhere. */
function withoutLoose(copy: Tree): Tree {
  for (const topic of copy.topics.values()) {
    const ties = topic.ties.filter(({ to }) => copy.topics.has(to))
    const waits = topic.waits.filter(({ on, elsewhere }) => !elsewhere && copy.topics.has(on))
    if (ties.length < topic.ties.length || waits.length < topic.waits.length)
      swapTopic(copy, topic.id, topic, { ...topic, ties, waits })
  }
  return copy
}

/** The plan moves with its dates; a copy without dates is planned anew. Closed days are those of the calendar: they stay. */
function fieldsInCopy(tree: Tree['fields'], { people, dates, shift, figures, files }: CopyChoice): Tree['fields'] {
  const fields = {
    ...tree,
    ...(people ? {} : { capacities: [], groups: [] }),
    ...(figures ? {} : { namedValues: [], whatIfs: [] }),
    ...(files ? {} : { templates: [] }),
  }
  if (fields.planFrom === null) return fields
  return { ...fields, planFrom: dates ? addDays(fields.planFrom, shift) : null, statusDay: null }
}

/** What a topic has besides its title that somebody may not want others to have, in words. */
export function carriedBy(topic: Topic): string[] {
  const some = (count: number, one: string, more: string): string[] =>
    count === 0 ? [] : [count === 1 ? one : `${count} ${more}`]
  const { note, people, links, files, picture, start, due, done, figures, entry, votes } = topic
  return [
    ...some(note === null ? 0 : 1, 'a note', 'notes'),
    ...some(people.length, 'a person', 'people'),
    ...some((start ? 1 : 0) + (due ? 1 : 0), 'a date', 'dates'),
    ...some(done === null ? 0 : 1, 'progress', 'progress'),
    ...some(links.length, 'a link', 'links'),
    ...some(files.length + (picture ? 1 : 0), 'a file', 'files'),
    ...some(figures.length, 'a figure', 'figures'),
    ...some(entry ? 1 : 0, 'from a record', 'records'),
    ...some(votes.length, 'a vote', 'votes'),
  ]
}
