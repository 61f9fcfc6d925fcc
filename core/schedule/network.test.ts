import { WAIT_KINDS } from '../tree/plan'
import fc from 'fast-check'
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import type { Activity, Dependency, LinkKind } from './activity'
import { criticalOf, scheduleOf } from './network'
import { Loop, onCircles } from './waiting-order'

const task = (id: string, length: number, more: Partial<Activity> = {}): Activity => ({
  id,
  length,
  notBefore: null,
  notAfter: null,
  fixed: null,
  ...more,
})
const after = (to: string, ...froms: string[]): Dependency[] => froms.map(from => ({ from, to, kind: 'FS', lag: 0 }))

describe('a worked example', () => {
  // Hillier and Lieberman, "Introduction to Operations Research" (8th ed., chapter 22), the project of Reliable Construction: its
  // activities, times, earliest and latest times and slack. From memory.
  const activities = Object.entries({
    A: 2,
    B: 4,
    C: 10,
    D: 6,
    E: 4,
    F: 5,
    G: 7,
    H: 9,
    I: 7,
    J: 8,
    K: 4,
    L: 5,
    M: 2,
    N: 6,
  }).map(([id, length]) => task(id, length))
  const dependencies = [
    ...after('B', 'A'),
    ...after('C', 'B'),
    ...after('D', 'C'),
    ...after('E', 'C'),
    ...after('F', 'E'),
    ...after('G', 'D'),
    ...after('H', 'E', 'G'),
    ...after('I', 'C'),
    ...after('J', 'F', 'I'),
    ...after('K', 'J'),
    ...after('L', 'J'),
    ...after('M', 'H'),
    ...after('N', 'K', 'L'),
  ]
  const schedule = scheduleOf(activities, dependencies)
  it('takes 44 weeks along its one critical path', () => {
    expect(schedule.finish).toBe(44)
    expect(criticalOf(schedule)).toEqual(['A', 'B', 'C', 'E', 'F', 'J', 'L', 'N'])
  })
  it('has the earliest times and the slack of the book', () => {
    const starts = { A: 0, B: 2, C: 6, D: 16, E: 16, F: 20, G: 22, H: 29, I: 16, J: 25, K: 33, L: 33, M: 38, N: 38 }
    const slack = { A: 0, B: 0, C: 0, D: 4, E: 0, F: 0, G: 4, H: 4, I: 2, J: 0, K: 1, L: 0, M: 4, N: 0 }
    for (const [id, start] of Object.entries(starts))
      expect([id, schedule.times.get(id)!.earlyStart]).toEqual([id, start])
    for (const [id, float] of Object.entries(slack))
      expect([id, schedule.times.get(id)!.totalFloat]).toEqual([id, float])
    expect(schedule.times.get('L')!.reason).toEqual({
      kind: 'waits',
      dependency: { from: 'J', to: 'L', kind: 'FS', lag: 0 },
    })
    // Roof, siding and painting share four weeks; only the last of them may take these without pushing another.
    expect(['D', 'G', 'H', 'M'].map(id => schedule.times.get(id)!.freeFloat)).toEqual([0, 0, 0, 4])
  })
})

describe('another worked example', () => {
  // Heizer and Render, "Operations Management" (10th ed., chapter 3), Milwaukee Paper Manufacturing: times in weeks. From memory.
  const schedule = scheduleOf(
    Object.entries({ A: 2, B: 3, C: 2, D: 4, E: 4, F: 3, G: 5, H: 2 }).map(([id, length]) => task(id, length)),
    [
      ...after('C', 'A'),
      ...after('D', 'A', 'B'),
      ...after('E', 'C'),
      ...after('F', 'C'),
      ...after('G', 'D', 'E'),
      ...after('H', 'F', 'G'),
    ],
  )
  it('takes 15 weeks; B and D may slip a week, F six', () => {
    expect([schedule.finish, criticalOf(schedule)]).toEqual([15, ['A', 'C', 'E', 'G', 'H']])
    const rows = [...schedule.times].map(([id, { earlyStart, earlyFinish, lateStart, lateFinish, totalFloat }]) =>
      [id, earlyStart, earlyFinish, lateStart, lateFinish, totalFloat].join(' '),
    )
    expect(rows).toEqual([
      'A 0 2 0 2 0',
      'B 0 3 1 4 1',
      'C 2 4 2 4 0',
      'D 3 7 4 8 1',
      'E 4 8 4 8 0',
      'F 4 7 10 13 6',
      'G 8 13 8 13 0',
      'H 13 15 13 15 0',
    ])
  })
})

it('agrees with networkx and GLPK on 1,000 random networks with all four kinds and lags', () => {
  type One = [
    lengths: number[],
    least: number[],
    links: [from: number, to: number, kind: LinkKind, lag: number][],
    early: number[],
    late: number[],
    end?: number,
  ]
  const { networks } = JSON.parse(readFileSync(new URL('fixtures/networks.json', import.meta.url), 'utf8')) as {
    networks: One[]
  }
  let solved = 0
  for (const [lengths, least, links, early, late, end] of networks) {
    const { times, finish } = scheduleOf(
      lengths.map((length, i) => task(String(i), length, { notBefore: least[i]! })),
      links.map(([from, to, kind, lag]) => ({ from: String(from), to: String(to), kind, lag })),
    )
    expect(lengths.map((_, i) => times.get(String(i))!.earlyStart)).toEqual(early)
    expect(lengths.map((_, i) => times.get(String(i))!.lateStart)).toEqual(late)
    if (end !== undefined) {
      expect(finish).toBe(end)
      solved++
    }
  }
  expect([networks.length, solved]).toEqual([1000, 100])
})

/** Random networks without circles: whatever waits comes later in the list. */
const network = fc
  .array(
    fc.record({ length: fc.integer({ min: 0, max: 40 }), notBefore: fc.option(fc.integer({ min: 0, max: 60 })) }),
    { minLength: 1, maxLength: 14 },
  )
  .chain(list =>
    fc.record({
      activities: fc.constant(list.map(({ length, notBefore }, i) => task(`t${i}`, length, { notBefore }))),
      dependencies:
        list.length < 2
          ? fc.constant<Dependency[]>([])
          : fc.array(
              fc
                .record({
                  to: fc.integer({ min: 1, max: list.length - 1 }),
                  back: fc.nat(),
                  kind: fc.constantFrom(...WAIT_KINDS),
                  lag: fc.integer({ min: -20, max: 20 }),
                })
                .map(({ to, back, kind, lag }): Dependency => ({ from: `t${back % to}`, to: `t${to}`, kind, lag })),
              { maxLength: 24 },
            ),
    }),
  )

describe('laws of a network', () => {
  const gap = ({ kind, lag }: Dependency, a: number, b: number): number =>
    kind === 'FS' ? a + lag : kind === 'SS' ? lag : kind === 'FF' ? a + lag - b : lag - b

  it('earliest starts are the longest ways there, found by relaxing until nothing changes (Bellman and Ford)', () => {
    fc.assert(
      fc.property(network, ({ activities, dependencies }) => {
        const { times, finish } = scheduleOf(activities, dependencies)
        const length = new Map(activities.map(one => [one.id, one.length]))
        const start = new Map(activities.map(one => [one.id, Math.max(0, one.notBefore ?? 0)]))
        for (let round = 0; round <= activities.length; round++)
          for (const link of dependencies)
            start.set(
              link.to,
              Math.max(
                start.get(link.to)!,
                start.get(link.from)! + gap(link, length.get(link.from)!, length.get(link.to)!),
              ),
            )
        for (const { id } of activities) expect(times.get(id)!.earlyStart).toBe(start.get(id))
        expect(finish).toBe(Math.max(...activities.map(one => start.get(one.id)! + one.length)))
      }),
      { numRuns: 500 },
    )
  })

  it('nothing begins before what it waits for, early or late; float is what it says: slipping by it ends the plan no later, by more does', () => {
    fc.assert(
      fc.property(network, fc.nat(13), ({ activities, dependencies }, which) => {
        const { times, finish } = scheduleOf(activities, dependencies)
        for (const link of dependencies) {
          const [a, b] = [times.get(link.from)!, times.get(link.to)!]
          const least = gap(link, a.earlyFinish - a.earlyStart, b.earlyFinish - b.earlyStart)
          expect(b.earlyStart - a.earlyStart).toBeGreaterThanOrEqual(least)
          expect(b.lateStart - a.lateStart).toBeGreaterThanOrEqual(least)
        }
        const { id } = activities[which % activities.length]!
        const slipped = (by: number): number =>
          scheduleOf(
            activities.map(one => (one.id === id ? { ...one, notBefore: times.get(id)!.earlyStart + by } : one)),
            dependencies,
          ).finish
        const { totalFloat, freeFloat } = times.get(id)!
        expect(slipped(totalFloat)).toBe(finish)
        expect(slipped(totalFloat + 1)).toBe(finish + 1)
        expect(freeFloat).toBeGreaterThanOrEqual(0)
        expect(freeFloat).toBeLessThanOrEqual(totalFloat)
      }),
      { numRuns: 400 },
    )
  })

  it('with finish-start alone, a longer task never ends the plan sooner', () => {
    fc.assert(
      fc.property(network, fc.nat(13), fc.integer({ min: 1, max: 30 }), ({ activities, dependencies }, which, more) => {
        const plain = dependencies.map(one => ({ ...one, kind: 'FS' as const, lag: Math.max(0, one.lag) }))
        const { id } = activities[which % activities.length]!
        const longer = activities.map(one => (one.id === id ? { ...one, length: one.length + more } : one))
        expect(scheduleOf(longer, plain).finish).toBeGreaterThanOrEqual(scheduleOf(activities, plain).finish)
      }),
      { numRuns: 300 },
    )
  })
})

describe('limits and circles', () => {
  it('names the members of a circle in the order in which they wait', () => {
    const made = ['a', 'b', 'c', 'd'].map(id => task(id, 1))
    const loop = (): unknown =>
      scheduleOf(made, [...after('b', 'a'), ...after('c', 'b'), ...after('a', 'c'), ...after('d', 'c')])
    expect(loop).toThrow(Loop)
    try {
      loop()
    } catch (error) {
      const { members } = error as Loop
      expect([...members].sort()).toEqual(['a', 'b', 'c'])
      const next = { a: 'b', b: 'c', c: 'a' } as Record<string, string>
      members.forEach((id, i) => expect(members[(i + 1) % members.length]).toBe(next[id]))
    }
  })
  it('tells the dependencies that lie on circles, and no other: without them there is none, with any of them there is', () => {
    const ids = ['a', 'b', 'c', 'd', 'e', 'f']
    const links = fc.array(
      fc
        .record({ from: fc.constantFrom(...ids), to: fc.constantFrom(...ids) })
        .map((one): Dependency => ({ ...one, kind: 'FS', lag: 0 })),
      { maxLength: 12 },
    )
    const reaches = (all: readonly Dependency[], from: string, to: string, seen = new Set<string>()): boolean =>
      from === to ||
      all.some(link => link.from === from && !seen.has(link.to) && reaches(all, link.to, to, seen.add(link.to)))
    fc.assert(
      fc.property(links, all => {
        expect(onCircles(ids, all)).toEqual(all.filter(({ from, to }) => reaches(all, to, from)))
      }),
      { numRuns: 500 },
    )
  })
  it('a lag in calendar days is counted by the calendar, both ways', () => {
    // Five minutes a day, two days off after five: days 5 and 6 of seven aren't worked on.
    const later = (minute: number, days: number): number => minute + days * 3
    const earlier = (minute: number, days: number): number => minute - days * 3
    const { times } = scheduleOf(
      [task('a', 10), task('b', 5)],
      [{ from: 'a', to: 'b', kind: 'FS', lag: 4, calendar: true }],
      { later, earlier },
    )
    expect([times.get('b')!.earlyStart, times.get('a')!.lateStart, times.get('a')!.totalFloat]).toEqual([22, 0, 0])
  })
  it('what has begun in fact contradicts nobody, and holds nobody back', () => {
    const { times, broken } = scheduleOf([task('a', 10), task('b', 25, { fixed: 4, happened: true })], after('b', 'a'))
    expect([broken, times.get('a')!.totalFloat, times.get('b')!.earlyStart]).toEqual([[], 19, 4])
    // What is left of it may slip as anything may.
    const then = scheduleOf([task('a', 30), task('b', 5, { fixed: 0, happened: true })], [])
    expect(then.times.get('b')!.totalFloat).toBe(25)
  })
  it('a task that waits for itself is a circle of one', () => {
    expect(() => scheduleOf([task('a', 1)], after('a', 'a'))).toThrow(Loop)
  })
  it('a fixed date stays, and says which dependency it contradicts', () => {
    const { times, broken } = scheduleOf([task('a', 10), task('b', 5, { fixed: 4 })], after('b', 'a'))
    expect(times.get('b')!.earlyStart).toBe(4)
    expect(times.get('b')!.reason).toEqual({ kind: 'fixed' })
    expect(broken).toEqual(after('b', 'a'))
    expect(times.get('a')!.totalFloat).toBe(-6)
  })
  it('a limit that is missed makes float negative on the whole way there', () => {
    const { times } = scheduleOf([task('a', 10), task('b', 5, { notAfter: 12 })], after('b', 'a'))
    expect([times.get('a')!.totalFloat, times.get('b')!.totalFloat]).toEqual([-3, -3])
    expect(criticalOf(scheduleOf([task('a', 10), task('b', 5, { notAfter: 12 })], after('b', 'a')))).toEqual(['a', 'b'])
  })
  it('what depends on something that isn’t there waits for nothing', () => {
    expect(scheduleOf([task('a', 3)], after('a', 'gone')).finish).toBe(3)
  })
})
