import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { overlapsOf, type Stretch } from './overlap'

const at = (time: string): number => Date.parse(`2027-03-02T${time}Z`)
const stretch = (key: string, time: string, minutes: number): Stretch => ({ key, title: key, start: at(time), minutes })

describe('overlaps', () => {
  it('are between what runs at the same time; what begins when another ends isn’t in its way', () => {
    const found = overlapsOf([
      stretch('a', '10:00', 30),
      stretch('b', '10:29', 30),
      stretch('c', '10:30', 10),
      stretch('d', '12:00', 60),
    ])
    expect(Object.fromEntries(found)).toEqual({ a: ['b'], b: ['a', 'c'], c: ['b'] })
  })
  it('are found as by comparing each with each', () => {
    const any = fc.array(fc.tuple(fc.integer({ min: 0, max: 200 }), fc.integer({ min: 1, max: 60 })), { maxLength: 20 })
    fc.assert(
      fc.property(any, all => {
        const list = all.map(([start, minutes], i): Stretch => ({
          key: `k${i}`,
          title: `k${i}`,
          start: start * 60_000,
          minutes,
        }))
        const found = overlapsOf(list)
        for (const one of list) {
          const others = list
            .filter(
              other =>
                other !== one &&
                other.start < one.start + one.minutes * 60_000 &&
                one.start < other.start + other.minutes * 60_000,
            )
            .map(({ key }) => key)
          expect((found.get(one.key) ?? []).sort()).toEqual(others.sort())
        }
      }),
    )
  })
})
