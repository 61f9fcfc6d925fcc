import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addAt,
  applyChanges,
  ARRANGEMENTS,
  BLANK,
  type Change,
  childrenOf,
  emptyTree,
  moveTo,
  removeAll,
  setAll,
  touchedBy,
  type Tree,
  type TopicId,
  topicOf,
} from '../tree'
import { Layout, type Placed } from './layout'
import { meets, type Onlooker } from './place'
import { hyphenatorFor } from './hyphenation'
import { plankOf, wrap } from './plank'

const everywhere = { x: -1e7, y: -1e7, width: 2e7, height: 2e7 }

function fresh(): Tree {
  return emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0' })
}

const look = (tree: Tree) => ({
  size: (id: TopicId) => ({
    width: 40 + (id.charCodeAt(id.length - 1) % 7) * 20,
    height: 20 + (id.charCodeAt(0) % 3) * 10 + tree.topics.get(id)!.title.length,
  }),
  folded: (id: TopicId) => tree.topics.get(id)!.folded,
})

const watching = (plank: (placed: Placed) => unknown): Onlooker => ({ plank, line() {}, block() {} })

function planks(layout: Layout): Map<TopicId, Placed> {
  const seen = new Map<TopicId, Placed>()
  layout.scan(
    everywhere,
    0,
    watching(placed => seen.set(placed.id, placed)),
  )
  return seen
}

describe('an arranged tree', () => {
  it('says where the spine of a bracket stands, in frames with space of their own too', () => {
    for (const arrangement of ['right', 'left', 'down'] as const) {
      const tree = fresh()
      for (const [id, parent] of [
        ['a', 'centre'],
        ['b', 'a'],
        ['b1', 'b'],
        ['b2', 'b'],
      ] as const)
        applyChanges(
          tree,
          addAt(tree, { parent: tree.topics.has(parent) ? parent : tree.centre, index: 9 }, () => id).changes,
        )
      applyChanges(tree, [
        { op: 'set', topic: 'a', field: 'arrangement', value: arrangement },
        { op: 'set', topic: 'a', field: 'spaceAlong', value: 200 },
        { op: 'tree', field: 'along', value: 150 },
      ])
      const layout = new Layout(tree, look(tree), { today: '2027-03-01' })
      const lines: (readonly number[])[] = []
      layout.scan(layout.bounds(), 0, {
        plank() {},
        block() {},
        line: (owner, points) => owner === 'b' && lines.push(points),
      })
      const b = layout.find('b')!
      const spine = layout.spineBehind('b', b.direction)
      const at =
        arrangement === 'right' ? b.x + b.width + spine : arrangement === 'left' ? b.x - spine : b.y + b.height + spine
      // The bracket's own line: its stub, then the spine.
      expect(lines[0]![arrangement === 'down' ? 3 : 2]).toBeCloseTo(at, 6)
    }
  })
  const arrangements = fc.constantFrom(...ARRANGEMENTS)
  it('kept up to date change by change stands as one laid out afresh, and no two planks meet, in every arrangement and in mixtures', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(99), fc.nat(99), fc.nat(10)), { minLength: 5, maxLength: 40 }),
        arrangements,
        (steps, arrangement) => {
          const tree = fresh()
          const layout = new Layout(tree, look(tree), { arrangement, today: '2027-03-01' })
          let made = 0
          for (const [a, b, kind] of steps) {
            const ids = [...tree.topics.values()].filter(topic => !topic.removed).map(topic => topic.id)
            const one = ids[a % ids.length]!
            const other = ids[b % ids.length]!
            const step =
              kind < 3
                ? addAt(
                    tree,
                    { parent: one, index: b % 3, side: b % 2 ? 'left' : 'right' },
                    () => `${'abc'[b % 3]}${made++}`,
                  )
                : kind === 9
                  ? addAt(tree, { parent: null, index: Infinity }, () => `${'abc'[b % 3]}${made++}`)
                  : kind === 3
                    ? moveTo(tree, [one], { parent: other, index: 0, side: 'left' })
                    : kind === 8
                      ? {
                          changes: [...tree.topics.values()]
                            .filter(topic => topic.removed)
                            .slice(0, 1)
                            .map(topic => ({ op: 'restore' as const, topic: topic.id })),
                          made: [],
                        }
                      : kind === 6
                        ? setAll(
                            tree,
                            [one],
                            'arrangement',
                            ([null, 'down', 'left', 'around', 'both', 'time', 'right', 'hand'] as const)[b % 8]!,
                          )
                        : kind === 10
                          ? setAll(tree, [one], b % 2 ? 'spaceAlong' : 'spaceAcross', b % 5 ? 40 + a * 2 : null)
                          : kind === 7
                            ? setAll(tree, [one], 'due', `2027-0${1 + (b % 9)}-1${a % 10}`)
                            : kind === 4
                              ? setAll(tree, [one], 'folded', b % 2 === 0)
                              : a % 4 === 0
                                ? removeAll(tree, [one])
                                : setAll(tree, [one], 'title', 'x'.repeat(b % 9))
            try {
              layout.touch(touchedBy(applyChanges(tree, step.changes)))
            } catch {
              continue
            }
            const kept = planks(layout)
            const afresh = planks(new Layout(tree, look(tree), { arrangement, today: '2027-03-01' }))
            expect(kept.size).toBe(afresh.size)
            for (const [id, placed] of afresh) {
              const got = kept.get(id)!
              expect(Math.abs(got.x - placed.x) + Math.abs(got.y - placed.y)).toBeLessThan(1e-6)
              const found = layout.find(id)!
              expect(Math.abs(found.x - placed.x) + Math.abs(found.y - placed.y)).toBeLessThan(1e-6)
            }
            const bounds = layout.bounds()
            for (const placed of kept.values()) {
              expect(placed.x).toBeGreaterThanOrEqual(bounds.x - 1e-6)
              expect(placed.y + placed.height).toBeLessThanOrEqual(bounds.y + bounds.height + 1e-6)
            }
            const list = [...kept.values()]
            for (let i = 0; i < list.length; i++) {
              for (let j = i + 1; j < list.length; j++) {
                const p = list[i]!
                const q = list[j]!
                const overlap =
                  p.x < q.x + q.width - 1e-6 &&
                  q.x < p.x + p.width - 1e-6 &&
                  p.y < q.y + q.height - 1e-6 &&
                  q.y < p.y + p.height - 1e-6
                expect(overlap).toBe(false)
              }
            }
          }
        },
      ),
      { numRuns: 150 },
    )
  })

  it('a look at a part shows exactly the planks that lie in it, in every arrangement', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(99), fc.integer({ min: -400, max: 400 })), { minLength: 3, maxLength: 60 }),
        arrangements,
        fc.tuple(
          fc.integer({ min: -900, max: 900 }),
          fc.integer({ min: -500, max: 500 }),
          fc.integer({ min: 1, max: 600 }),
        ),
        (steps, arrangement, [x, y, side]) => {
          const tree = fresh()
          for (const [i, [at, place]] of steps.entries()) {
            const ids = [...tree.topics.keys()]
            const place2 = arrangement === 'hand' && i % 3 === 0 ? { x: place, y: -place / 2 } : {}
            applyChanges(
              tree,
              addAt(tree, { parent: ids[at % ids.length]!, index: at }, () => `${'abc'[at % 3]}${i}`, place2).changes,
            )
          }
          const layout = new Layout(tree, look(tree), { arrangement, today: '2027-03-01' })
          const view = { x, y, width: side, height: side }
          const expected = [...planks(layout).values()]
            .filter(plank => meets(view, plank))
            .map(plank => plank.id)
            .sort()
          const seen: TopicId[] = []
          layout.scan(
            view,
            0,
            watching(placed => seen.push(placed.id)),
          )
          expect(seen.filter(id => meets(view, layout.find(id)!)).sort()).toEqual(expected)
          expect(seen.length).toBe(new Set(seen).size)
        },
      ),
      { numRuns: 150 },
    )
  })

  it('goes on with another tree, or with other folds, as if it were new, and hears of changes after that', () => {
    const tree = fresh()
    applyChanges(
      tree,
      ['a', 'b', 'c'].map((topic, i) => ({
        op: 'add' as const,
        topic,
        parent: i === 0 ? 'centre' : 'a',
        order: `a${i}`,
      })),
    )
    const folds = new Set<TopicId>(['a'])
    const own = { size: look(tree).size, folded: (id: TopicId) => folds.has(id) }
    const layout = new Layout(tree, own)
    expect([...planks(layout).keys()].sort()).toEqual(['a', 'centre'])
    folds.clear()
    layout.rebase(tree)
    expect([...planks(layout).keys()].sort()).toEqual(['a', 'b', 'c', 'centre'])
    layout.touch(touchedBy(applyChanges(tree, [{ op: 'remove', topic: 'b' }])))
    expect([...planks(layout).keys()].sort()).toEqual(['a', 'c', 'centre'])
    folds.add('a')
    layout.touch(['a'])
    expect([...planks(layout).keys()].sort()).toEqual(['a', 'centre'])
  })

  it('a branch that was elsewhere meanwhile, and was changed there, comes back as it is now', () => {
    for (const arrangement of ['hand', 'around', 'right'] as const) {
      const tree = fresh()
      applyChanges(tree, [
        { op: 'add', topic: 'here', parent: 'centre', order: 'a0', with: { arrangement } },
        { op: 'add', topic: 'there', parent: 'centre', order: 'a1', with: { arrangement } },
        { op: 'add', topic: 'branch', parent: 'here', order: 'a0' },
        { op: 'add', topic: 'leaf', parent: 'branch', order: 'a0' },
        { op: 'add', topic: 'next', parent: 'branch', order: 'a1' },
      ])
      const layout = new Layout(tree, look(tree))
      const change = (...changes: Change[]): void => {
        layout.touch(touchedBy(applyChanges(tree, changes)))
        layout.bounds()
      }
      layout.bounds()
      change({ op: 'place', topic: 'branch', parent: 'there', order: 'a0' })
      change({ op: 'set', topic: 'leaf', field: 'title', value: 'x'.repeat(60) })
      change({ op: 'place', topic: 'branch', parent: 'here', order: 'a0' })
      expect(planks(layout)).toEqual(planks(new Layout(tree, look(tree))))
    }
  })

  it('a loose branch that is filed has the space of a branch, not of a centre', () => {
    const tree = fresh()
    applyChanges(tree, [
      { op: 'add', topic: 'branch', parent: null, order: 'a0' },
      ...['a', 'b'].map((topic, i) => ({ op: 'add' as const, topic, parent: 'branch', order: `a${i}` })),
    ])
    const layout = new Layout(tree, look(tree))
    layout.bounds()
    layout.touch(touchedBy(applyChanges(tree, [{ op: 'place', topic: 'branch', parent: 'centre', order: 'a0' }])))
    expect(planks(layout)).toEqual(planks(new Layout(tree, look(tree))))
  })

  it('is read on round the centre, or down the left side too where the tree says so', () => {
    for (const arrangement of ['both', 'around'] as const)
      for (const leftDown of [false, true]) {
        const tree = fresh()
        for (const topic of ['a', 'b', 'c', 'd', 'e', 'f', 'g'])
          applyChanges(tree, addAt(tree, { parent: 'centre', index: 9 }, () => topic).changes)
        applyChanges(tree, [
          { op: 'set', topic: 'centre', field: 'split', value: topicOf(tree, 'e').order },
          { op: 'tree', field: 'arrangement', value: arrangement },
          { op: 'tree', field: 'leftDown', value: leftDown },
        ])
        const layout = new Layout(tree, look(tree))
        const onScreen = (direction: string): string =>
          childrenOf(tree, 'centre')
            .filter(id => layout.find(id)!.direction === direction)
            .sort((one, other) => layout.find(one)!.y - layout.find(other)!.y)
            .join('')
        expect([onScreen('right'), onScreen('left')]).toEqual(['abcd', leftDown ? 'efg' : 'gfe'])
      }
  })

  it('what is left out leaves the others on their sides', () => {
    for (const arrangement of ['both', 'around'] as const) {
      const tree = fresh()
      applyChanges(
        tree,
        ['a', 'b', 'c', 'd'].map((topic, i) => ({ op: 'add' as const, topic, parent: 'centre', order: `a${i}` })),
      )
      const sideOf = (layout: Layout): string[] => ['b', 'c', 'd'].map(id => layout.find(id)!.direction)
      const all = new Layout(tree, look(tree), { arrangement })
      const some = new Layout(tree, { ...look(tree), hidden: id => id === 'a' }, { arrangement })
      expect(sideOf(some)).toEqual(sideOf(all))
    }
  })

  it('shows just what lies in view, hides what is folded and says how much that is', () => {
    const tree = fresh()
    applyChanges(
      tree,
      Array.from({ length: 200 }, (_, i) => ({
        op: 'add' as const,
        topic: `t${i}`,
        parent: i < 10 ? 'centre' : `t${i % 10}`,
        order: `a${'ABCDEFGHIJKLMNOPQRSTUVWXYZ'[Math.floor(i / 10)]}`,
      })),
    )
    const layout = new Layout(tree, look(tree), { arrangement: 'right' })
    const target = layout.find('t57')!
    const seen: TopicId[] = []
    layout.scan(
      { x: target.x, y: target.y, width: target.width, height: target.height },
      0,
      watching(placed => seen.push(placed.id)),
    )
    expect(seen).toContain('t57')
    expect(seen.length).toBeLessThan(6)
    layout.touch(touchedBy(applyChanges(tree, [{ op: 'set', topic: 't7', field: 'folded', value: true }])))
    expect(layout.find('t57')).toBeNull()
    expect(layout.hidden('t7')).toBe(childrenOf(tree, 't7').length)
    expect(planks(layout).size).toBe(201 - layout.hidden('t7'))
  })
})

describe('planks', () => {
  const ruler = (text: string): number => text.length * 7
  it('part long words between syllables where their language is known, within the width, and lose nothing', async () => {
    const width = (text: string): number => [...text].length * 7
    // D. Knuth, “The TeXbook”, appendix H: Liang's patterns part it as hy-phen-ation (from memory).
    const english = (await hyphenatorFor('en-US'))!
    expect(english('hyphenation').join('-')).toBe('hy-phen-ation')
    expect(wrap('A hyphenation', 49, width, english)).toEqual(['A', 'hyphen-', 'ation'])
    const german = (await hyphenatorFor('de-CH'))!
    // Duden, rules for parting words: between the parts of a compound, st is parted since 1996 (common knowledge).
    expect(wrap('Lastenaufzugswartungsvertrag', 112, width, german)).toEqual(['Lastenaufzugs-', 'wartungsvertrag'])
    expect(wrap('Umzugs-Koordinationssitzung', 63, width, german)[0]).toBe('Umzugs-')
    expect(await hyphenatorFor('ja')).toBeNull()
    fc.assert(
      fc.property(fc.array(fc.stringMatching(/^[a-zäöüß]{1,60}$/), { minLength: 1, maxLength: 4 }), words => {
        const lines = wrap(words.join(' '), 70, width, german)
        for (const line of lines) expect(width(line)).toBeLessThanOrEqual(70)
        expect(lines.map(line => line.replace(/-$/, '').replaceAll(' ', '')).join('')).toBe(words.join(''))
      }),
    )
  })
  it('wrap between words, inside long words, and never lose a character', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 200 }), title => {
        const lines = wrap(title, 70, text => [...text].length * 7)
        expect(lines.join('').replace(/\s/g, '')).toBe(title.replace(/\s/g, ''))
        for (const line of lines) expect([...line].length).toBeLessThanOrEqual(Math.max(10, 2))
      }),
    )
  })
  it('grow with markers, signs and small print, and stop growing at fourteen lines', () => {
    const base = {
      title: 'Shelving',
      rank: 'plain' as const,
      textSize: null,
      bold: false,
      slanted: false,
      markers: 0,
      signs: 0,
      smallPrint: [],
    }
    const plain = plankOf(base, ruler)
    const rich = plankOf({ ...base, markers: 2, signs: 1, smallPrint: ['IB', '2 d late'] }, ruler)
    expect(rich.width).toBeGreaterThan(plain.width)
    expect(rich.height).toBeGreaterThan(plain.height)
    const long = plankOf({ ...base, title: 'word '.repeat(2000) }, ruler)
    expect(long.cut).toBe(true)
    expect(long.lines).toHaveLength(14)
  })
})
