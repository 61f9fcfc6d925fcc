import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addAt,
  applyChanges,
  BLANK,
  type Change,
  emptyTree,
  invertAll,
  isLive,
  moveTo,
  removeAll,
  schemeNumbers,
  touchedBy,
  type Tree,
  unapply,
} from '../tree'
import { CrossLinks } from './cross-links'
import { Derivation, type Derived, isStale, NONE_STALE, union } from './derived'
import { Guises } from './guises'
import { Numbers } from './numbers'
import { PlanPrints } from './plan-prints'
import { Planning } from './planning'
import { RollUps } from './roll-ups'

type Dice = readonly [number, number, number]
const dice: fc.Arbitrary<Dice> = fc.tuple(fc.nat(99), fc.nat(99), fc.nat(15))

/** An edit by dice that concerns what is worked out, or doesn't. */
function changesOf(tree: Tree, [x, y, kind]: Dice, newId: () => string): readonly Change[] {
  const ids = [...tree.topics.keys()]
  const live = ids.filter(id => isLive(tree, id))
  const [one, other] = [live[x % live.length]!, live[y % live.length]!]
  switch (kind) {
    case 0:
    case 1:
      return addAt(tree, { parent: y % 9 === 0 ? null : one, index: y % 3 }, newId, { title: `t${y}` }).changes
    case 2:
      return moveTo(tree, [one], { parent: y % 9 === 0 ? null : other, index: x % 2 }).changes
    case 3:
      return removeAll(tree, [one]).changes
    case 4:
      return [{ op: 'restore', topic: ids[x % ids.length]! }]
    case 5: {
      const scheme = (['figures', 'letters', 'roman'] as const)[y % 3]!
      return [
        { op: 'set', topic: one, field: 'numbering', value: y % 4 === 0 ? null : { scheme, levels: 1 + (x % 4) } },
      ]
    }
    case 6:
      return [{ op: 'set', topic: one, field: 'reference', value: y % 4 === 0 ? null : { tree: null, topic: other } }]
    case 7:
      return [{ op: 'set', topic: one, field: 'title', value: `t${x}${y}` }]
    case 8:
      return [{ op: 'set', topic: one, field: 'done', value: y % 5 === 0 ? null : (x * 7) % 101 }]
    case 9:
      return [{ op: 'set', topic: one, field: 'duration', value: y % 3 === 0 ? null : (x % 9) / 2 }]
    case 10:
      return [
        { op: 'set', topic: one, field: x % 2 ? 'due' : 'start', value: y % 3 ? `2027-0${1 + (y % 9)}-10` : null },
      ]
    case 11:
      return y % 3 === 0
        ? [{ op: 'take', topic: one, set: 'ties', member: `l${x % 3}` }]
        : [
            {
              op: 'put',
              topic: one,
              set: 'ties',
              member: { id: `l${x % 3}`, to: other, label: `${y}`, ends: 'to', bend: null, hue: null },
            },
          ]
    case 12:
    case 13:
      return [
        y % 4 === 0
          ? { op: 'take', topic: one, set: 'waits', member: `w${x % 3}` }
          : {
              op: 'put',
              topic: one,
              set: 'waits',
              member: {
                id: `w${x % 3}`,
                on: other,
                kind: (['FS', 'SS', 'FF', 'SF'] as const)[x % 4]!,
                lag: (y % 7) - 2,
                days: y % 5 === 0 ? 'calendar' : 'working',
              },
            },
      ]
    case 14:
      return [
        x % 3 === 0
          ? { op: 'tree', field: 'planFrom', value: y % 3 === 0 ? null : '2027-01-11' }
          : { op: 'set', topic: one, field: (['began', 'ended'] as const)[x % 2]!, value: y % 3 ? '2027-02-10' : null },
      ]
    default:
      return [{ op: 'tree', field: 'description', value: `${y}` }]
  }
}

/** Each kind: how it's made, and what it says of a topic. */
const KINDS: Record<string, (tree: () => Tree) => { derived: Derived; says: (id: string) => unknown; from?: Derived }> =
  {
    numbers: tree => {
      const numbers = new Numbers(tree)
      return { derived: numbers, says: id => numbers.of(id) }
    },
    guises: tree => {
      const numbers = new Numbers(tree)
      const guises = new Guises(tree, numbers)
      return {
        derived: guises,
        from: numbers,
        says: id => {
          const { topic, number, reference, original } = guises.of(tree().topics.get(id)!)
          return [topic.title, topic.done, topic.due, number, reference, original]
        },
      }
    },
    'roll-ups': tree => {
      const rollUps = new RollUps(tree)
      return { derived: rollUps, says: id => rollUps.of(id) }
    },
    'cross-links': tree => {
      const links = new CrossLinks(tree)
      const said = ({ from, tie }: { from: string; tie: { id: string } }): string =>
        `${from} ${tie.id} ${JSON.stringify(tie)}`
      return { derived: links, says: id => [links.at(id).map(said).sort(), id === 'c' && links.all().map(said).sort()] }
    },
    plan: tree => {
      const planning = new Planning(tree, () => '2027-02-01')
      return {
        derived: planning,
        says: id => {
          const plan = planning.get()
          if (typeof plan === 'string') return plan
          return [planning.of(id), plan.broken.filter(({ by }) => by === id)]
        },
      }
    },
    'the plan on planks': tree => {
      const planning = new Planning(tree, () => '2027-02-01')
      const prints = new PlanPrints(planning)
      return { from: planning, derived: prints, says: id => prints.of(id) }
    },
  }

describe('what is worked out', () => {
  for (const [name, make] of Object.entries(KINDS))
    it(`${name}: after any edits and undos it says what a fresh one says, and has told of all that differs`, () => {
      fc.assert(
        fc.property(fc.array(dice, { minLength: 5, maxLength: 45 }), rolls => {
          const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
          for (const id of ['a', 'b'])
            applyChanges(tree, addAt(tree, { parent: 'c', index: 9 }, () => id, { title: id }).changes)
          applyChanges(tree, [{ op: 'tree', field: 'planFrom', value: '2027-01-11' }])
          let made = 0
          const kept = make(() => tree)
          const derivation = new Derivation()
          if (kept.from) derivation.add(kept.from)
          derivation.add(kept.derived, ...(kept.from ? [kept.from] : []))
          const shown = (): string[] => [...tree.topics.keys()].filter(id => isLive(tree, id))
          const look = (one: ReturnType<typeof make>): Map<string, string> =>
            new Map(shown().map(id => [id, JSON.stringify(one.says(id))]))
          for (const roll of rolls) {
            const before = look(kept)
            const changes = changesOf(tree, roll, () => `n${made++}`)
            let patches: ReturnType<typeof applyChanges>
            try {
              patches = applyChanges(tree, changes)
            } catch {
              continue
            }
            let touched = touchedBy(patches)
            // Some are taken back at once: as when news goes in under what waits, or by undo.
            if (roll[0] % 5 === 0) unapply(tree, patches)
            else if (roll[0] % 5 === 1)
              touched = new Set([...touched, ...touchedBy(applyChanges(tree, invertAll(changes, patches)))])
            const told = derivation.changed(touched).get(kept.derived)!
            const after = look(kept)
            expect(after).toEqual(look(make(() => tree)))
            for (const [id, value] of after)
              if (before.has(id) && before.get(id) !== value && !(name === 'cross-links' && id === 'c'))
                expect(isStale(told, id), `${id}: ${before.get(id)} became ${value}`).toBe(true)
          }
          if (name === 'numbers') {
            const all = schemeNumbers(tree)
            for (const id of shown()) expect((kept.says as (id: string) => string)(id)).toBe(all.get(id) ?? '')
          }
        }),
        { numRuns: 250 },
      )
    })

  it('works nothing out before somebody asks, and everything anew when nothing of before may be relied on', () => {
    const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
    const broken = (): Tree => {
      throw new Error('nobody asked')
    }
    for (const derived of [new Numbers(broken), new RollUps(broken), new CrossLinks(broken)])
      expect(derived.changed(new Set(['c']))).toEqual(NONE_STALE)
    const rollUps = new RollUps(() => tree)
    rollUps.of('c')
    expect(rollUps.changed('all')).toBe('all')
    expect(union(new Set(['a']), NONE_STALE, new Set(['b']))).toEqual(new Set(['a', 'b']))
    expect(union(new Set(['a']), 'all')).toBe('all')
  })

  it('hears of changes after what it stands on, and with what came of that', () => {
    const heard: [string, unknown][] = []
    const say = (name: string, out: string): Derived => ({
      changed: touched => {
        heard.push([name, touched === 'all' ? 'all' : [...touched]])
        return new Set([out])
      },
    })
    const derivation = new Derivation()
    const [first, second, apart] = [say('first', 'x'), say('second', 'y'), say('apart', 'z')]
    expect(() => derivation.add(second, first)).toThrow(RangeError)
    derivation.add(first)
    derivation.add(second, first)
    derivation.add(apart)
    expect([...derivation.changed(new Set(['a'])).values()]).toEqual([new Set(['x']), new Set(['y']), new Set(['z'])])
    expect(heard).toEqual([
      ['first', ['a']],
      ['second', ['a', 'x']],
      ['apart', ['a']],
    ])
  })
})

describe('roll-ups', () => {
  const grow = (...topics: [string, string, object?][]): Tree => {
    const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
    for (const [id, parent, given] of topics)
      applyChanges(tree, addAt(tree, { parent, index: 99 }, () => id, { title: id, ...given }).changes)
    return tree
  }
  it('are weighted by length when every task has one, else not; the earliest, the latest, and how many are done', () => {
    const tree = grow(
      ['fit', 'c'],
      ['lift', 'fit', { done: 100, duration: 1, start: '2027-03-01', due: '2027-03-02' }],
      ['paint', 'fit', { done: 0, duration: 3, due: '2027-02-20' }],
    )
    expect(new RollUps(() => tree).of('c')).toEqual({
      tasks: 2,
      done: 1,
      underWay: 0,
      start: '2027-02-20',
      finish: '2027-03-02',
      percent: 25,
    })
    applyChanges(tree, [{ op: 'set', topic: 'paint', field: 'duration', value: null }])
    expect(new RollUps(() => tree).of('fit')!.percent).toBe(50)
  })
  it('count the ends: a task with tasks below stands for those, and one without stands for itself', () => {
    const tree = grow(['books', 'c', { done: 80 }], ['sort', 'books', { done: 10 }], ['talk', 'books'])
    const rollUps = new RollUps(() => tree)
    expect(rollUps.of('c')).toMatchObject({ tasks: 1, percent: 10, underWay: 1 })
    expect(rollUps.of('sort')).toBeNull()
    rollUps.changed(touchedBy(applyChanges(tree, removeAll(tree, ['sort']).changes)))
    expect(rollUps.of('c')).toMatchObject({ tasks: 1, percent: 80 })
  })
  it('hold a tree of any depth', () => {
    const tree = grow()
    let parent = 'c'
    for (let i = 0; i < 190; i++) {
      applyChanges(tree, [{ op: 'add', topic: `d${i}`, parent, order: 'a0', with: { done: i === 189 ? 40 : null } }])
      parent = `d${i}`
    }
    expect(new RollUps(() => tree).of('c')).toMatchObject({ tasks: 1, percent: 40 })
  })
})
