import fc from 'fast-check'
import * as Y from 'yjs'
import {
  applyChanges,
  type Change,
  childrenOf,
  emptyTree,
  FIELDS,
  fromSnapshot,
  isLive,
  newTopic,
  noteWords,
  openNote,
  Refused,
  SET_NAMES,
  SETS,
  toBase64,
  toSnapshot,
  TREE_FIELDS,
  type Tree,
} from '../core/tree'

/* Trees as the dice make them: every field, set and kind of change. For laws. */

const IDS = ['a', 'b', 'c', 'd', 'e', 'f', 'g']
const fieldNames = Object.keys(FIELDS) as (keyof typeof FIELDS)[]
const treeNames = Object.keys(TREE_FIELDS) as (keyof typeof TREE_FIELDS)[]

const dice = fc.record({
  op: fc.constantFrom('add', 'place', 'place', 'set', 'put', 'take', 'remove', 'restore', 'note', 'tree'),
  topic: fc.constantFrom(...IDS),
  under: fc.constantFrom('centre', null, ...IDS),
  order: fc.constantFrom('a0', 'a1', 'a2', 'a3'),
  pick: fc.nat(999),
})
type Dice = typeof dice extends fc.Arbitrary<infer T> ? T : never

const pick = <T>(list: readonly T[], n: number): T => list[n % list.length]!

function typed(tree: Tree, topic: string, words: string): string {
  const doc = openNote(tree.topics.get(topic)?.note ?? null)
  const fragment = doc.getXmlFragment('note')
  const before = Y.encodeStateVector(doc)
  if (fragment.length > 1 && words.length % 3 === 0) fragment.delete(0, 1)
  const block = new Y.XmlElement('paragraph')
  block.insert(0, [new Y.XmlText(words)])
  fragment.insert(fragment.length, [block])
  return toBase64(Y.encodeStateAsUpdate(doc, before))
}

function changeOf(roll: Dice, tree: Tree): Change {
  const { op, topic, under, order, pick: n } = roll
  const field = pick(fieldNames, n)
  const set = pick(SET_NAMES, n)
  switch (op) {
    case 'add':
      return { op, topic, parent: under, order, with: { title: `${topic}${n}` } }
    case 'place':
      return { op, topic, parent: under, order }
    case 'set':
      return {
        op,
        topic,
        field,
        value: pick([FIELDS[field].blank, ...FIELDS[field].examples] as unknown[], n),
      } as Change
    case 'put':
      return { op, topic, set, member: pick(SETS[set].examples as readonly unknown[], n) } as Change
    case 'take':
      return { op, topic, set, member: pick(['ines', 'risk', 'l1', 'k1'], n) }
    case 'note':
      return { op, topic, update: typed(tree, topic, `word ${n}`) }
    case 'tree': {
      const name = pick(treeNames, n)
      const spec = TREE_FIELDS[name]
      return { op, field: name, value: pick([spec.blank, ...spec.examples] as unknown[], n) } as Change
    }
    default:
      return { op: op as 'remove' | 'restore', topic }
  }
}

/** Makes what can be made. `sound`: nothing is put into what lies in the trash, which nobody can by hand. */
export function grow(tree: Tree, rolls: readonly Dice[], { sound = false } = {}): Tree {
  for (const roll of rolls)
    try {
      const change = changeOf(roll, tree)
      if (sound && change.op === 'add' && change.parent !== null && !isLive(tree, change.parent)) continue
      applyChanges(tree, [change])
    } catch (error) {
      if (!(error instanceof Refused)) throw error
    }
  return tree
}

export function seed(): Tree {
  const tree = emptyTree({ ...newTopic('centre', null, 'a0'), title: 'Move' })
  applyChanges(
    tree,
    ['a', 'b', 'c'].map((topic, i): Change => ({ op: 'add', topic, parent: 'centre', order: `a${i}` })),
  )
  return tree
}
export const copyOf = (tree: Tree): Tree => fromSnapshot(toSnapshot(tree))

export const rolls = (maxLength: number) => fc.array(dice, { maxLength })

/** Members in the order in which they came, or by what they are: two who put in at once agree on who, not on who was first. */
const members = (list: readonly unknown[], ordered: boolean): readonly unknown[] =>
  ordered ? list : list.map(one => JSON.stringify(one)).sort()

/** What is there, notes by what they say. Without the trash, which keeps what the other state never knew. */
export const shown = (tree: Tree, { ordered = true } = {}): unknown => ({
  fields: Object.entries(tree.fields).map(([name, value]) => [
    name,
    Array.isArray(value) ? members(value, ordered) : value,
  ]),
  topics: [...tree.topics.values()]
    .filter(topic => isLive(tree, topic.id))
    .map(({ note, ...topic }) => ({
      ...topic,
      ...Object.fromEntries(SET_NAMES.map(set => [set, members(topic[set], ordered)])),
      note: noteWords(note),
      children: [...childrenOf(tree, topic.id)],
    }))
    .sort((a, b) => (a.id < b.id ? -1 : 1)),
})
