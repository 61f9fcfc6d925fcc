import { type Change, isTreeChange } from '../tree/change'
import type { TopicId } from '../tree/topic'
import { isLive, type Tree } from '../tree/tree'
import { changesBetween } from './changes-between'

/*
 * The smallest parts in which one state of a tree is taken over into another: whether a topic is there, its place, one of its
 * fields, one member of one of its sets, its note; and the same of the tree itself.
 */

export interface Piece {
  /** The topic and the part, as one word. */
  readonly key: string
  /** Null for what is the tree's own. */
  readonly topic: TopicId | null
  /** 'there' (it came, went or came back), 'where' (its place in the tree), 'note', a field, or a set with its member (`people/ines`). */
  readonly part: string
  /** What makes this part of the one state what it is in the other. */
  readonly changes: readonly Change[]
  /** Which side has changed it since a common moment; `here` is kept where something comes along with something else. */
  readonly by?: string
  /** It came, or came back, in what lies in the trash over there: nobody sees it unless something else brings it out. */
  readonly unseen?: true
}

export const pieceKey = (topic: TopicId | null, part: string): string => `${topic ?? ''} ${part}`

function partOf(change: Change): string {
  switch (change.op) {
    case 'add':
    case 'remove':
    case 'restore':
      return 'there'
    case 'place':
      return 'where'
    case 'note':
      return 'note'
    case 'set':
    case 'tree':
      return change.field
    case 'put':
    case 'tree-put':
      return `${change.set}/${typeof change.member === 'string' ? change.member : change.member.id}`
    case 'take':
    case 'tree-take':
      return `${change.set}/${change.member}`
  }
}

/** The field or set that a part belongs to; 'there', 'where' and 'note' are their own. */
export const fieldOfPart = (part: string): string => part.replace(/\/.*/s, '')

/** The part of a set that is its members' order alone. */
const ORDER = '*'

/**
 * The pieces in which one state is different from another, those of topics from the top down. What came and went again isn't among
 * them, unless `unseen` asks for it: a third state may have moved out what it came into. Cost: all topics of both.
 */
export function piecesBetween(from: Tree, to: Tree, { unseen = false } = {}): Map<string, Piece> {
  const pieces = new Map<string, Piece & { changes: Change[] }>()
  const put = (topic: TopicId | null, part: string, changes: readonly Change[], inTrash = false): void => {
    const key = pieceKey(topic, part)
    const known = pieces.get(key)
    if (known) known.changes.push(...changes)
    else pieces.set(key, { key, topic, part, changes: [...changes], ...(inTrash ? { unseen: true } : {}) })
  }
  const ordered = new Map<string, { topic: TopicId | null; set: string; changes: Change[] }>()
  for (const change of changesBetween(from, to)) {
    const topic = isTreeChange(change) ? null : change.topic
    const inTrash = topic !== null && !isLive(to, topic) && (!from.topics.has(topic) || change.op === 'restore')
    if (inTrash && !unseen) continue
    if (change.op === 'take' || change.op === 'tree-take' || change.op === 'put' || change.op === 'tree-put') {
      const key = pieceKey(topic, change.set)
      const known = ordered.get(key)
      if (known) known.changes.push(change)
      else ordered.set(key, { topic, set: change.set, changes: [change] })
    } else if (!unseen && change.op === 'place' && isStranded(from, to, change)) {
      // What it hangs under lies in the other tree's trash and isn't known here: it's gone all the same.
      if (isLive(from, change.topic)) put(topic, 'there', [{ op: 'remove', topic: change.topic }])
    } else put(topic, partOf(change), [change], inTrash)
  }
  for (const { topic, set, changes } of ordered.values()) {
    const parts = changes.map(partOf)
    const again = new Set(parts.filter((part, i) => parts.indexOf(part) !== i))
    for (const [i, change] of changes.entries())
      if (!again.has(parts[i]!)) put(topic, parts[i]!, [change])
      else if ((change.op === 'put' || change.op === 'tree-put') && !hadIt(from, topic, change))
        put(topic, parts[i]!, [change])
    // Other places in the set are only made by taking all and putting them in anew; nothing is known to be anybody's doing.
    if (again.size > 0) put(topic, `${set}/${ORDER}`, changes)
  }
  return pieces
}

export const isOrderOfMembers = (part: string): boolean => part.endsWith(`/${ORDER}`)

const isStranded = (from: Tree, to: Tree, { topic, parent }: Extract<Change, { op: 'place' }>): boolean =>
  parent !== null && !from.topics.has(parent) && !isLive(to, topic)

function hadIt(from: Tree, topic: TopicId | null, change: Extract<Change, { op: 'put' | 'tree-put' }>): boolean {
  const members: readonly unknown[] =
    change.op === 'put' ? (from.topics.get(topic!)?.[change.set] ?? []) : from.fields[change.set]
  const wanted = JSON.stringify(change.member)
  return members.some(member => JSON.stringify(member) === wanted)
}
