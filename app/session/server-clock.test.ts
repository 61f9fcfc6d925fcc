import fc from 'fast-check'
import { expect, it } from 'vitest'
import { ServerClock } from './server-clock'

/** One browser: how wrong its own clock is, and how long each of its questions takes there and back, ms. */
const browser = fc.record({
  wrong: fc.integer({ min: -1_800_000, max: 1_800_000 }),
  trips: fc.array(fc.record({ there: fc.nat(900), back: fc.nat(900) }), { minLength: 1, maxLength: 8 }),
})

it('twenty browsers agree on the time to within half their quickest round trips, whatever their own clocks say', () => {
  fc.assert(
    fc.property(fc.array(browser, { minLength: 20, maxLength: 20 }), browsers => {
      const START = 1_800_000_000_000
      const END = 60_000
      const seen = browsers.map(({ wrong, trips }) => {
        let real = 0
        const clock = new ServerClock(
          () => START + real + wrong,
          () => real,
        )
        clock.begin(START)
        for (const { there, back } of trips) {
          clock.ask()
          const answer = START + real + there
          real += there + back
          clock.answer(answer)
        }
        real = END
        return { off: clock.time - (START + END), most: Math.min(...trips.map(trip => trip.there + trip.back)) / 2 }
      })
      for (const { off, most } of seen) expect(Math.abs(off)).toBeLessThanOrEqual(most + 1)
    }),
  )
})
