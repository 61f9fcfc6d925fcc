import { type Run, wordsBetween } from '../compare/words'
import { applyChange } from '../tree/apply'
import { type Change, isTreeChange } from '../tree/change'
import { type Field, FIELDS } from '../tree/fields'
import { type SetName, SETS } from '../tree/sets'
import { noteWords } from '../tree/note'
import { STYLE_FIELDS } from '../tree/style-fields'
import { shorten } from '../tree/title'
import type { Figure } from '../tree/figure'
import type { Topic, TopicId } from '../tree/topic'
import { isLive, type Tree } from '../tree/tree'
import { TREE_FIELDS, TREE_SETS } from '../tree/tree-fields'

/*
 * What an edit did, as people tell it: one happening for each thing that happened to a topic, in place of the changes
 * that it was made of. Happenings carry titles as they were at that moment, since topics are renamed and go.
 */

/** What a happening is about; what history can be narrowed to. */
export const HAPPENING_KINDS = [
  'added',
  'removed',
  'restored',
  'moved',
  'renamed',
  'task',
  'people',
  'markers',
  'note',
  'files',
  'figures',
  'meeting',
  'look',
  'other',
  'tree',
] as const
export type HappeningKind = (typeof HAPPENING_KINDS)[number]

export interface Happening {
  readonly kind: HappeningKind
  /** Null for something of the tree itself. */
  readonly topic: TopicId | null
  /** What the topic was called afterwards (before, for one that went). */
  readonly title: string
  /** The title before it was renamed. */
  readonly was?: string
  /** The title of the topic it was added or moved under; null: it stands alone, or its place among its siblings changed. */
  readonly under?: string | null
  /** What was set, put or taken, by the name people read. */
  readonly what?: string
  /** Of a figure: the measure that it's of, what it said before, and whether it's one under a what-if. */
  readonly measure?: string
  readonly before?: string | null
  readonly whatIf?: true
  /** What it's now: ISO dates and ids as they're stored; null: cleared, or taken. Absent: not said in words. */
  readonly value?: string | number | null
  /** Of a note: the words that went and came, with a little of what stands around them. */
  readonly words?: readonly Run[]
  /** Topics that went or came along with a branch, or further happenings that aren't told one by one. */
  readonly along?: number
}

const TASK: ReadonlySet<Field> = new Set<Field>([
  'start',
  'due',
  'startTime',
  'dueTime',
  'duration',
  'done',
  'priority',
  'effort',
  'began',
  'ended',
  'left',
  'again',
])
/** Kinds that are told for each member. */
const ONE_BY_ONE: ReadonlySet<HappeningKind> = new Set<HappeningKind>(['people', 'markers'])
/** Places on the canvas, chosen by hand. */
const BY_HAND: ReadonlySet<Field> = new Set<Field>(['x', 'y', 'z'])
/** What follows from other changes, or is how somebody looks at the tree: not told. */
const SILENT: ReadonlySet<Field> = new Set<Field>(['folded', 'split', 'branchHue'])

/**
 * What an edit does to a tree, in the order of its changes; the tree is then as it is after the edit. Changes of one
 * topic that say the same (a note typed letter by letter, several things of its look) count once. Throws `Refused` when
 * the edit can't be made on this state.
 */
export function happeningsOf(tree: Tree, changes: readonly Change[]): Happening[] {
  const found = new Map<string, Happening>()
  const born = new Set<TopicId>()
  const notes = new Map<TopicId, string | null>()
  for (const change of changes) {
    const told = tell(tree, change)
    if (change.op === 'note' && !notes.has(change.topic))
      notes.set(change.topic, tree.topics.get(change.topic)?.note ?? null)
    applyChange(tree, change)
    if (change.op === 'add') born.add(change.topic)
    if (!told) continue
    // What a new topic was given with its first breath isn't worth a word of its own.
    if (told.kind !== 'added' && told.topic !== null && born.has(told.topic) && told.kind !== 'people') continue
    found.set(
      `${told.kind} ${told.topic ?? ''} ${told.what ?? ''} ${ONE_BY_ONE.has(told.kind) ? told.value : ''}`,
      told,
    )
  }
  return [...found.values()].flatMap(told => {
    if (told.topic === null || told.kind === 'removed') return [told]
    const topic = tree.topics.get(told.topic)
    if (!topic) return []
    const words = told.kind === 'note' ? changedWords(notes.get(topic.id) ?? null, topic.note) : []
    return [{ ...told, title: topic.title, ...(words.length > 0 ? { words } : {}) }]
  })
}

/** Base64 letters of a note beyond which its words aren't told: to read it again and again takes too long. */
const MOST_NOTE = 400_000
/** Letters that are told of words that go or come, and of what stands around them. */
const MOST_WORDS = 400
const AROUND = 30

/** The words of a note that went and came; none where only their look changed. */
function changedWords(before: string | null, after: string | null): Run[] {
  if ((before?.length ?? 0) + (after?.length ?? 0) > MOST_NOTE) return []
  const runs = wordsBetween(noteWords(before), noteWords(after))
  if (runs.every(({ kind }) => kind === 'same')) return []
  return runs.map(({ kind, text }, i) => {
    if (kind !== 'same') return { kind, text: text.length > MOST_WORDS ? shorten(text, MOST_WORDS) : text }
    const letters = [...text]
    const [first, last] = [i === 0, i === runs.length - 1]
    if (letters.length <= AROUND * (first || last ? 1 : 2) + 1) return { kind, text }
    const head = first ? '' : letters.slice(0, AROUND).join('')
    const tail = last ? '' : letters.slice(-AROUND).join('')
    return { kind, text: `${head}…${tail}` }
  })
}

export function tell(tree: Tree, change: Change): Happening | null {
  if (isTreeChange(change)) return ofTree(change)
  const { topic: id } = change
  const topic = tree.topics.get(id)
  const title = topic?.title ?? ''
  const about = (kind: HappeningKind, more: Partial<Happening> = {}): Happening => ({ kind, topic: id, title, ...more })
  switch (change.op) {
    case 'add':
      return about('added', { under: titleOf(tree, change.parent) })
    case 'remove':
      return topic && isLive(tree, id) ? about('removed', { along: below(tree, id) }) : null
    case 'restore':
      return about('restored')
    case 'place':
      return about(
        'moved',
        topic?.parent === change.parent ? { under: null, what: 'order' } : { under: titleOf(tree, change.parent) },
      )
    case 'note':
      return about('note')
    case 'set':
      return ofField(about, topic?.title ?? '', change)
    case 'put':
      if (change.set === 'figures') return ofFigure(about, topic, change.member.id, change.member)
      return ofMember(about, change.set, memberWord(change.set, change.member))
    case 'take':
      if (change.set === 'figures') return ofFigure(about, topic, change.member, null)
      return ofMember(about, change.set, null, change.member)
  }
}

type About = (kind: HappeningKind, more?: Partial<Happening>) => Happening

function ofField(about: About, title: string, { field, value }: Extract<Change, { op: 'set' }>): Happening | null {
  if (SILENT.has(field)) return null
  if (field === 'title') return value === title ? null : about('renamed', { was: title })
  if (field in STYLE_FIELDS || field === 'hue') return about('look', { what: 'look' })
  if (BY_HAND.has(field)) return about('moved', { under: null, what: 'hand' })
  const { name } = FIELDS[field]
  const said = typeof value === 'string' || typeof value === 'number' || value === null ? { value } : {}
  if (TASK.has(field)) return about('task', { what: name, ...said })
  if (field === 'entry') return about('meeting', { what: name })
  return about('other', { what: name, ...(value === null ? { value } : {}) })
}

const KIND_OF_SET: Partial<Record<SetName, HappeningKind>> = {
  people: 'people',
  markers: 'markers',
  files: 'files',
  figures: 'figures',
  meeting: 'meeting',
  item: 'meeting',
  turns: 'task',
}

function ofMember(about: About, set: SetName, word: string | null, taken?: string): Happening {
  const kind = KIND_OF_SET[set] ?? 'other'
  if (set === 'turns') return about(kind, { what: 'turn', value: taken === undefined ? word : null })
  if (kind === 'people') return about(kind, { what: taken === undefined ? 'put' : 'take', value: taken ?? word })
  if (kind === 'meeting') return about(kind, { what: SETS[set].name })
  if (kind === 'markers') return about(kind, { what: taken === undefined ? 'put' : 'take', value: taken ?? word })
  return about(kind, { what: SETS[set].name, ...(taken === undefined ? {} : { value: null }) })
}

/** A figure that was given, changed or taken away; its text is as it's stored, a numeral or a formula. */
function ofFigure(about: About, topic: Topic | undefined, id: string, now: Figure | null): Happening | null {
  const was = topic?.figures.find(one => one.id === id) ?? null
  const { measure, whatIf } = now ?? was ?? { measure: '', whatIf: null }
  if (measure === '') return null
  return about('figures', {
    what: id,
    measure,
    value: now && now.text,
    before: was && was.text,
    ...(whatIf === null ? {} : { whatIf: true }),
  })
}

function memberWord(set: SetName, member: unknown): string | null {
  if (set === 'people' || set === 'markers') return String(member)
  if (set === 'turns') return (member as { readonly id: string }).id
  const { name, title } = member as { readonly name?: unknown; readonly title?: unknown }
  return typeof name === 'string' ? name : typeof title === 'string' ? title : null
}

function ofTree(change: Extract<Change, { op: 'tree' | 'tree-put' | 'tree-take' }>): Happening {
  const { name } = change.op === 'tree' ? TREE_FIELDS[change.field] : TREE_SETS[change.set]
  return { kind: 'tree', topic: null, title: '', what: name }
}

function titleOf(tree: Tree, id: TopicId | null): string | null {
  return id === null ? null : (tree.topics.get(id)?.title ?? null)
}

/** How many topics hang below one and go with it. */
function below(tree: Tree, id: TopicId): number {
  let count = 0
  const open = [id]
  for (const at of open)
    for (const child of tree.children.get(at) ?? []) {
      count++
      open.push(child)
    }
  return count
}

/** Which kinds of happenings changes may make, without the tree that they were made on: what a search of the log goes by. */
export function kindsOf(changes: readonly Change[]): ReadonlySet<HappeningKind> {
  const about: About = kind => ({ kind, topic: '', title: '' })
  const kinds = new Set<HappeningKind>()
  for (const change of changes) {
    if (isTreeChange(change)) kinds.add('tree')
    else if (change.op === 'set') {
      const told = ofField(about, '\0', change)
      if (told) kinds.add(told.kind)
    } else if (change.op === 'put' || change.op === 'take') kinds.add(KIND_OF_SET[change.set] ?? 'other')
    else
      kinds.add(
        ({ add: 'added', remove: 'removed', restore: 'restored', place: 'moved', note: 'note' } as const)[change.op],
      )
  }
  return kinds
}
