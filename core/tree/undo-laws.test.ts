import fc from 'fast-check'
import * as Y from 'yjs'
import { describe, expect, it } from 'vitest'
import {
  addAt,
  applyChanges,
  BLANK,
  type Change,
  changeSchema,
  childrenOf,
  emptyTree,
  FIELDS,
  indent,
  invertOver,
  isLive,
  isTreeChange,
  memberKey,
  type Member,
  moveTo,
  noteWords,
  outdent,
  type Patch,
  Refused,
  removeAll,
  SET_NAMES,
  SETS,
  sortChildren,
  toBase64,
  type Topic,
  TREE_FIELDS,
  TREE_SET_NAMES,
  TREE_SETS,
  type Tree,
  wrapIn,
} from './index'

/*
 * The laws of undo as the product has it: `invertOver` over whatever others have done since, with every field and set
 * that a topic can carry.
 */

/** The values the laws roll: the blank one and the table’s examples. */
const samples = (spec: { readonly blank: unknown; readonly examples: readonly unknown[] }): readonly unknown[] => [
  spec.blank,
  ...spec.examples,
]
const FIELD_NAMES = Object.keys(FIELDS) as (keyof typeof FIELDS)[]
const TREE_NAMES = Object.keys(TREE_FIELDS) as (keyof typeof TREE_FIELDS)[]

function note(words: string): string {
  const doc = new Y.Doc()
  const paragraph = new Y.XmlElement('paragraph')
  paragraph.insert(0, [new Y.XmlText(words)])
  doc.getXmlFragment('note').insert(0, [paragraph])
  return toBase64(Y.encodeStateAsUpdate(doc))
}
const NOTES = [note('The lift is late.'), note('The lamps are here.')]

function fresh(): Tree {
  const tree = emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0', title: 'Move' })
  applyChanges(
    tree,
    ['a', 'b', 'c'].flatMap((id, i): Change[] => [
      { op: 'add', topic: id, parent: 'centre', order: `a${i}`, with: { title: id } },
      { op: 'add', topic: `${id}1`, parent: id, order: 'a0', with: { title: `${id}1` } },
    ]),
  )
  return tree
}

type Dice = readonly [kind: number, where: number, what: number, value: number]
const dice: fc.Arbitrary<Dice> = fc.tuple(fc.nat(11), fc.nat(40), fc.nat(60), fc.nat(5))

/** Any edit somebody could make, of anything a topic carries. */
function edit([kind, where, what, value]: Dice, tree: Tree, newId: () => string): readonly Change[] {
  const ids = [...tree.topics.keys()].filter(id => isLive(tree, id))
  const topic = ids[where % ids.length]!
  const other = ids[what % ids.length]!
  const pick = <T>(list: readonly T[]): T => list[value % list.length]!
  switch (kind) {
    case 0:
      return addAt(tree, { parent: topic, index: value }, newId, { title: `n${value}` }).changes
    case 1:
      return removeAll(tree, [topic]).changes
    case 2:
      return moveTo(tree, [topic], { parent: other, index: value }).changes
    case 3:
    case 4:
    case 5: {
      const field = FIELD_NAMES[what % FIELD_NAMES.length]!
      return [{ op: 'set', topic, field, value: pick(samples(FIELDS[field])) } as Change]
    }
    case 6:
    case 7: {
      const set = SET_NAMES[what % SET_NAMES.length]!
      return [{ op: 'put', topic, set, member: pick<unknown>(SETS[set].examples) } as Change]
    }
    case 8: {
      const set = SET_NAMES[what % SET_NAMES.length]!
      return [{ op: 'take', topic, set, member: memberKey(pick<unknown>(SETS[set].examples) as Member) }]
    }
    case 9: {
      const field = TREE_NAMES[what % TREE_NAMES.length]!
      return [{ op: 'tree', field, value: pick(samples(TREE_FIELDS[field])) } as Change]
    }
    case 10:
      return value % 2 === 0
        ? [{ op: 'note', topic, update: pick(NOTES) }]
        : [{ op: 'tree-put', set: 'markerSets', member: pick(TREE_SETS.markerSets.examples) } as Change]
    default:
      return [
        wrapIn(tree, [topic], newId),
        indent(tree, [topic]),
        outdent(tree, [topic]),
        sortChildren(tree, topic, 'title'),
      ][value % 4]!.changes
  }
}

interface Made {
  readonly changes: readonly Change[]
  readonly patches: readonly Patch[]
}
/** Makes an edit where it can be made. */
function make(tree: Tree, changes: readonly Change[]): Made | null {
  try {
    return { changes, patches: applyChanges(tree, changes) }
  } catch (error) {
    if (error instanceof Refused) return null
    throw error
  }
}

/** Everything that is seen of a tree, topic by topic; order keys by the order they make, notes by their words. */
function seen(tree: Tree): string {
  const topics = [...tree.topics.values()]
    .filter(topic => isLive(tree, topic.id))
    .map(topic => {
      const { order: _, note: text, ...rest } = topic
      const sets = Object.fromEntries(
        SET_NAMES.map(set => [
          set,
          [...(topic[set] as readonly Member[])].sort((a, b) => (memberKey(a) < memberKey(b) ? -1 : 1)),
        ]),
      )
      return { ...rest, ...sets, note: text === null ? '' : noteWords(text), children: [...childrenOf(tree, topic.id)] }
    })
  return JSON.stringify({ fields: tree.fields, topics: topics.sort((a, b) => (a.id < b.id ? -1 : 1)) })
}

/** What a change writes, so that one can tell whether it still stands. */
function value(tree: Tree, change: Change): unknown {
  if (isTreeChange(change)) return change.op === 'tree' ? tree.fields[change.field] : undefined
  const topic = tree.topics.get(change.topic)!
  if (change.op === 'set') return topic[change.field]
  if (change.op === 'put')
    return (topic[change.set] as readonly Member[]).find(member => memberKey(member) === memberKey(change.member))
  return undefined
}
const slot = (change: Change): string =>
  isTreeChange(change)
    ? `tree ${change.op === 'tree' ? change.field : change.set}`
    : change.op === 'set'
      ? `${change.topic} ${change.field}`
      : change.op === 'put' || change.op === 'take'
        ? `${change.topic} ${change.set} ${change.op === 'put' ? memberKey(change.member) : change.member}`
        : `${(change as { topic: string }).topic} ${change.op}`

describe('the examples in the tables', () => {
  it('are taken by the door, and every field has one that isn’t blank', () => {
    const changes: unknown[] = [
      ...FIELD_NAMES.flatMap(field =>
        samples(FIELDS[field]).map(one => ({ op: 'set', topic: 't', field, value: one })),
      ),
      ...SET_NAMES.flatMap(set => SETS[set].examples.map(member => ({ op: 'put', topic: 't', set, member }))),
      ...TREE_NAMES.flatMap(field => samples(TREE_FIELDS[field]).map(one => ({ op: 'tree', field, value: one }))),
      ...TREE_SET_NAMES.flatMap(set => TREE_SETS[set].examples.map(member => ({ op: 'tree-put', set, member }))),
    ]
    for (const change of changes) expect(changeSchema.safeParse(change).success, JSON.stringify(change)).toBe(true)
    for (const field of FIELD_NAMES)
      expect(
        (FIELDS[field].examples as readonly unknown[]).some(one => one !== FIELDS[field].blank),
        field,
      ).toBe(true)
    for (const set of SET_NAMES) expect(SETS[set].examples.length, set).toBeGreaterThan(0)
  })
})

describe('undo', () => {
  it('of whatever was done, with nobody else there, gives what was seen before; redo gives it back', () => {
    fc.assert(
      fc.property(fc.array(dice, { minLength: 1, maxLength: 12 }), rolls => {
        const tree = fresh()
        let made = 0
        const done: { made: Made; before: string; after: string }[] = []
        for (const roll of rolls) {
          const changes = edit(roll, tree, () => `n${made++}`)
          const before = seen(tree)
          const one = changes.length > 0 ? make(tree, changes) : null
          if (one) done.push({ made: one, before, after: seen(tree) })
        }
        for (const {
          made: { changes, patches },
          before,
          after,
        } of done.toReversed()) {
          const undoing = invertOver(tree, changes, patches)
          expect(undoing.stays).toEqual([])
          const undone = make(tree, undoing.changes)!
          expect(seen(tree)).toBe(before)
          const redo = invertOver(tree, undoing.changes, undone.patches)
          const redone = make(tree, redo.changes)!
          expect(seen(tree)).toBe(after)
          // And back once more, so that the edit below it is undone over the same.
          make(tree, invertOver(tree, redo.changes, redone.patches).changes)
          expect(seen(tree)).toBe(before)
        }
      }),
      { numRuns: 600 },
    )
  })

  it('over what others have done since takes back none of it, and hides nothing of theirs', () => {
    fc.assert(
      fc.property(
        fc.array(dice, { minLength: 1, maxLength: 5 }),
        fc.array(dice, { minLength: 1, maxLength: 8 }),
        (mine, theirs) => {
          const tree = fresh()
          let made = 0
          const own = mine.flatMap(
            roll =>
              make(
                tree,
                edit(roll, tree, () => `m${made++}`),
              ) ?? [],
          )
          const foreign = new Set<string>()
          const last = new Map<string, Change>()
          const added = new Set<string>()
          for (const roll of theirs) {
            const one = make(
              tree,
              edit(roll, tree, () => `t${made++}`),
            )
            for (const change of one?.changes ?? []) {
              last.set(slot(change), change)
              if (isTreeChange(change)) continue
              if (change.op === 'add') added.add(change.topic)
              if (change.op !== 'remove') foreign.add(change.topic)
            }
          }
          const standing = [...last.values()].filter(
            change =>
              JSON.stringify(value(tree, change)) ===
                JSON.stringify(
                  'value' in change
                    ? change.value
                    : 'member' in change && change.op === 'put'
                      ? change.member
                      : undefined,
                ) &&
              (change.op === 'set' || change.op === 'put' || change.op === 'tree'),
          )
          const live = [...added, ...foreign].filter(id => isLive(tree, id))
          for (const { changes, patches } of own.toReversed())
            make(tree, invertOver(tree, changes, patches, id => foreign.has(id)).changes)
          for (const change of standing) {
            const expected = 'value' in change ? change.value : (change as { member: unknown }).member
            // What we had said in the same words before them is ours to take back: nobody can tell the two apart.
            const same = own.some(({ changes }) =>
              changes.some(
                ours =>
                  slot(ours) === slot(change) &&
                  JSON.stringify('value' in ours ? ours.value : (ours as { member?: unknown }).member) ===
                    JSON.stringify(expected),
              ),
            )
            if (!same) expect(value(tree, change), JSON.stringify(change)).toEqual(expected)
          }
          for (const id of live) expect(isLive(tree, id), id).toBe(true)
          for (const topic of tree.topics.values() as Iterable<Topic>) {
            let steps = 0
            for (let at = topic.parent; at !== null; at = tree.topics.get(at)!.parent)
              if (++steps > tree.topics.size) throw new Error(`${topic.id} lies above itself`)
          }
        },
      ),
      { numRuns: 2000 },
    )
  })
})
