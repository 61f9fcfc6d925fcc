import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { bus } from '../../server/bus'
import { startTelling, stopTelling } from '../../server/telling/rounds'

/* When people are told, without a database: how trees gather, how long telling rests, what is tried again. */

const told: { tree: string; at: number }[] = []
/** How long each tree takes, ms; a tree that can't be told for now fails as often as it says. */
let takes = 10
const fails = new Map<string, number>()
vi.mock('../../server/telling/derive', () => ({
  tellOf: async (tree: string) => {
    await new Promise(done => setTimeout(done, takes))
    told.push({ tree, at: Date.now() })
    const left = fails.get(tree) ?? 0
    fails.set(tree, left - 1)
    if (left > 0) throw new Error('the database is away')
    return new Set()
  },
}))
vi.mock('../../server/telling/letters', () => ({ writeLetters: () => Promise.resolve() }))
vi.mock('../../server/database/connect', () => ({ database: () => ({ execute: () => Promise.resolve([[]]) }) }))
vi.mock('../../server/log', () => ({ log: { error: () => {}, warn: () => {} } }))

let began = 0
const edited = (...trees: string[]): void => {
  for (const tree of trees) bus.tell({ about: 'edits', tree, edits: [] })
}
const trees = (): string[] => told.map(({ tree }) => tree)

beforeEach(async () => {
  vi.useFakeTimers()
  told.length = 0
  fails.clear()
  takes = 10
  startTelling()
  await vi.advanceTimersByTimeAsync(0)
  began = Date.now()
})
afterEach(async () => {
  await stopTelling()
  vi.useRealTimers()
})

it('what is done in quick succession is told once, a tree at a time', async () => {
  edited('plan', 'plan', 'budget', 'plan')
  await vi.advanceTimersByTimeAsync(650)
  expect(trees()).toEqual([])
  await vi.advanceTimersByTimeAsync(100)
  expect(trees()).toEqual(['plan', 'budget'])
  await vi.advanceTimersByTimeAsync(10_000)
  expect(trees()).toEqual(['plan', 'budget'])
})

it('what is done while a round is on its way is told in the next', async () => {
  takes = 100
  edited('plan', 'budget')
  await vi.advanceTimersByTimeAsync(750)
  edited('plan')
  await vi.advanceTimersByTimeAsync(2000)
  expect(trees()).toEqual(['plan', 'budget', 'plan'])
  // As soon as ever: a short round needs no rest.
  expect(told[2]!.at - told[1]!.at).toBe(700 + 100)
})

it('a round that took long is followed by a rest three times as long, of five seconds at most', async () => {
  takes = 400
  edited('a', 'b', 'c')
  await vi.advanceTimersByTimeAsync(750)
  edited('a')
  await vi.advanceTimersByTimeAsync(20_000)
  expect(trees()).toEqual(['a', 'b', 'c', 'a'])
  expect(told[2]!.at - began).toBe(700 + 1200)
  expect(told[3]!.at - told[2]!.at).toBe(3600 + 400)
  takes = 4000
  edited('a', 'b')
  await vi.advanceTimersByTimeAsync(1000)
  edited('b')
  await vi.advanceTimersByTimeAsync(30_000)
  expect(told.at(-1)!.at - told.at(-2)!.at).toBe(5000 + 4000)
})

it('a tree that can’t be told is tried again by itself, later each time, and holds up no other', async () => {
  fails.set('plan', 2)
  edited('plan', 'budget')
  await vi.advanceTimersByTimeAsync(1000)
  expect(trees()).toEqual(['plan', 'budget'])
  await vi.advanceTimersByTimeAsync(30_000)
  expect(trees()).toEqual(['plan', 'budget', 'plan', 'plan'])
  const [first, , second, third] = told as [(typeof told)[0], (typeof told)[0], (typeof told)[0], (typeof told)[0]]
  expect(second.at - first.at).toBe(1000 + 700 + 10)
  expect(third.at - second.at).toBe(2000 + 700 + 10)
})
