import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { copyOf, grow, rolls, seed } from '../../tests/rolled'
import { allTopics, applyChanges, type Change, childrenOf, topicOf, type Tree } from '../tree'
import { differencesOf } from '../compare/differences'
import { folded, type Pair, sideBySide } from './pairs'

const lines = (here: Tree, there: Tree): string[] =>
  sideBySide(here, there).map(
    ({ id, side, moved, trace, level }) =>
      `${' '.repeat(level)}${id} ${side}${moved ? ' moved' : ''}${trace ? ' trace' : ''}`,
  )
const made = (tree: Tree, changes: readonly Change[]): Tree => {
  const copy = copyOf(tree)
  applyChanges(copy, changes)
  return copy
}
const add = (topic: string, parent: string, order = 'a5'): Change => ({
  op: 'add',
  topic,
  parent,
  order,
  with: { title: topic },
})

describe('side by side', () => {
  it('has what both have in one line, what one has beside nothing, and a trace where something was', () => {
    const there = made(seed(), [add('a1', 'a', 'a0'), add('a2', 'a', 'a1'), add('b1', 'b')])
    const here = made(there, [
      { op: 'remove', topic: 'a1' },
      { op: 'place', topic: 'b1', parent: 'c', order: 'a0' },
      add('n', 'a', 'a2'),
    ])
    expect(lines(here, there)).toEqual([
      'centre both',
      ' a both',
      '  a1 there',
      '  a2 both',
      '  n here',
      ' b both',
      '  b1 there moved trace',
      ' c both',
      '  b1 here moved',
    ])
    expect(childrenOf(folded(here, there), 'a')).toEqual(['a1', 'a2', 'n'])
  })

  it('law: each state is told whole and in its order, each difference has its line, folded it has every topic once', () => {
    fc.assert(
      fc.property(rolls(15), rolls(15), rolls(15), (common, one, other) => {
        const base = grow(seed(), common)
        const [here, there] = [grow(copyOf(base), one), grow(copyOf(base), other)]
        const pairs = sideBySide(here, there)
        const of = (wanted: (pair: Pair) => boolean): string[] => pairs.filter(wanted).map(({ id }) => id)
        const reading = (tree: Tree): string[] => Array.from(allTopics(tree), ({ id }) => id)
        expect(of(({ side }) => side !== 'there')).toEqual(reading(here))
        const byId = (ids: readonly string[]): string[] => [...ids].sort()
        expect(byId(of(({ side }) => side !== 'here'))).toEqual(byId(reading(there)))
        const differences = differencesOf(there, here, { order: true })
        const kinds = (kind: string): string[] => byId(differences.filter(d => d.kind === kind).map(({ id }) => id))
        expect(byId(of(({ side, moved }) => side === 'here' && !moved))).toEqual(kinds('added'))
        expect(byId(of(({ side, trace }) => side === 'there' && !trace))).toEqual(kinds('removed'))
        expect(byId(of(({ trace }) => trace))).toEqual(kinds('moved'))
        const one2 = folded(here, there)
        expect(byId(reading(one2))).toEqual(byId([...new Set([...reading(here), ...reading(there)])]))
        for (const id of reading(here)) expect(topicOf(one2, id).title).toBe(topicOf(here, id).title)
      }),
      { numRuns: 300 },
    )
  })
})
