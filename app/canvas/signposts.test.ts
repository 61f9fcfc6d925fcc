import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { meets, type Rect } from '#core/arrange/place'
import { type Post, putUp, type Wanted } from './signposts'

const ruler = (text: string, { size }: { size: number }): number => [...text].length * size * 0.55
const branch = (id: string, title: string, rect: Rect, more: Partial<Wanted> = {}): Wanted => ({
  id,
  title,
  rect,
  centre: false,
  direction: 'right',
  hue: '#17616b',
  focused: false,
  ...more,
})
const pairs = (posts: readonly Post[]): boolean => posts.every((a, i) => posts.slice(i + 1).every(b => !meets(a, b)))

describe('names put up where planks are too small to be read', () => {
  it('stand by their plank, towards the centre, whole', () => {
    const [post] = putUp([branch('a', 'Fit-out', { x: 100, y: 100, width: 40, height: 14 })], [], ruler)
    expect(post).toMatchObject({ id: 'a', x: 100, lines: ['Fit-out'] })
    const [left] = putUp(
      [branch('a', 'Opening day', { x: 100, y: 100, width: 40, height: 14 }, { direction: 'left' })],
      [],
      ruler,
    )
    expect(left!.x + left!.width).toBeCloseTo(140)
  })
  it('dodge the words of other planks, are broken where that helps, and stay away where nothing does', () => {
    const plank = { x: 100, y: 100, width: 60, height: 16 }
    const below = { id: 'b', x: 100, y: 122, width: 200, height: 14 }
    const [post] = putUp([branch('a', 'Fit-out', plank)], [below], ruler)
    expect(meets(post!, below)).toBe(false)
    const right = { id: 'c', x: 165, y: 0, width: 200, height: 220 }
    const before = { id: 'd', x: 0, y: 0, width: 95, height: 220 }
    const [narrow] = putUp([branch('a', 'Reconstruction', plank)], [right, before], ruler)
    expect(narrow).toBeUndefined()
    const roomy = { ...right, x: 190 }
    const [broken] = putUp([branch('a', 'Training days of March', plank)], [roomy, before], ruler)
    expect(broken!.lines.length).toBeGreaterThan(1)
    expect(broken!.lines.join(' ')).toBe('Training days of March')
  })
  it('never lie over one another nor over other words', () => {
    const place = fc.record({
      x: fc.integer({ min: 0, max: 1200 }),
      y: fc.integer({ min: 0, max: 700 }),
      width: fc.integer({ min: 4, max: 140 }),
      height: fc.integer({ min: 4, max: 30 }),
    })
    fc.assert(
      fc.property(fc.array(place, { maxLength: 20 }), fc.array(place, { maxLength: 40 }), (mains, others) => {
        const posts = putUp(
          mains.map((rect, i) => branch(`m${i}`, `Branch of ${i} words`, rect, { focused: i === 3 })),
          others.map((rect, i) => ({ id: `o${i}`, ...rect })),
          ruler,
        )
        expect(pairs(posts)).toBe(true)
        expect(posts.some(post => others.some(other => meets(post, other)))).toBe(false)
      }),
      { numRuns: 500 },
    )
  })
  it('cut no letter in two and no name at sixty characters', () => {
    const [post] = putUp([branch('a', `${'👩‍🚒'.repeat(80)}`, { x: 100, y: 100, width: 40, height: 14 })], [], ruler)
    expect(post!.lines[0]!.replace(/…$/, '')).toMatch(/^(?:👩‍🚒)+$/u)
  })
})
