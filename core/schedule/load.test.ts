import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, type Change, emptyTree, type Initial, type Tree } from '../tree'
import { evenOut } from './even-out'
import { isTooMuch, loadOf } from './load'
import { mondayOf } from './weekdays'
import { type Plan, planOf } from './plan'

const MONDAY = '2027-01-11'
function grow(topics: Record<string, Initial & { after?: readonly string[] }>, fields: readonly Change[] = []): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  applyChanges(tree, [{ op: 'tree', field: 'planFrom', value: MONDAY }, ...fields])
  for (const [id, { after = [], ...given }] of Object.entries(topics)) {
    const waits = after.map(on => ({ id: on, on, kind: 'FS' as const, lag: 0, days: 'working' as const }))
    applyChanges(tree, addAt(tree, { parent: 'c', index: Infinity }, () => id, { title: id, waits, ...given }).changes)
  }
  return tree
}
const planned = (tree: Tree): Plan => planOf(tree, MONDAY) as Plan
const capacity = (id: string, hours: number | null, off: string[] = []): Change => ({
  op: 'tree-put',
  set: 'capacities',
  member: { id, hours, off },
})
const cells = (tree: Tree, person: string): string[] =>
  loadOf(tree, planned(tree))
    .rows.find(row => row.person === person)!
    .cells.map(({ hours, can }) => `${hours} of ${can}`)

describe('the load', () => {
  it('is the work of each week, shared alike by the people of a task', () => {
    const tree = grow({
      desk: { duration: 7, people: ['ines'] },
      books: { duration: 5, people: ['ines', 'rana'], effort: 20 },
      done: { duration: 5, people: ['rana'], done: 100 },
      half: { duration: 4, people: ['rana'], done: 50, began: '2027-01-08', effort: 10 },
    })
    expect(loadOf(tree, planned(tree)).weeks).toEqual(['2027-01-11', '2027-01-18'])
    expect(cells(tree, 'ines')).toEqual(['50 of 40', '16 of 40'])
    expect(cells(tree, 'rana')).toEqual(['15 of 40', '0 of 40'])
    const [first] = loadOf(tree, planned(tree)).rows[0]!.cells
    expect(first!.parts).toEqual([
      { topic: 'desk', hours: 40 },
      { topic: 'books', hours: 10 },
    ])
    expect([isTooMuch(first!), isTooMuch({ hours: 40.04, can: 40 })]).toEqual([true, false])
  })
  it('days off and hours of one’s own are what somebody can do, and don’t move the plan', () => {
    const tree = grow({ desk: { duration: 5, people: ['ines'] } }, [capacity('ines', 4, ['2027-01-13'])])
    expect([cells(tree, 'ines'), planned(tree).tasks.get('desk')!.finish]).toEqual([['40 of 16'], '2027-01-15'])
  })
  it('begins its weeks on Mondays', () => {
    expect(['2027-01-11', '2027-01-17', '2027-01-18', '1969-12-31'].map(mondayOf)).toEqual([
      '2027-01-11',
      '2027-01-11',
      '2027-01-18',
      '1969-12-29',
    ])
  })
})

describe('evening out', () => {
  it('lets what can wait make way, and says what that costs', () => {
    const tree = grow({
      long: { duration: 3, people: ['ines'] },
      then: { duration: 4, after: ['long'] },
      short: { duration: 2, people: ['ines'] },
    })
    const made = evenOut(tree, MONDAY)!
    expect(made.moved).toEqual([{ topic: 'short', from: '2027-01-11', to: '2027-01-14' }])
    expect([made.cost, made.left]).toEqual([0, []])
    applyChanges(tree, made.changes)
    expect(loadOf(tree, planned(tree)).rows[0]!.cells.some(isTooMuch)).toBe(false)
    expect(evenOut(tree, MONDAY)!.moved).toEqual([])
  })
  it('says what it can’t help: a task that alone asks for more, one that has begun', () => {
    const tree = grow({
      much: { duration: 1, effort: 12, people: ['ines'] },
      going: { duration: 2, people: ['rana'], began: '2027-01-11' },
      also: { duration: 2, people: ['rana'], began: '2027-01-11' },
    })
    expect(evenOut(tree, MONDAY)!.left.map(({ person, day }) => `${person} ${day}`)).toEqual([
      'rana 2027-01-11',
      'rana 2027-01-12',
      'ines 2027-01-11',
    ])
  })

  const few = fc.array(
    fc.record({
      duration: fc.integer({ min: 1, max: 4 }),
      people: fc.subarray(['ines', 'rana'], { minLength: 1 }),
      after: fc.option(fc.nat(3), { nil: null }),
    }),
    { minLength: 2, maxLength: 5 },
  )
  const treeOf = (tasks: readonly { duration: number; people: string[]; after: number | null }[]): Tree =>
    grow(
      Object.fromEntries(
        tasks.map(({ duration, people, after }, i) => [
          `t${i}`,
          // Full time for everybody who is on it.
          {
            duration,
            people,
            effort: duration * 8 * people.length,
            after: after !== null && after < i ? [`t${after}`] : [],
          },
        ]),
      ),
    )
  /** The shortest that there is, by trying every start of every task day by day. */
  function shortest(tasks: readonly { duration: number; people: string[]; after: number | null }[]): number {
    let best = tasks.reduce((sum, { duration }) => sum + duration, 0)
    const starts: number[] = []
    const free = (i: number, start: number): boolean =>
      tasks.slice(0, i).every((other, j) => {
        const apart = starts[j]! + other.duration <= start || start + tasks[i]!.duration <= starts[j]!
        return apart || !other.people.some(person => tasks[i]!.people.includes(person))
      })
    const walk = (i: number): void => {
      if (i === tasks.length) {
        best = Math.min(best, Math.max(...starts.map((start, j) => start + tasks[j]!.duration)))
        return
      }
      const { after, duration } = tasks[i]!
      const least = after !== null && after < i ? starts[after]! + tasks[after]!.duration : 0
      for (let start = least; start + duration <= best; start++) {
        if (!free(i, start)) continue
        starts[i] = start
        walk(i + 1)
        starts.length = i
      }
    }
    walk(0)
    return best
  }
  const orders = (ids: readonly string[]): string[][] =>
    ids.length < 2 ? [[...ids]] : ids.flatMap((id, i) => orders(ids.toSpliced(i, 1)).map(rest => [id, ...rest]))

  it('is feasible, never shorter than exhaustive search, and some order of priorities reaches that', () => {
    fc.assert(
      fc.property(few, tasks => {
        const tree = treeOf(tasks)
        const days = (last: string): number => planned(tree).calendar.workingDaysBetween(MONDAY, last) + 1
        const made = evenOut(tree, MONDAY)!
        const best = shortest(tasks)
        expect(days(made.after)).toBeGreaterThanOrEqual(best)
        expect(made.left).toEqual([])
        const all = orders([...planned(tree).tasks.keys()]).map(order =>
          days(evenOut(tree, MONDAY, null, order)!.after),
        )
        expect(Math.min(...all)).toBe(best)
        applyChanges(tree, made.changes)
        // A day holds no more than a day: nobody is on two of these at once.
        const load = loadOf(tree, planned(tree))
        for (const { cells } of load.rows) for (const cell of cells) expect(isTooMuch(cell)).toBe(false)
        expect(evenOut(tree, MONDAY)!.changes).toEqual([])
      }),
      { numRuns: 60 },
    )
  })
})
