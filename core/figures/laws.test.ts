import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isStale } from '../derive/derived'
import { Planning } from '../derive/planning'
import { addAt, applyChanges, type Change, invertAll, isLive, moveTo, removeAll, touchedBy, type Tree } from '../tree'
import { euros, give, treeOf } from './fixtures/growing'
import { Figures } from './figures'

const TODAY = '2027-02-01'
const MEASURES = [
  euros('a', { unit: '' }),
  euros('b', { unit: '', rollUp: 'mean' }),
  euros('w', { unit: '', rollUp: 'weighted', by: 'b' }),
  euros('m', { unit: '', rollUp: 'max' }),
]
const NAMES = MEASURES.map(({ id }) => id)
type Dice = readonly [number, number, number]
const dice: fc.Arbitrary<Dice> = fc.tuple(fc.nat(99), fc.nat(99), fc.nat(13))

function textBy([x, y]: Dice, other: string): string {
  const texts = [
    '',
    `${(x % 13) - 4}.5`,
    `={m:${NAMES[y % 4]}} of parent + 1`,
    `=2 × {m:${NAMES[x % 4]}} of {t:${other}}`,
    `=sum({m:${NAMES[x % 4]}} of all below)`,
    `=sum({m:${NAMES[y % 4]}} of all below marked {k:risk})`,
    `=max({m:${NAMES[x % 4]}} of children) − count(children with "t1")`,
    `=sum(({m:a} × {m:b}) of all below)`,
    `=median({m:${NAMES[x % 4]}} of all below)`,
    `={v:rate} × ${y % 5}`,
    `=if({m:a} > 2; {m:b}; {m:a} ÷ {m:b})`,
    `=count(all below with nothing under it)`,
    `=length ÷ 1 d + {m:a} of centre`,
    `=days(start of {t:${other}}; finish) ÷ 1 d`,
  ]
  return texts[(x * 7 + y) % texts.length]!
}

function changesOf(tree: Tree, roll: Dice, newId: () => string): readonly Change[] {
  const [x, y, kind] = roll
  const ids = [...tree.topics.keys()]
  const live = ids.filter(id => isLive(tree, id))
  const [one, other] = [live[x % live.length]!, live[y % live.length]!]
  switch (kind) {
    case 0:
    case 1:
      return addAt(tree, { parent: one, index: y % 3 }, newId, { title: `t${y}` }).changes
    case 2:
      return moveTo(tree, [one], { parent: y % 9 === 0 ? null : other, index: x % 2 }).changes
    case 3:
      return removeAll(tree, [one]).changes
    case 4:
      return [{ op: 'restore', topic: ids[x % ids.length]! }]
    case 5:
      return [{ op: y % 3 === 0 ? 'take' : 'put', topic: one, set: 'markers', member: 'risk' }]
    case 6:
      return [{ op: 'set', topic: one, field: 'title', value: `t${y % 12}` }]
    case 7:
      return [{ op: 'set', topic: one, field: 'duration', value: x % 3 ? (x % 9) / 2 : null }]
    case 8:
      return y % 4 === 0
        ? [{ op: 'tree', field: 'planFrom', value: x % 2 ? '2027-03-01' : null }]
        : [
            {
              op: 'tree-put',
              set: 'namedValues',
              member: { id: 'rate', order: 'a0', name: 'Rate', unit: '', text: `${x}` },
            },
          ]
    case 9:
      return [{ op: 'set', topic: one, field: 'reference', value: y % 3 ? null : { tree: null, topic: other } }]
    default:
      return [give(one, NAMES[(x + y) % 4]!, textBy(roll, other))]
  }
}

function make(tree: Tree): { planning: Planning; figures: Figures } {
  const planning = new Planning(
    () => tree,
    () => TODAY,
  )
  return {
    planning,
    figures: new Figures(
      () => tree,
      planning,
      () => TODAY,
    ),
  }
}
const says = (figures: Figures, id: string): unknown =>
  NAMES.map(measure => [figures.of(id, measure), figures.rolled(id, measure)])

describe('figures', () => {
  it('say after any edits what fresh ones say, and have told of every one that differs', () => {
    fc.assert(
      fc.property(fc.array(dice, { minLength: 1, maxLength: 30 }), fc.nat(3), (rolls, asked) => {
        const tree = treeOf(MEASURES, 'x | a 1\n  y | a 2 | b 3\nz | a ={m:a} of {t:x}')
        const { planning, figures } = make(tree)
        let count = 0
        for (const roll of rolls) {
          const known = new Map(
            [...tree.topics.keys()].filter(id => isLive(tree, id)).map(id => [id, says(figures, id)] as const),
          )
          let patches
          try {
            patches = applyChanges(
              tree,
              changesOf(tree, roll, () => `n${count++}`),
            )
          } catch {
            continue
          }
          const touched = touchedBy(patches)
          planning.changed(touched)
          const told = figures.changed(touched)
          const fresh = make(tree).figures
          const live = [...tree.topics.keys()].filter(id => isLive(tree, id))
          // Asked for in another order, and at times not at all before the next edit.
          for (const id of asked % 2 ? live.reverse() : live) {
            const now = says(figures, id)
            expect(now).toEqual(says(fresh, id))
            if (!isStale(told, id) && !touched.has(id)) expect(known.has(id) ? known.get(id) : now).toEqual(now)
          }
        }
      }),
      { numRuns: 250 },
    )
  })

  it('come to the same in whichever order children stand', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: -1_000_000_000, max: 1_000_000_000 }), fc.nat(10)), {
          minLength: 2,
          maxLength: 20,
        }),
        fc.nat(),
        (values, seed) => {
          const lines = values.map(
            ([n, places], i) =>
              `t${i} | a ${n < 0 ? '-' : ''}${Math.abs(n)}.${String(Math.abs(n) % 1000)}${'7'.repeat(places % 7)}`,
          )
          const turned = [...lines].sort(
            (a, b) => ((a.length * 31 + seed) % 7) - ((b.length * 17 + seed) % 7) || (a < b ? 1 : -1),
          )
          const sum = (all: readonly string[]): unknown =>
            make(treeOf(MEASURES, all.join('\n'))).figures.of('c', 'a').value
          expect(sum(turned)).toBe(sum(lines))
        },
      ),
      { numRuns: 100 },
    )
  })

  it('are as before once an edit is undone', () => {
    fc.assert(
      fc.property(fc.array(dice, { minLength: 1, maxLength: 12 }), dice, (rolls, last) => {
        const tree = treeOf(MEASURES, 'x | a 1\n  y | a 2 | b 3\nz | a ={m:a} of {t:x}')
        let count = 0
        for (const roll of rolls)
          try {
            applyChanges(
              tree,
              changesOf(tree, roll, () => `n${count++}`),
            )
          } catch {
            continue
          }
        const { planning, figures } = make(tree)
        const before = new Map([...tree.topics.keys()].map(id => [id, says(figures, id)] as const))
        const changes = changesOf(tree, last, () => `n${count++}`)
        let patches
        try {
          patches = applyChanges(tree, changes)
        } catch {
          return
        }
        const hear = (touched: ReturnType<typeof touchedBy>): void => {
          planning.changed(touched)
          figures.changed(touched)
        }
        hear(touchedBy(patches))
        for (const id of tree.topics.keys()) says(figures, id)
        hear(touchedBy(applyChanges(tree, invertAll(changes, patches))))
        for (const [id, was] of before) if (isLive(tree, id)) expect(says(figures, id)).toEqual(was)
      }),
      { numRuns: 150 },
    )
  })
})
