import { describe, expect, it } from 'vitest'
import { Layout } from '#core/arrange/layout'
import { addAt, applyChanges, BLANK, type Change, emptyTree, type Initial, touchedBy, type Tree } from '#core/tree'
import { CrossLinks } from '#core/derive/cross-links'
import { labelScale, TieDrawer } from './ties'

function grow(...topics: [id: string, parent: string | null, given?: Initial][]): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  tree.fields = { ...tree.fields, arrangement: 'right' }
  for (const [id, parent, given] of topics)
    applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id, { title: id, ...given }).changes)
  return tree
}
const tie = (to: string, id = `to-${to}`) => ({ id, to, label: '', ends: 'to' as const, bend: null, hue: null })

const EVERYWHERE = { x: -1e4, y: -1e4, width: 2e4, height: 2e4 }

describe('cross-links of an open tree', () => {
  const open = () => {
    const tree = grow(
      ['a', 'c'],
      ['a1', 'a', { ties: [tie('b1')] }],
      ['b', 'c'],
      ['b1', 'b'],
      ['d', 'c', { ties: [tie('a')] }],
    )
    const ties = new CrossLinks(() => tree)
    const folds = new Set<string>()
    const layout = new Layout(tree, { size: () => ({ width: 80, height: 28 }), folded: id => folds.has(id) })
    const make = (...changes: Change[]): void => {
      const touched = touchedBy(applyChanges(tree, changes))
      ties.changed(touched)
      layout.touch(touched)
    }
    const plain = { isDim: () => false, isHidden: () => false }
    const drawn = (filter: typeof plain | { isDim(id: string): boolean; isHidden(id: string): boolean } = plain) =>
      new TieDrawer(Infinity)
        .draw(tree, ties.all(), layout, EVERYWHERE, {
          filter,
          hueOf: () => '#111111',
          colour: hue => `hue ${hue}`,
          at: null,
        })
        .map(({ from, tie: { to }, faint, dim, hue }) => ({ from, to, faint, dim, hue }))
    return { tree, ties, folds, layout, make, drawn }
  }
  const said = (ties: CrossLinks): string[] => ties.all().map(({ from, tie: { to } }) => `${from} ${to}`)

  it('are there as long as both their ends are, and come back with a branch', () => {
    const { ties, make } = open()
    expect(said(ties)).toEqual(['a1 b1', 'd a'])
    make({ op: 'remove', topic: 'b' })
    expect(said(ties)).toEqual(['d a'])
    make({ op: 'remove', topic: 'a' })
    expect(said(ties)).toEqual([])
    make({ op: 'restore', topic: 'a' }, { op: 'restore', topic: 'b' })
    expect(said(ties)).toEqual(['a1 b1', 'd a'])
    expect(ties.at('a').map(one => one.from)).toEqual(['d'])
    make(
      { op: 'put', topic: 'b', set: 'ties', member: tie('d') },
      { op: 'take', topic: 'd', set: 'ties', member: 'to-a' },
    )
    expect(said(ties).sort()).toEqual(['a1 b1', 'b d'])
  })
  it('lead to what holds a folded end, faintly, and aren’t drawn inside one fold', () => {
    const { folds, layout, make, drawn } = open()
    expect(drawn()).toEqual([
      { from: 'a1', to: 'b1', faint: false, dim: false, hue: '#111111' },
      { from: 'd', to: 'a', faint: false, dim: false, hue: '#111111' },
    ])
    folds.add('a')
    layout.touch(['a'])
    expect(drawn().map(({ from, faint }) => [from, faint])).toEqual([
      ['a1', true],
      ['d', false],
    ])
    make({ op: 'put', topic: 'a', set: 'ties', member: { ...tie('a1'), hue: '3' } })
    expect(drawn().map(({ from }) => from)).toEqual(['a1', 'd'])
    folds.clear()
    layout.touch(['a'])
    expect(drawn().find(one => one.from === 'a')?.hue).toBe('hue 3')
  })
  it('step back with an end that a filter dims, and go with one that it hides', () => {
    const { drawn } = open()
    expect(drawn({ isDim: id => id === 'b1', isHidden: () => false }).map(({ dim }) => dim)).toEqual([true, false])
    expect(drawn({ isDim: () => false, isHidden: id => id === 'b1' }).map(({ from }) => from)).toEqual(['d'])
  })
  it('are looked for once, in sight alone, and again when a plank near them moves; meanwhile they go along', () => {
    const { tree, ties, layout, make } = open()
    const drawer = new TieDrawer(Infinity)
    const draw = (seen = EVERYWHERE) =>
      drawer.draw(tree, ties.all(), layout, seen, {
        filter: { isDim: () => false, isHidden: () => false },
        hueOf: () => '#111111',
        colour: hue => hue,
        at: null,
      })
    const first = draw()
    expect(first.map(({ thread }) => thread.clear)).toEqual([true, true])
    expect(draw().map(({ thread }, i) => thread === first[i]!.thread)).toEqual([true, true])
    expect(draw({ x: 9e3, y: 9e3, width: 10, height: 10 })).toEqual([])
    // What changes no place keeps the ways; a topic between them doesn't.
    make({ op: 'set', topic: 'a', field: 'done', value: 50 })
    expect(draw().map(({ thread }, i) => thread === first[i]!.thread)).toEqual([true, true])
    make({ op: 'add', topic: 'b2', parent: 'b', order: 'a9', with: { title: 'b2' } })
    expect(draw().every(({ thread }, i) => thread !== first[i]!.thread)).toBe(true)
    expect(drawer.behind).toBe(false)
    // Without time left for it, the old way goes along with its ends, and is looked for afterwards.
    drawer.budget = -1
    make({ op: 'add', topic: 'b3', parent: 'b', order: 'aa', with: { title: 'b3' } })
    const late = draw()
    expect([late.length, drawer.behind]).toEqual([2, true])
    drawer.budget = Infinity
    expect(draw().map(({ thread }) => thread.clear)).toEqual([true, true])
    expect(drawer.behind).toBe(false)
  })

  it('have labels of eleven pixels at least, at any zoom', () => {
    for (let zoom = 0.05; zoom <= 3; zoom *= 1.07) expect(12 * labelScale(zoom) * zoom).toBeGreaterThanOrEqual(11)
  })
})
