import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addAt,
  applyChanges,
  BLANK,
  childrenOf,
  emptyTree,
  isWithin,
  moveTo,
  shorten,
  type Tree,
  type TopicId,
} from '../tree'
import { ARRANGEMENTS } from '../tree/fields'
import { childLandingAt, landingAt, slotInWords } from './landing'
import { Layout } from './layout'

function grown(): Tree {
  const tree = emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0', title: 'Move' })
  const add = (id: TopicId, parent: TopicId, side: 'left' | 'right' = 'right'): void => {
    applyChanges(tree, addAt(tree, { parent, index: Infinity, side }, () => id, { title: id }).changes)
  }
  for (const main of ['Fit-out', 'Books']) add(main, 'centre')
  add('People', 'centre', 'left')
  for (const [parent, kids] of [
    ['Fit-out', ['Shelving', 'Lift', 'Lamps']],
    ['Books', ['Crates', 'Sort']],
    ['People', ['Rota']],
  ] as const)
    for (const kid of kids) add(kid, parent)
  return tree
}
const size = { width: 100, height: 30 }
const layoutOf = (tree: Tree): Layout =>
  new Layout(tree, { size: () => size, folded: id => tree.topics.get(id)!.folded })
const land = (tree: Tree, x: number, y: number, ...moving: TopicId[]) =>
  landingAt(tree, layoutOf(tree), x, y, new Set(moving), size)

describe('where a dragged branch lands', () => {
  const tree = grown()
  const at = (id: TopicId) => layoutOf(tree).find(id)!

  it('on a plank: under it, last, or at the place among its children that the pointer is at', () => {
    const { x, y } = at('Crates')
    expect(land(tree, x + 40, y + 15, 'Lift')).toMatchObject({
      slot: { parent: 'Crates', index: 0 },
      words: 'under Crates',
    })
    const books = at('Books')
    expect(land(tree, books.x + 40, books.y + 15, 'Lift').slot).toMatchObject({ parent: 'Books', index: 1 })
  })

  it('at its upper or lower edge: before or after it', () => {
    const { x, y } = at('Crates')
    expect(land(tree, x + 40, y + 2, 'Lift')).toMatchObject({
      slot: { parent: 'Books', index: 0 },
      words: 'under Books, 1st of 3',
    })
    expect(land(tree, x + 40, y + 28, 'Lift')).toMatchObject({
      slot: { parent: 'Books', index: 1 },
      words: 'under Books, 2nd of 3',
    })
  })

  it('beside the centre: on the side where the pointer is', () => {
    expect(land(tree, -40, 0, 'Books').slot).toMatchObject({ parent: 'centre', side: 'left' })
    expect(land(tree, 40, 0, 'Books').slot).toMatchObject({ parent: 'centre', side: 'right' })
  })

  it('far from everything: on its own, under the pointer', () => {
    expect(land(tree, 900, 900, 'Books')).toMatchObject({
      slot: { parent: null },
      words: 'on its own',
      place: { x: 850, y: 885 },
      bracket: [],
    })
  })

  it('draws the bracket from the parent to the slot', () => {
    const { x, y } = at('Crates')
    const { bracket, rect } = land(tree, x + 40, y + 28, 'Lift')
    const books = at('Books')
    expect(bracket[0]).toEqual({ x: books.x + books.width, y: books.y + books.height / 2 })
    expect(bracket.at(-1)).toEqual({ x: rect.x, y: rect.y + rect.height / 2 })
  })

  it('wherever it is dropped, the branch goes where the words say, and never into itself', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -600, max: 600 }),
        fc.integer({ min: -400, max: 400 }),
        fc.constantFrom('Fit-out', 'Books', 'Shelving', 'Crates', 'Rota'),
        (x, y, moving) => {
          const own = grown()
          const { slot, words } = land(own, x, y, moving)
          if (slot.parent !== null) expect(isWithin(own, slot.parent, moving)).toBe(false)
          const step = moveTo(own, [moving], slot)
          applyChanges(own, step.changes)
          const { parent } = own.topics.get(moving)!
          expect(parent).toBe(slot.parent)
          if (parent === null) {
            expect(words).toBe('on its own')
            return
          }
          const siblings = childrenOf(own, parent)
          const said = /, (\d+)\w\w of (\d+)$/.exec(words)
          expect([Number(said?.[1] ?? 1), Number(said?.[2] ?? 1)]).toEqual([
            siblings.indexOf(moving) + 1,
            siblings.length,
          ])
        },
      ),
      { numRuns: 500 },
    )
  })

  it('counts in words as people do', () => {
    const many = emptyTree({
      ...BLANK,
      id: 'centre',
      parent: null,
      order: 'a0',
      title: 'A title that is a good deal longer than a label',
    })
    for (let i = 0; i < 23; i++) applyChanges(many, addAt(many, { parent: 'centre', index: i }, () => `t${i}`).changes)
    const words = (index: number): string => slotInWords(many, { parent: 'centre', index }, new Set(['new']))
    expect([0, 1, 2, 3, 10, 11, 12, 20, 21, 22].map(i => words(i).split(', ')[1])).toEqual([
      '1st of 24',
      '2nd of 24',
      '3rd of 24',
      '4th of 24',
      '11th of 24',
      '12th of 24',
      '13th of 24',
      '21st of 24',
      '22nd of 24',
      '23rd of 24',
    ])
    expect(words(0)).toMatch(/^under A title that is a good deal…, /)
    expect([shorten('🧑‍🚒'.repeat(50), 3), shorten('🧑‍🚒'.repeat(3), 3), shorten(' a\n b '), shorten('')]).toEqual([
      '🧑‍🚒🧑‍🚒…',
      '🧑‍🚒🧑‍🚒🧑‍🚒',
      'a b',
      'untitled',
    ])
  })
})

describe('where a child is born that is pulled out of a plank', () => {
  it('is always under it, at a place there is, on the side where one let go', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...ARRANGEMENTS),
        fc.constantFrom('centre', 'Fit-out', 'Books', 'People', 'Lift', 'Rota'),
        fc.integer({ min: -900, max: 900 }),
        fc.integer({ min: -600, max: 600 }),
        (arrangement, parent, x, y) => {
          const tree = grown()
          applyChanges(tree, [{ op: 'tree', field: 'arrangement', value: arrangement }])
          const layout = layoutOf(tree)
          const landing = childLandingAt(tree, layout, parent, { x, y }, size)!
          const { slot, place } = landing
          expect(slot.parent).toBe(parent)
          expect(slot.index).toBeGreaterThanOrEqual(0)
          expect(slot.index).toBeLessThanOrEqual(childrenOf(tree, parent).length)
          expect(landing.words).toMatch(new RegExp(`^under ${parent === 'centre' ? 'Move' : parent}`))
          if (arrangement === 'both' && parent === 'centre')
            expect(slot.side).toBe(x < layout.find('centre')!.x + 50 ? 'left' : 'right')
          // Born there, it is that child.
          applyChanges(tree, addAt(tree, slot, () => 'born', place ?? {}).changes)
          expect(tree.topics.get('born')!.parent).toBe(parent)
          if (arrangement !== 'hand') return
          const at = layoutOf(tree).find('born')!
          expect([at.x + at.width / 2, at.y + at.height / 2].map(Math.round)).toEqual([x, y].map(Math.round))
        },
      ),
      { numRuns: 300 },
    )
  })
  it('is between the two that it was pulled between', () => {
    const tree = grown()
    const layout = layoutOf(tree)
    const [lift, lamps] = [layout.find('Lift')!, layout.find('Lamps')!]
    const slot = childLandingAt(tree, layout, 'Fit-out', { x: lift.x + 80, y: (lift.y + lamps.y + 30) / 2 }, size)!.slot
    expect(slot).toMatchObject({ parent: 'Fit-out', index: childrenOf(tree, 'Fit-out').indexOf('Lamps') })
    expect(childLandingAt(tree, layout, 'gone', { x: 0, y: 0 }, size)).toBeNull()
  })
})
