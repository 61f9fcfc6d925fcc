import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  applyChanges,
  BLANK,
  branch,
  type Change,
  childrenOf,
  emptyTree,
  isLive,
  openNote,
  toBase64,
  type Topic,
  topicOf,
  type Tree,
} from '../tree'
import * as Y from 'yjs'
import { grow, rolls, seed } from '../../tests/rolled'
import { cueOf } from './cue'
import { movedTo, picked, unpicked } from './pick'
import { AT_A_GLANCE, foldsOf, inSightOf, pickedSteps, stepOf, stepsOf, stepsThrough } from './steps'

const add = (tree: Tree, ...list: [string, string | null, Partial<Topic>?][]): Tree => {
  applyChanges(
    tree,
    list.map(([topic, parent, more = {}], i): Change => ({
      op: 'add',
      topic,
      parent,
      order: `a${i.toString(36)}V`,
      with: { title: topic, ...more },
    })),
  )
  return tree
}
const run = (tree: Tree, changes: readonly Change[]): void => void applyChanges(tree, changes)
/** Steps as one would tell them: the topic, `+` where all of it is open. */
const told = (tree: Tree, root?: string): string[] =>
  stepsOf(tree, root).map(({ topic, opens }) => `${topic}${opens === 'whole' ? '+' : ''}`)
const bare = (): Tree => emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0', title: 'centre' })
const many = (n: number, under: string): [string, string][] =>
  Array.from({ length: n }, (_, i) => [`${under}-${i}`, under])

describe('the steps of presenting', () => {
  it('go through the branches as they are read, the centre first, loose topics last', () => {
    const tree = add(bare(), ['fit-out', 'centre'], ['lift', 'fit-out'], ['books', 'centre'], ['loose', null])
    expect(told(tree)).toEqual(['centre', 'fit-out+', 'books+', 'loose+'])
  })

  it('open a branch whole as long as it can be taken in at a glance, and go through its branches when it can’t', () => {
    const tree = add(bare(), ['a', 'centre'], ...many(AT_A_GLANCE - 1, 'a'))
    expect(told(tree)).toEqual(['centre', 'a+'])
    add(tree, ['one-more', 'a'], ['below', 'a-3'])
    expect(told(tree)).toEqual(['centre', 'a', 'a-3+'])
    expect(inSightOf(tree, stepsOf(tree)[1]!)).toEqual(['a', ...childrenOf(tree, 'a')])
    expect(inSightOf(tree, stepsOf(tree)[2]!)).toEqual(['a-3', 'below'])
  })

  it('enter an annex where the doorway stands, and say in which room each is', () => {
    const tree = add(bare(), ['a', 'centre'], ['b', 'a', { annex: true }], ...many(20, 'b'), ['b-c', 'b-0'])
    expect(stepsOf(tree)).toEqual([
      { topic: 'centre', opens: 'parts', in: null },
      { topic: 'a', opens: 'whole', in: null },
      { topic: 'b', opens: 'parts', in: 'b' },
      { topic: 'b-0', opens: 'whole', in: 'b' },
    ])
    expect(inSightOf(tree, stepsOf(tree)[1]!)).toEqual(['a', 'b'])
  })

  it('through what a filter leaves: the centre, then each as it is read, without what is gone', () => {
    const tree = add(bare(), ['fit-out', 'centre'], ['lift', 'fit-out'], ['books', 'centre'], ['crates', 'books'])
    run(tree, [{ op: 'remove', topic: 'crates' }])
    expect(stepsThrough(tree, ['books', 'crates', 'centre', 'lift']).map(({ topic }) => topic)).toEqual([
      'centre',
      'lift',
      'books',
    ])
    expect(stepsThrough(tree, []).map(({ topic }) => topic)).toEqual(['centre'])
  })
  it('of one branch begin with it', () => {
    const tree = add(bare(), ['a', 'centre'], ['b', 'a'], ['c', 'b'], ['d', 'a'])
    expect(told(tree, 'a')).toEqual(['a', 'b+', 'd+'])
    expect(stepsOf(tree, 'a').map(step => step.in)).toEqual(['a', 'a', 'a'])
  })

  it('keep the order that was picked, without what was removed; nothing picked is the reading order again', () => {
    const tree = add(bare(), ['a', 'centre'], ['b', 'centre'], ['c', 'centre'])
    run(tree, picked(tree, ['c', 'a']))
    run(tree, picked(tree, ['a', 'b']))
    expect(told(tree)).toEqual(['c+', 'a+', 'b+'])
    run(tree, movedTo(tree, 'b', 0))
    expect(pickedSteps(tree)).toEqual(['b', 'c', 'a'])
    run(tree, movedTo(tree, 'b', 2))
    expect(pickedSteps(tree)).toEqual(['c', 'a', 'b'])
    expect(movedTo(tree, 'a', 1)).toEqual([])
    run(tree, [{ op: 'remove', topic: 'c' }])
    expect(told(tree)).toEqual(['a+', 'b+'])
    run(tree, unpicked(tree, ['a']))
    expect(pickedSteps(tree)).toEqual(['b'])
    run(tree, unpicked(tree))
    expect(tree.fields.steps).toEqual([])
    expect(told(tree)).toEqual(['centre', 'a+', 'b+'])
  })

  it('two who pick at once lose nothing, and one of them can put theirs in order', () => {
    const tree = add(bare(), ['a', 'centre'], ['b', 'centre'], ['c', 'centre'])
    const [one, other] = [picked(tree, ['a']), picked(tree, ['b'])]
    run(tree, [...one, ...other])
    run(tree, picked(tree, ['c']))
    expect(pickedSteps(tree)).toEqual(['a', 'b', 'c'])
    run(tree, movedTo(tree, 'c', 0))
    expect(pickedSteps(tree)).toEqual(['c', 'a', 'b'])
  })

  it('look the same however one came to them: the way is open, what stands beside it folded', () => {
    const tree = add(
      bare(),
      ['a', 'centre'],
      ['x', 'centre'],
      ['x1', 'x'],
      ...many(20, 'a'),
      ['deep', 'a-3'],
      ['d2', 'deep'],
    )
    add(tree, ['b', 'a-5'])
    const [centre, a, third] = stepsOf(tree)
    expect(Object.fromEntries(foldsOf(tree, centre!))).toEqual({ centre: false, a: true, x: true })
    expect(Object.fromEntries(foldsOf(tree, a!))).toEqual({
      centre: false,
      a: false,
      x: true,
      'a-3': true,
      'a-5': true,
    })
    expect(third!.topic).toBe('a-3')
    expect(Object.fromEntries(foldsOf(tree, third!))).toEqual({
      centre: false,
      a: false,
      x: true,
      'a-3': false,
      'a-5': true,
      deep: false,
    })
  })

  it('know whose step a topic belongs to', () => {
    const tree = add(bare(), ['a', 'centre'], ['b', 'a'], ['c', 'centre'], ['loose', null])
    const steps = stepsOf(tree)
    expect(['centre', 'a', 'b', 'c', 'loose'].map(id => stepOf(tree, steps, id))).toEqual([0, 1, 1, 2, 3])
    run(tree, picked(tree, ['c']))
    expect(stepOf(tree, stepsOf(tree), 'b')).toBe(-1)
  })

  it('in any tree: every step once, in reading order, and every topic is in sight of one', () => {
    fc.assert(
      fc.property(rolls(60), list => {
        const tree = grow(seed(), list)
        run(tree, unpicked(tree))
        const steps = stepsOf(tree)
        expect(new Set(steps.map(({ topic }) => topic)).size).toBe(steps.length)
        const seen = new Set(steps.flatMap(step => inSightOf(tree, step)))
        const live = [...tree.topics.keys()].filter(id => isLive(tree, id))
        expect(live.filter(id => !seen.has(id))).toEqual([])
        const read = [tree.centre, ...childrenOf(tree, null).filter(id => id !== tree.centre)].flatMap(top =>
          Array.from(branch(tree, top), ({ id }) => id),
        )
        const places = steps.map(({ topic }) => read.indexOf(topic))
        expect(places).toEqual([...places].sort((a, b) => a - b))
        for (const step of steps)
          if (step.opens === 'whole') expect(inSightOf(tree, step).length).toBeLessThanOrEqual(AT_A_GLANCE)
      }),
    )
  })
})

it('the speaker is told what to say of a step, and what comes next', () => {
  const doc = openNote(null)
  const paragraph = new Y.XmlElement('paragraph')
  paragraph.insert(0, [new Y.XmlText('Say who pays.')])
  doc.getXmlFragment('note').insert(0, [paragraph])
  const tree = add(bare(), ['lift', 'centre'], ['doors', 'lift'], ['books', 'centre'])
  run(tree, [{ op: 'note', topic: 'lift', update: toBase64(Y.encodeStateAsUpdate(doc)) }])
  const steps = stepsOf(tree)
  const numberOf = (id: string): string => (id === 'lift' ? '1' : '')
  expect(cueOf(tree, steps, 1, numberOf)).toEqual({
    place: 2,
    of: 3,
    title: '1 lift',
    note: ['Say who pays.'],
    parts: ['doors'],
    next: { title: 'books', parts: [] },
  })
  expect(cueOf(tree, steps, 2, numberOf).next).toBeNull()
  expect(topicOf(tree, 'lift').note).not.toBeNull()
})
