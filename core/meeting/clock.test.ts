import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChanges, BLANK, emptyTree, topicOf, type Tree } from '../tree'
import { itemsOf, runningOf, timed } from './agenda'
import { briefOf } from './brief'
import { cutToEnd, evenCut, forecastEnd, leftOf, plannedStarts, type Running, spentOn, type TimedItem } from './clock'
import { type Move, moveOn } from './running'

const MINUTE = 60_000
const items = (...list: [minutes: number, floor?: number][]): TimedItem[] =>
  list.map(([minutes, floor = 0], i) => ({ id: `i${i}`, minutes, floor }))
const cut = (list: TimedItem[], available: number): number[] => [...evenCut(list, available).minutes.values()]
const at = (time: string): number => Date.parse(`2027-03-10T${time}Z`)

describe('the even cut', () => {
  // Worked by hand: planned 20, 10, 15 (45 in all) in 30 minutes is a scale of 2/3: 13⅓, 6⅔, 10. Rounded down 13, 6, 10
  // = 29; the one
  // minute left goes to the largest remainder, the second item.
  it.each<[string, TimedItem[], number, number[]]>([
    ['as worked above', items([20], [10], [15]), 30, [13, 7, 10]],
    // 10, 10, 10 in 20: 6⅔ each, 6 each leaves 2, which go to the first two.
    ['equal remainders go to the earlier', items([10], [10], [10]), 20, [7, 7, 6]],
    // 30, 10, 5 in 24 with a floor of 8 on the second: scale 24/45 gives 16, 5⅓, 2⅔; the second is held at 8, the
    // others share 16 by 16/35: 13.71, 2.29.
    ['a floor is kept, and the others give more', items([30], [10, 8], [5]), 24, [14, 8, 2]],
    // Floors 10, 10 of 20, 20 and one of 20 without, in 30: scale ½ gives 10, 10, 10, and no floor is touched.
    ['floors that are just reached', items([20, 10], [20, 10], [20]), 30, [10, 10, 10]],
    ['what fits stays as planned', items([5], [7]), 15, [5, 7]],
    ['no time at all', items([5], [7]), 0, [0, 0]],
  ])('%s', (_, list, available, minutes) => expect(cut(list, available)).toEqual(minutes))
  // The apportionment bill of 1792, which shared 120 seats among 15 states by this very method, is told with its census
  // figures in M. L. Balinski and
  // H. P. Young, Fair Representation (2nd ed., Brookings 2001), chapter 2. Figures from memory; they add up to the
  // census total of 3,615,920 and to 120 seats.
  it('shares 120 as Hamilton shared the House of 1792', () => {
    const states: [people: number, seats: number][] = [
      [630_560, 21],
      [475_327, 16],
      [432_879, 14],
      [353_523, 12],
      [331_589, 11],
      [278_514, 9],
      [236_841, 8],
      [206_236, 7],
      [179_570, 6],
      [141_822, 5],
      [85_533, 3],
      [70_835, 2],
      [68_705, 2],
      [68_446, 2],
      [55_540, 2],
    ]
    expect(states.reduce((sum, [people]) => sum + people, 0)).toBe(3_615_920)
    expect(cut(items(...states.map(([people]): [number] => [people])), 120)).toEqual(states.map(([, seats]) => seats))
  })
  it('says how late it ends when the floors alone are more than there is', () => {
    const result = evenCut(items([20, 15], [10, 5]), 12)
    expect([[...result.minutes.values()], result.late]).toEqual([[15, 5], 8])
  })
  const list = fc
    .array(
      fc
        .integer({ min: 1, max: 60 })
        .chain(minutes => fc.tuple(fc.constant(minutes), fc.integer({ min: 0, max: minutes }))),
      { minLength: 1, maxLength: 12 },
    )
    .map(all => items(...all))
  it('always ends just on time where the floors allow, never goes below one or above the plan, and cuts equal items alike', () => {
    fc.assert(
      fc.property(list, fc.integer({ min: 0, max: 400 }), (all, available) => {
        const { minutes, late } = evenCut(all, available)
        const sum = [...minutes.values()].reduce((a, b) => a + b, 0)
        const planned = all.reduce((a, b) => a + b.minutes, 0)
        const least = all.reduce((a, b) => a + b.floor, 0)
        expect(sum).toBe(Math.min(planned, Math.max(available, least)))
        expect(late).toBe(Math.max(0, least - available))
        for (const item of all) {
          expect(minutes.get(item.id)!).toBeGreaterThanOrEqual(item.floor)
          expect(minutes.get(item.id)!).toBeLessThanOrEqual(item.minutes)
          for (const other of all)
            if (other.minutes === item.minutes && other.floor === item.floor)
              expect(Math.abs(minutes.get(item.id)! - minutes.get(other.id)!)).toBeLessThanOrEqual(1)
        }
      }),
    )
  })
})

describe('a running meeting', () => {
  const agenda = items([10], [20, 10], [15])
  const running = (part: Partial<Running> = {}): Running => ({
    current: 1,
    spent: new Map([
      ['i0', 12 * MINUTE],
      ['i1', 5 * MINUTE],
    ]),
    since: at('09:17:00'),
    ...part,
  })
  it('items are planned one after the other', () => {
    expect(plannedStarts(at('09:00:00'), agenda)).toEqual([at('09:00:00'), at('09:10:00'), at('09:30:00')])
  })
  it('counts what was spent before a pause, or before the server was started anew, and what runs since', () => {
    expect(spentOn(agenda, running(), 1, at('09:20:30'))).toBe(8.5 * MINUTE)
    expect(spentOn(agenda, running({ since: null }), 1, at('09:20:30'))).toBe(5 * MINUTE)
    expect(spentOn(agenda, running(), 0, at('09:20:30'))).toBe(12 * MINUTE)
    expect(leftOf(agenda, running(), at('09:20:30'))).toBe(11.5 * MINUTE)
  })
  it('forecasts the end, which moves on once an item is over its time', () => {
    expect(forecastEnd(agenda, running(), at('09:20:00'))).toBe(at('09:47:00'))
    expect(forecastEnd(agenda, running(), at('09:32:00'))).toBe(at('09:47:00'))
    expect(forecastEnd(agenda, running(), at('09:40:00'))).toBe(at('09:55:00'))
    expect(forecastEnd(agenda, running({ current: 3 }), at('09:40:00'))).toBe(at('09:40:00'))
  })
  it('cuts what comes after so that it still ends when it should', () => {
    expect([...cutToEnd(agenda, running(), at('09:40:00'), at('09:45:00')).minutes]).toEqual([['i2', 5]])
    expect(cutToEnd(agenda, running(), at('09:40:00'), at('10:30:00')).minutes.get('i2')).toBe(15)
  })
})

describe('what was really dealt with, in whatever order', () => {
  const plan = (): Tree => {
    const tree = emptyTree({
      ...BLANK,
      id: 'm',
      parent: null,
      order: 'a0',
      title: 'Meeting',
      meeting: [{ id: 'begins', kind: 'begins', day: '2027-03-10', time: '10:00', zone: 'UTC' }],
    })
    applyChanges(
      tree,
      ['a', 'b', 'c', 'd'].map((topic, i) => ({
        op: 'add' as const,
        topic,
        parent: 'm',
        order: `a${i}`,
        with: { title: topic, item: [{ id: 'minutes' as const, kind: 'minutes' as const, minutes: 10 }] },
      })),
    )
    return tree
  }
  const go = (tree: Tree, move: Move, time: string): void => {
    const moved = moveOn(tree, 'm', move, briefOf(topicOf(tree, 'm')).run?.step ?? null, at(time), 'ines', 1)
    expect(moved.kind).toBe('moved')
    applyChanges(tree, (moved as Extract<typeof moved, { kind: 'moved' }>).changes)
  }
  const forecast = (tree: Tree, time: string): string =>
    new Date(forecastEnd(itemsOf(tree, 'm').map(timed), runningOf(tree, 'm')!, at(time))).toISOString().slice(11, 16)
  const current = (tree: Tree): string | null => briefOf(topicOf(tree, 'm')).run!.current

  it('a jump to the last item leaves what was skipped to be done', () => {
    const tree = plan()
    go(tree, { to: 'begin' }, '10:00')
    go(tree, { to: 'item', item: 'd' }, '10:04')
    // Six minutes of a are left, b and c whole, d whole: 10:04 and 36 minutes.
    expect(forecast(tree, '10:04')).toBe('10:40')
    go(tree, { to: 'next' }, '10:14')
    expect([current(tree), forecast(tree, '10:14')]).toEqual(['a', '10:40'])
    go(tree, { to: 'next' }, '10:20')
    expect([current(tree), forecast(tree, '10:20')]).toEqual(['b', '10:40'])
  })
  it('back takes up again what had been closed, and an item over its time gives nothing back', () => {
    const tree = plan()
    go(tree, { to: 'begin' }, '10:00')
    go(tree, { to: 'next' }, '10:05')
    expect(forecast(tree, '10:05')).toBe('10:35')
    go(tree, { to: 'back' }, '10:07')
    // a is open again with five left, b has eight left.
    expect(forecast(tree, '10:07')).toBe('10:40')
    go(tree, { to: 'next' }, '10:20')
    expect([current(tree), forecast(tree, '10:20')]).toEqual(['b', '10:48'])
  })
  it('an item that is removed while current is no part of the forecast, and the way goes on to the first open one', () => {
    const tree = plan()
    go(tree, { to: 'begin' }, '10:00')
    go(tree, { to: 'next' }, '10:10')
    applyChanges(tree, [{ op: 'remove', topic: 'b' }])
    expect(forecast(tree, '10:12')).toBe('10:32')
    go(tree, { to: 'next' }, '10:12')
    expect(current(tree)).toBe('c')
  })
  it('the even cut shares what is left of what is open, and ends on time', () => {
    const tree = plan()
    go(tree, { to: 'begin' }, '10:00')
    go(tree, { to: 'item', item: 'c' }, '10:16')
    const list = itemsOf(tree, 'm').map(timed)
    const run = runningOf(tree, 'm')!
    const { minutes, late } = cutToEnd(list, run, at('10:16'), at('10:40'))
    // Left for a nothing, b 10, d 10, and c has its ten: 24 minutes less ten are 14 for b and d.
    expect([late, minutes.get('b')! + minutes.get('d')!]).toEqual([0, 14])
    applyChanges(
      tree,
      [...minutes].map(([topic, some]) => ({
        op: 'put' as const,
        topic,
        set: 'item' as const,
        member: { id: 'cut' as const, kind: 'cut' as const, minutes: some },
      })),
    )
    expect(forecast(tree, '10:16')).toBe('10:40')
  })
  it('after the last open item nothing is current, and only the end is left', () => {
    const tree = plan()
    go(tree, { to: 'begin' }, '10:00')
    for (const time of ['10:10', '10:20', '10:30', '10:40']) go(tree, { to: 'next' }, time)
    expect(current(tree)).toBeNull()
    expect(forecast(tree, '10:41')).toBe('10:41')
  })
})
