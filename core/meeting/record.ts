import type { Change, Initial } from '../tree/change'
import type { EntryKind } from '../tree/meeting'
import type { Topic, TopicId } from '../tree/topic'
import { addAt, lastChild } from '../tree/actions'
import type { Tree } from '../tree/tree'
import { branch } from '../tree/walk'
import { isMeeting, meetingOf } from './brief'
import type { Raised } from './carry'

/*
 * The record: what was decided, taken on, asked, thought of and parked, as topics under the item they came up in.
 */

export const ENTRY_NAMES: Record<EntryKind, string> = {
  decision: 'Decision',
  action: 'Action',
  question: 'Question',
  idea: 'Idea',
  parked: 'Parked',
}

export interface Said {
  /** A member's id; null for somebody who has none. */
  readonly by: string | null
  /** Their name as it was, for readers who don't know the id. */
  readonly name: string
  /** ms since 1970 UTC */
  readonly at: number
}

/**
 * The changes that put a line of the record under `under` (the current item, or the meeting itself). It wears the
 * marker of its kind, so that it's seen and found as any other.
 */
export function capture(
  tree: Tree,
  under: TopicId,
  kind: EntryKind,
  details: Initial & { title: string },
  said: Said,
  newId: () => TopicId,
): { changes: readonly Change[]; id: TopicId } {
  const { changes, made } = addAt(tree, lastChild(tree, under), newId, {
    ...details,
    markers: [...new Set([kind, ...(details.markers ?? [])])],
    entry: { kind, by: said.by, name: said.name, at: said.at },
  })
  return { changes, id: made[0]! }
}

/** Every line of a meeting's record, in reading order; those of a meeting within it are its own. */
export function entriesOf(tree: Tree, meeting: TopicId): Topic[] {
  return [...branch(tree, meeting)].filter(
    topic => topic.entry !== null && meetingOf(tree, topic.id) === meeting && !isMeeting(topic),
  )
}

/** The lines that came up in one item. */
export function entriesIn(tree: Tree, item: TopicId): Topic[] {
  return [...branch(tree, item)].filter(topic => topic.entry !== null)
}

/** A line of another kind, or none: marker and entry change together. */
export function asEntry(topic: Topic, kind: EntryKind, said: Said): Change[] {
  const changes: Change[] = [
    {
      op: 'set',
      topic: topic.id,
      field: 'entry',
      value: {
        kind,
        by: topic.entry?.by ?? said.by,
        name: topic.entry?.name ?? said.name,
        at: topic.entry?.at ?? said.at,
      },
    },
  ]
  if (topic.entry && topic.markers.includes(topic.entry.kind))
    changes.push({ op: 'take', topic: topic.id, set: 'markers', member: topic.entry.kind })
  return [...changes, { op: 'put', topic: topic.id, set: 'markers', member: kind }]
}

/** What of a record can go on to the next meeting. Done means: done, answered, taken up. */
export function raisedIn(tree: Tree, meeting: TopicId): Raised[] {
  return entriesOf(tree, meeting).flatMap(({ id, entry, done, due }) =>
    entry!.kind === 'action' || entry!.kind === 'question' || entry!.kind === 'parked'
      ? [{ id, kind: entry!.kind, settled: done === 100, due }]
      : [],
  )
}
