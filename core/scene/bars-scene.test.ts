import { describe, expect, it } from 'vitest'
import { buildDemo } from '../../demo/build'
import { DEMO_PEOPLE } from '../../demo/people'
import { MOVE } from '../../demo/trees'
import { type Plan, planOf } from '../schedule/plan'
import { addDays } from '../schedule/days'
import { allTopics, applyChanges, type Change, topicOf, type Tree } from '../tree'
import { seed } from '../../tests/rolled'
import { barsSceneOf, type BarsAsked } from './bars-scene'
import { CannotMake } from './cannot-make'
import type { Shape } from './shapes'

const TODAY = '2027-01-11'
const planned = (tree: Tree, today = TODAY): Plan => {
  const plan = planOf(tree, today)
  if (typeof plan === 'string') throw new Error(plan)
  return plan
}
const asked = (tree: Tree, more: Partial<BarsAsked> = {}): BarsAsked => ({
  plan: planned(tree),
  against: null,
  dusk: false,
  today: TODAY,
  locale: 'en-GB',
  nameOf: () => 'Ines Brandt',
  numbers: new Map(),
  folds: false,
  // Each letter as wide as half its size.
  ruler: (text, { size }) => (text.length * size) / 2,
  ...more,
})
const grown = (...list: [string, object][]): Tree => {
  const tree = seed()
  applyChanges(tree, [
    { op: 'tree', field: 'planFrom', value: TODAY },
    ...list.map(([topic, content], i): Change => ({
      op: 'add',
      topic,
      parent: 'a',
      order: `b${i}`,
      with: { title: topic, ...content },
    })),
  ])
  return tree
}
const texts = (shapes: readonly Shape[]) => shapes.filter(shape => shape.kind === 'text')
const words = (shapes: readonly Shape[]): string[] => texts(shapes).map(({ text }) => text)
/** The smallest box around an absolute path of M, L, H, V, h, v and Z. */
function boxOf(d: string): { x1: number; y1: number; x2: number; y2: number } {
  let [x, y] = [0, 0]
  const box = { x1: Infinity, y1: Infinity, x2: -Infinity, y2: -Infinity }
  for (const [, command, rest] of d.matchAll(/([MLHVhvlmZz])([^MLHVhvlmZz]*)/g)) {
    const [a = 0, b = 0] = rest!
      .trim()
      .split(/[\s,]+/)
      .map(Number)
    if (command === 'M' || command === 'L') [x, y] = [a, b]
    else if (command === 'l' || command === 'm') [x, y] = [x + a, y + b]
    else if (command === 'H') x = a
    else if (command === 'V') y = a
    else if (command === 'h') x += a
    else if (command === 'v') y += a
    Object.assign(box, {
      ...{ x1: Math.min(box.x1, x), y1: Math.min(box.y1, y), x2: Math.max(box.x2, x), y2: Math.max(box.y2, y) },
    })
  }
  return box
}

describe('the schedule as a picture', () => {
  it('has a row a topic in reading order, its days as wide as they are long, and what waits bound to what it waits for', () => {
    const tree = grown(['permit', { duration: 4, done: 50 }], ['lift', { duration: 2, people: ['ines'] }])
    const one = barsSceneOf(tree, asked(tree))
    applyChanges(tree, [
      {
        op: 'put',
        topic: 'lift',
        set: 'waits',
        member: { id: 'w', on: 'permit', kind: 'FS', lag: 0, days: 'working' },
      },
    ])
    const { shapes, bounds, title } = barsSceneOf(tree, asked(tree))
    expect(title).toBe(topicOf(tree, tree.centre).title)
    // Rows from the top down.
    const titles = [...allTopics(tree)].map(topic => topic.title || 'untitled')
    const rows = texts(shapes).filter(({ x, text }) => x < 150 && titles.includes(text))
    expect(rows.map(({ text }) => text)).toEqual(titles)
    expect(rows.map(({ y }) => y).every((y, i, all) => i === 0 || y > all[i - 1]!)).toBe(true)
    // One more line: the bracket.
    expect(shapes.length).toBeGreaterThan(one.shapes.length)
    expect(words(shapes)).toContain('IB')
    expect(words(shapes).filter(text => text === 'must not slip')).toHaveLength(2)
    expect(words(shapes)).toContain('today')
    for (const shape of shapes)
      if (shape.kind === 'path') {
        const box = boxOf(shape.d)
        expect(box.x1).toBeGreaterThanOrEqual(bounds.x)
        expect(box.y1).toBeGreaterThanOrEqual(bounds.y)
        expect(box.x2).toBeLessThanOrEqual(bounds.x + bounds.width)
        expect(box.y2).toBeLessThanOrEqual(bounds.y + bounds.height)
      }
  })

  it('says in words and lines what isn’t in its colours: late, slipped, assumed, done', () => {
    const tree = grown(
      ['late', { duration: 5, due: '2027-01-12' }],
      ['assumed', { people: ['ines'] }],
      ['over', { duration: 1, done: 100, began: TODAY, ended: TODAY }],
    )
    const plan = planned(tree)
    const agreed = { start: '2026-11-02', finish: addDays(plan.tasks.get('late')!.finish, -1) }
    const { shapes } = barsSceneOf(tree, asked(tree, { against: { tasks: { late: agreed } as never } }))
    expect(words(shapes)).toEqual(expect.arrayContaining(['3 d late', '+1 d']))
    expect(shapes.some(shape => shape.kind === 'path' && shape.dash?.join() === '3,2' && shape.fill)).toBe(true)
    // What was agreed for months ago lies on its days, not on the titles.
    const shadow = shapes.find(shape => shape.kind === 'path' && shape.width === 5)
    expect(shadow?.kind === 'path' && boxOf(shadow.d).x1).toBeGreaterThan(180)
    expect(words(shapes)).toContain('November 2026')
  })

  it('fits long titles into their column by whole letters, and a longer plan on narrower days', () => {
    const tree = grown(['long', { title: '👩🏽‍🔧'.repeat(200), duration: 2 }])
    const { shapes, bounds } = barsSceneOf(tree, asked(tree))
    const cut = words(shapes).find(text => text.startsWith('👩🏽‍🔧'))!
    expect(cut).toMatch(/^(?:👩🏽‍🔧)+…$/u)
    applyChanges(tree, [{ op: 'set', topic: 'long', field: 'duration', value: 2000 }])
    const years = barsSceneOf(tree, asked(tree)).bounds
    expect(years.width).toBeLessThan(4200)
    expect(years.height).toBe(bounds.height)
  })

  it('of a plan of a larger tree draws what stands in this one; where nothing does, it says so', () => {
    const whole = grown(['permit', { duration: 4 }], ['lift', { duration: 2 }])
    applyChanges(whole, [
      {
        op: 'put',
        topic: 'lift',
        set: 'waits',
        member: { id: 'w', on: 'permit', kind: 'FS', lag: 0, days: 'working' },
      },
    ])
    const part = grown(['lift', { duration: 2 }])
    const { shapes } = barsSceneOf(part, asked(part, { plan: planned(whole) }))
    expect(words(shapes)).not.toContain('permit')
    expect(words(shapes)).toContain('lift')
    const bare = grown()
    expect(() => barsSceneOf(bare, asked(bare))).toThrow(CannotMake)
  })

  it('leaves shut folds shut where it’s asked to, and draws the demo’s plan in a breath', () => {
    let made = 0
    const people = DEMO_PEOPLE.map(({ key, name }) => ({ id: key, name }))
    const tree = buildDemo(MOVE, people, TODAY, () => `n${made++}`)
    const began = performance.now()
    const open = barsSceneOf(tree, asked(tree))
    const shut = barsSceneOf(tree, asked(tree, { folds: true }))
    expect(performance.now() - began).toBeLessThan(1500)
    expect(shut.bounds.height).toBeLessThan(open.bounds.height)
    expect(words(shut.shapes)).not.toContain('Cash box')
    expect(words(open.shapes)).toContain('Cash box')
  })
})
