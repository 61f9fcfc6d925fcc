import type { Attachment, Link } from '../tree/substance'
import { linkInWords } from '../tree/links'
import { noteWords } from '../tree/note'
import type { EntryKind, Intent } from '../tree/meeting'
import type { Topic, TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { type Brief, type BriefPerson, briefOf } from './brief'
import { voteInWords } from '../vote/words'
import { type AgendaItem, itemsOf } from './agenda'
import { type Delivered, deliveredOf } from './delivered'
import { entriesIn, entriesOf } from './record'
import { wallTime } from './zones'

/*
 * The minutes of a meeting, put together from its topics: who was there, what was said and decided item by item, who
 * does what by when. Neutral: the documents and the view write from the same.
 */

export interface MinutesLine {
  readonly id: TopicId
  readonly kind: EntryKind
  readonly title: string
  /** Who said it. */
  readonly by: string
  /** "14:32" on the meeting's wall. */
  readonly at: string
  readonly owners: readonly string[]
  readonly due: string | null
  readonly done: boolean
  readonly note: string
}

/** What was prepared in an item: its topics that are no lines of the record. */
export interface Prepared {
  readonly id: TopicId
  readonly level: number
  readonly title: string
  readonly note: string
}

export interface MinutesItem {
  readonly id: TopicId
  readonly number: string
  readonly title: string
  readonly intent: Intent
  readonly owners: readonly string[]
  /** Whole minutes. */
  readonly planned: number | null
  readonly actual: number
  /** Texts of the things to be settled that it serves. */
  readonly serves: readonly string[]
  readonly note: string
  readonly prepared: readonly Prepared[]
  readonly lines: readonly MinutesLine[]
  readonly links: readonly { readonly words: string; readonly url: string }[]
  readonly files: readonly Pick<Attachment, 'name' | 'file' | 'size' | 'type'>[]
}

export interface MinutesAction extends MinutesLine {
  readonly ownerIds: readonly string[]
  readonly item: string
}

export interface Minutes {
  readonly title: string
  readonly why: string
  readonly where: string
  /** ISO 8601 day, wall times and the zone; null while the meeting hasn't begun. */
  readonly day: string | null
  readonly began: string | null
  readonly ended: string | null
  readonly zone: string
  readonly people: readonly { readonly name: string; readonly part: string; readonly came: boolean | null }[]
  readonly musts: readonly Pick<Delivered, 'text' | 'decisions' | 'is' | 'why' | 'byHand'>[]
  readonly items: readonly MinutesItem[]
  /** Lines that came up outside any item. */
  readonly besides: readonly MinutesLine[]
  readonly actions: readonly MinutesAction[]
  readonly parked: readonly MinutesLine[]
  readonly planned: number
  readonly actual: number
  /** How the plan stands since it began, in lines; absent where there is none. */
  readonly plan?: readonly string[] | undefined
}

/** Names of people by id, as the reader is to see them. */
export type NameOf = (id: string) => string

export function personName(person: BriefPerson, nameOf: NameOf): string {
  return (person.user === null ? person.name || person.mail : nameOf(person.user)) ?? ''
}

const PARTS = { chair: 'chair', notes: 'note taker' } as const

/** The note of a topic, and what was voted on it: what a decision was based on. */
function basisOf({ note, votes }: Topic, nameOf: NameOf): string {
  return [noteWords(note), ...votes.map(vote => voteInWords(vote, nameOf))].filter(Boolean).join('\n')
}

function lineOf(topic: Topic, zone: string, nameOf: NameOf): MinutesLine {
  const { kind, by, name, at } = topic.entry!
  return {
    id: topic.id,
    kind,
    title: topic.title,
    by: by === null ? name : nameOf(by),
    at: wallTime(at, zone).time,
    owners: topic.people.map(nameOf),
    due: topic.due,
    done: topic.done === 100,
    note: basisOf(topic, nameOf),
  }
}

function preparedIn(tree: Tree, item: TopicId): Prepared[] {
  const found: Prepared[] = []
  const walk = (parent: TopicId, level: number): void => {
    for (const id of childrenOf(tree, parent)) {
      const topic = topicOf(tree, id)
      if (topic.entry === null) found.push({ id, level, title: shownTitle(tree, topic), note: noteWords(topic.note) })
      walk(id, topic.entry === null ? level + 1 : level)
    }
  }
  walk(item, 0)
  return found
}

function shownTitle(tree: Tree, topic: Topic): string {
  const { reference } = topic
  return reference?.tree === null ? (tree.topics.get(reference.topic)?.title ?? topic.title) : topic.title
}

function allBelow(tree: Tree, item: TopicId): Topic[] {
  const topics = [topicOf(tree, item)]
  for (let i = 0; i < topics.length; i++)
    for (const child of childrenOf(tree, topics[i]!.id)) topics.push(topicOf(tree, child))
  return topics
}

const minutesOfMs = (ms: number): number => Math.round(ms / 60_000)

function itemIn(tree: Tree, item: AgendaItem, i: number, brief: Brief, zone: string, nameOf: NameOf): MinutesItem {
  const topics = allBelow(tree, item.id)
  return {
    id: item.id,
    number: String(i + 1),
    title: item.title,
    intent: item.intent,
    owners: item.owners.map(nameOf),
    planned: item.minutes,
    actual: minutesOfMs(item.spent),
    serves: brief.musts.filter(({ id }) => item.serves.includes(id)).map(({ text }) => text),
    note: basisOf(topicOf(tree, item.id), nameOf),
    prepared: preparedIn(tree, item.id),
    lines: entriesIn(tree, item.id).map(topic => lineOf(topic, zone, nameOf)),
    links: topics.flatMap(({ links }) => links.map((link: Link) => ({ words: linkInWords(link), url: link.url }))),
    files: topics.flatMap(({ files }) => files.map(({ name, file, size, type }) => ({ name, file, size, type }))),
  }
}

/** Puts the minutes together. `zone`: on whose wall times are told when the brief names none. */
export function minutesOf(tree: Tree, meeting: TopicId, nameOf: NameOf, zone = 'UTC'): Minutes {
  const topic = topicOf(tree, meeting)
  const brief = briefOf(topic)
  const wall = brief.begins?.zone ?? zone
  const agenda = itemsOf(tree, meeting)
  const items = agenda.map((item, i) => itemIn(tree, item, i, brief, wall, nameOf))
  const inItems = new Set(items.flatMap(({ lines }) => lines.map(({ id }) => id)))
  const all = entriesOf(tree, meeting)
  const itemOfLine = new Map(items.flatMap(({ title, lines }) => lines.map(({ id }) => [id, title] as const)))
  const began = brief.run ? wallTime(brief.run.began, wall) : null
  return {
    title: topic.title,
    why: brief.why,
    where: brief.where,
    zone: wall,
    day: began?.day ?? brief.begins?.day ?? null,
    began: began?.time ?? null,
    ended: brief.run?.ended == null ? null : wallTime(brief.run.ended, wall).time,
    people: brief.people.map(person => ({
      name: personName(person, nameOf),
      part: person.role ? PARTS[person.role] : person.needed ? '' : 'optional',
      came: person.came,
    })),
    musts: deliveredOf(tree, meeting).map(({ id: _, ...one }) => one),
    items,
    besides: all.filter(({ id }) => !inItems.has(id)).map(one => lineOf(one, wall, nameOf)),
    actions: all
      .filter(({ entry }) => entry!.kind === 'action')
      .map(one => ({ ...lineOf(one, wall, nameOf), ownerIds: one.people, item: itemOfLine.get(one.id) ?? '' })),
    parked: all.filter(({ entry }) => entry!.kind === 'parked').map(one => lineOf(one, wall, nameOf)),
    planned: agenda.reduce((sum, { minutes }) => sum + (minutes ?? 0), 0),
    actual: minutesOfMs(agenda.reduce((sum, { spent }) => sum + spent, 0)),
  }
}
