import type { Speaker } from '../history/words'
import { entriesOf } from '../tree/field-spec'
import { noteWords } from '../tree/note'
import type { Topic, TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import { TREE_FIELDS, TREE_SETS } from '../tree/tree-fields'
import { pathTo } from '../tree/walk'
import { type Difference, fieldInWords } from '../compare/differences'
import type { Author, Snag, ToldPiece } from '../compare/merge'
import { fieldOfPart } from '../compare/pieces'
import { type Run, wordsBetween } from '../compare/words'

/*
 * A comparison as it's read: an entry a topic, a line for each of its fields that is different, with what it's there and here.
 * Kinds are told from here: what only this tree has, what only the other has, what was moved, what was changed.
 */

export const ENTRY_KINDS = ['only here', 'only there', 'moved', 'changed'] as const
export type EntryKind = (typeof ENTRY_KINDS)[number]

/** One field that is different, or several that one reads as one (a look). */
export interface EntryLine {
  /** What one calls it. */
  readonly name: string
  readonly there: string
  readonly here: string
  /** What is the same and what isn't, from there to here; for titles and notes that both have. */
  readonly runs: readonly Run[] | null
  readonly by: Author
  readonly snag: Snag | null
  readonly keys: readonly string[]
  /** Both sides have written in one note, so that both may be kept. */
  readonly canJoin: boolean
}

export interface Entry {
  /** Null for what is the tree's own. */
  readonly id: TopicId | null
  readonly kinds: readonly EntryKind[]
  readonly title: string
  /** Titles from the centre down to the parent; as it is here where it is here. */
  readonly path: readonly string[]
  readonly by: Author
  readonly snag: Snag | null
  readonly lines: readonly EntryLine[]
  /** What is taken over when one takes all of the entry; none where it comes and goes with a branch above it. */
  readonly keys: readonly string[]
}

const KIND_OF: Readonly<Record<Difference['kind'], EntryKind>> = {
  added: 'only here',
  removed: 'only there',
  moved: 'moved',
  changed: 'changed',
}

/** The weightiest of several: what is asked before what is somebody's. */
function authorOf(authors: readonly Author[]): Author {
  if (authors.includes('both')) return 'both'
  const [here, there] = [authors.includes('here'), authors.includes('there')]
  return here && there ? 'both' : here ? 'here' : there ? 'there' : 'neither'
}

export interface Compared {
  readonly here: Tree
  readonly there: Tree
  readonly pieces: readonly ToldPiece[]
  /** Read from there to here. */
  readonly differences: readonly Difference[]
}

/** The entries, in the order in which topics stand here, what's only there last; the tree's own first. */
export function entriesBetween({ here, there, pieces, differences }: Compared, speaker: Speaker): Entry[] {
  const byTopic = new Map<TopicId | null, ToldPiece[]>()
  for (const piece of pieces) {
    const list = byTopic.get(piece.topic)
    if (list) list.push(piece)
    else byTopic.set(piece.topic, [piece])
  }
  const found = new Map<TopicId, { kinds: EntryKind[]; fields: Set<string>; first: Difference }>()
  for (const one of differences) {
    const known = found.get(one.id)
    if (known) known.kinds.push(KIND_OF[one.kind])
    const entry = known ?? { kinds: [KIND_OF[one.kind]], fields: new Set<string>(), first: one }
    for (const field of one.fields) entry.fields.add(field)
    found.set(one.id, entry)
  }
  const entries: Entry[] = []
  const own = treeEntry(here, there, byTopic.get(null) ?? [])
  if (own) entries.push(own)
  for (const [id, { kinds, fields, first }] of found) {
    const all = byTopic.get(id) ?? []
    const alone = kinds.includes('only here') || kinds.includes('only there')
    const wanted = all.filter(({ part }) =>
      alone || part === 'there' ? true : part === 'where' ? kinds.includes('moved') : fields.has(fieldOfPart(part)),
    )
    const lines = alone ? [] : linesOf(id, here, there, wanted, speaker)
    const there0 = all.find(({ part }) => part === 'there')
    entries.push({
      id,
      kinds,
      title: first.title,
      path: first.path,
      by: alone ? (there0?.by ?? 'neither') : authorOf(wanted.map(({ by }) => by)),
      snag: wanted.find(({ snag }) => snag !== null)?.snag ?? null,
      lines,
      keys: wanted.map(({ key }) => key),
    })
  }
  return entries
}

function treeEntry(here: Tree, there: Tree, pieces: readonly ToldPiece[]): Entry | null {
  if (pieces.length === 0) return null
  const names = new Map<string, string>([
    ...entriesOf(TREE_FIELDS).map(([key, { name }]): [string, string] => [key, name]),
    ...entriesOf(TREE_SETS).map(([key, { name }]): [string, string] => [key, name]),
  ])
  const lines = grouped(pieces, part => names.get(part) ?? part).map(({ name, parts, group }) => ({
    ...lineOf(group, name),
    there: parts.map(part => plain(there.fields[part as 'description'])).join(', '),
    here: parts.map(part => plain(here.fields[part as 'description'])).join(', '),
  }))
  return {
    id: null,
    kinds: ['changed'],
    title: 'The tree itself',
    path: [],
    by: authorOf(pieces.map(({ by }) => by)),
    snag: null,
    lines,
    keys: pieces.map(({ key }) => key),
  }
}

/** Pieces by what one calls their fields. */
function grouped(
  pieces: readonly ToldPiece[],
  nameOf: (field: string) => string,
): { name: string; parts: string[]; group: ToldPiece[] }[] {
  const groups = new Map<string, { parts: Set<string>; group: ToldPiece[] }>()
  for (const piece of pieces) {
    const part = fieldOfPart(piece.part)
    const name = nameOf(part)
    const known = groups.get(name) ?? { parts: new Set<string>(), group: [] }
    known.parts.add(part)
    known.group.push(piece)
    groups.set(name, known)
  }
  return [...groups].map(([name, { parts, group }]) => ({ name, parts: [...parts], group }))
}

const lineOf = (group: readonly ToldPiece[], name: string): EntryLine => ({
  name,
  there: '',
  here: '',
  runs: null,
  by: authorOf(group.map(({ by }) => by)),
  snag: group.find(({ snag }) => snag !== null)?.snag ?? null,
  keys: group.map(({ key }) => key),
  canJoin: false,
})

function linesOf(id: TopicId, here: Tree, there: Tree, pieces: readonly ToldPiece[], speaker: Speaker): EntryLine[] {
  const [mine, other] = [here.topics.get(id), there.topics.get(id)]
  if (!mine || !other) return []
  const nameOf = (part: string): string =>
    part === 'where' ? 'place' : part === 'note' ? 'note' : fieldInWords(part as keyof Topic)
  return grouped(pieces, nameOf).map(({ name, parts, group }) => {
    const line = lineOf(group, name)
    const [part] = parts as [string]
    if (part === 'where') return { ...line, there: placeInWords(there, id), here: placeInWords(here, id) }
    const words = part === 'note' || part === 'title'
    const text = (topic: Topic): string =>
      name === 'look'
        ? 'its look'
        : part === 'note'
          ? noteWords(topic.note)
          : parts.map(one => valueInWords(one as keyof Topic, topic, speaker)).join(', ')
    const [was, is] = [text(other), text(mine)]
    return {
      ...line,
      there: was,
      here: is,
      runs: words && was !== '' && is !== '' ? wordsBetween(was, is) : null,
      canJoin: part === 'note' && line.by === 'both',
    }
  })
}

const placeInWords = (tree: Tree, id: TopicId): string => {
  const above = pathTo(tree, id).slice(0, -1)
  return above.length === 0 ? 'on its own' : `under ${above.map(({ title }) => `“${title || 'untitled'}”`).at(-1)}`
}

/** A value as it's read; '' for none. */
function valueInWords(key: keyof Topic, topic: Topic, speaker: Speaker): string {
  switch (key) {
    case 'start':
    case 'due':
    case 'began':
    case 'ended':
      return topic[key] === null ? '' : speaker.day(topic[key])
    case 'done':
      return topic.done === null ? '' : `${topic.done} %`
    case 'duration':
      return topic.duration === null ? '' : `${topic.duration} d`
    case 'people':
      return topic.people.map(person => speaker.nameOf(person)).join(', ')
    case 'markers':
      return topic.markers.map(marker => speaker.markerOf(marker)).join(', ')
    default:
      return plain(topic[key])
  }
}

/** Any value in a few words: what it's called, or what it says. */
function plain(value: unknown): string {
  if (value === null || value === undefined || value === false) return ''
  if (value === true) return 'yes'
  if (typeof value !== 'object') return String(value)
  if (Array.isArray(value)) return value.map(plain).filter(Boolean).join(', ')
  const named = value as Readonly<Record<string, unknown>>
  for (const key of ['title', 'name', 'text', 'url', 'kind', 'id']) {
    const words = named[key]
    if (typeof words === 'string' && words !== '') return words
  }
  return 'set'
}
