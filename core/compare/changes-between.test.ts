import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
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
  sameNote,
  SET_NAMES,
  SETS,
  toBase64,
  toSnapshot,
  topicOf,
  TREE_FIELDS,
  type Tree,
} from '../tree'
import { changesBetween } from './changes-between'

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

function grow(tree: Tree, rolls: readonly Dice[]): Tree {
  for (const roll of rolls)
    try {
      applyChanges(tree, [changeOf(roll, tree)])
    } catch (error) {
      if (!(error instanceof Refused)) throw error
    }
  return tree
}

function seed(): Tree {
  const tree = emptyTree({ ...newTopic('centre', null, 'a0'), title: 'Move' })
  applyChanges(
    tree,
    ['a', 'b', 'c'].map((topic, i): Change => ({ op: 'add', topic, parent: 'centre', order: `a${i}` })),
  )
  return tree
}
const copy = (tree: Tree): Tree => fromSnapshot(toSnapshot(tree))

/** What is there, notes by what they say. Without the trash, which keeps what the other state never knew. */
const seen = (tree: Tree): unknown => ({
  fields: tree.fields,
  topics: [...tree.topics.values()]
    .filter(topic => isLive(tree, topic.id))
    .map(({ note, ...topic }) => ({ ...topic, note: noteWords(note), children: [...childrenOf(tree, topic.id)] }))
    .sort((a, b) => (a.id < b.id ? -1 : 1)),
})

describe('changes between two states', () => {
  const rolls = (maxLength: number) => fc.array(dice, { maxLength })

  it('law: made on the one they give the other, in every field; between a state and itself there are none', () => {
    fc.assert(
      fc.property(rolls(25), rolls(25), rolls(25), (common, one, other) => {
        const base = grow(seed(), common)
        const a = grow(copy(base), one)
        const b = grow(copy(base), other)
        expect(changesBetween(a, a)).toEqual([])
        const made = copy(a)
        applyChanges(made, changesBetween(a, b))
        expect(seen(made)).toEqual(seen(b))
        expect(changesBetween(made, b).filter(change => change.op !== 'note')).toEqual([])
        for (const { id, note } of b.topics.values()) expect(sameNote(topicOf(made, id).note, note)).toBe(true)
      }),
      { numRuns: 600 },
    )
  })

  it('of one branch leave everything else, and the branch where it stands', () => {
    fc.assert(
      fc.property(rolls(20), rolls(20), (common, later) => {
        const then = grow(seed(), common)
        const now = grow(copy(then), later)
        const outside = (tree: Tree): unknown[] =>
          [...tree.topics.values()]
            .filter(({ id }) => {
              for (let at: string | null = id; at !== null; at = tree.topics.get(at)!.parent)
                if (at === 'a') return false
              return true
            })
            .map(({ id, title, done }) => [id, title, done])
        const before = outside(now)
        const stood = topicOf(now, 'a')
        let changes: Change[]
        try {
          changes = changesBetween(now, then, 'a')
          applyChanges(now, changes)
        } catch (error) {
          // The branch now lies below one that belongs into it: it's told, and nothing is changed.
          expect(error).toBeInstanceOf(Refused)
          return
        }
        expect(topicOf(now, 'a')).toMatchObject({
          parent: stood.parent,
          order: stood.order,
          title: topicOf(then, 'a').title,
        })
        const ids = new Set(outside(now).map(one => (one as [string])[0]))
        expect(before.filter(one => ids.has((one as [string])[0]))).toEqual(
          outside(now).filter(one => before.some(old => (old as [string])[0] === (one as [string])[0])),
        )
      }),
      { numRuns: 300 },
    )
  })

  it('says no when that moment had no such branch', () => {
    expect(() => changesBetween(seed(), seed(), 'z')).toThrow(RangeError)
  })
})
