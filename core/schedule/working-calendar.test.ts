import fc from 'fast-check'
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { addDays } from './days'
import { NoWorkingDay, USUAL_DAYS, WorkingCalendar } from './working-calendar'

const day = (n: number): string => addDays('2026-11-02', n)
const days = fc.integer({ min: -400, max: 400 }).map(day)
const calendar = fc
  .record({
    weekdays: fc.subarray([1, 2, 3, 4, 5, 6, 7], { minLength: 1 }),
    closed: fc.array(days, { maxLength: 12 }),
    extra: fc.array(days, { maxLength: 6 }),
  })
  .map(one => ({ ...one, minutes: 480 }))
/** Day by day, as one counts on the fingers. */
const worked = (
  one: { weekdays: readonly number[]; closed: readonly string[]; extra: readonly string[] },
  at: string,
): boolean => {
  const weekday = ((new Date(`${at}T00:00Z`).getUTCDay() + 6) % 7) + 1
  return one.weekdays.includes(weekday) ? !one.closed.includes(at) : one.extra.includes(at) && !one.closed.includes(at)
}

describe('a working calendar', () => {
  it('counts as one does day by day', () => {
    fc.assert(
      fc.property(calendar, days, days, (given, a, b) => {
        const made = new WorkingCalendar(given)
        const [from, to] = a < b ? [a, b] : [b, a]
        let count = 0
        for (let at = from; at < to; at = addDays(at, 1)) if (worked(given, at)) count++
        expect(made.isWorking(a)).toBe(worked(given, a))
        expect(made.workingDaysBetween(from, to)).toBe(count)
        expect(made.workingDaysBetween(to, from)).toBe(count === 0 ? 0 : -count)
      }),
      { numRuns: 400 },
    )
  })

  it('law: a step there and back, and a span of the steps that were made', () => {
    fc.assert(
      fc.property(calendar, days, fc.integer({ min: -300, max: 300 }), (given, from, n) => {
        const made = new WorkingCalendar(given)
        const first = made.onOrAfter(from)
        expect(first >= from && made.isWorking(first)).toBe(true)
        const to = made.addWorkingDays(from, n)
        expect(made.isWorking(to)).toBe(true)
        expect(made.workingDaysBetween(first, to)).toBe(n === 0 ? 0 : n)
        expect(made.addWorkingDays(to, -n)).toBe(first)
      }),
      { numRuns: 400 },
    )
  })

  // Values as numpy's own documentation prints them for busday_offset and busday_count (numpy 1.26, "Datetime support"); from memory.
  it('agrees with the examples of numpy’s business days', () => {
    const usual = new WorkingCalendar(USUAL_DAYS)
    expect(usual.addWorkingDays('2011-06-23', 1)).toBe('2011-06-24')
    expect(usual.addWorkingDays('2011-06-23', 2)).toBe('2011-06-27')
    expect(usual.addWorkingDays('2011-06-25', 0)).toBe('2011-06-27')
    expect(usual.addWorkingDays('2011-06-25', 2)).toBe('2011-06-29')
    expect(usual.workingDaysBetween('2011-07-11', '2011-07-18')).toBe(5)
    expect(usual.workingDaysBetween('2011-07-18', '2011-07-11')).toBe(-5)
    expect([usual.isWorking('2011-07-15'), usual.isWorking('2011-07-16')]).toEqual([true, false])
  })

  it('agrees with numpy on 300 random calendars (busday_offset, busday_count)', () => {
    const { cases } = JSON.parse(readFileSync(new URL('fixtures/working-days.json', import.meta.url), 'utf8')) as {
      cases: {
        weekdays: number[]
        closed: string[]
        from: string
        to: string
        steps: number
        offset: string
        count: number
      }[]
    }
    expect(cases).toHaveLength(300)
    for (const { weekdays, closed, from, to, steps, offset, count } of cases) {
      const made = new WorkingCalendar({ weekdays, closed, extra: [], minutes: 480 })
      expect([made.addWorkingDays(from, steps), made.workingDaysBetween(from, to) + 0]).toEqual([offset, count])
    }
  })

  it('says so when no day is left', () => {
    expect(() => new WorkingCalendar({ ...USUAL_DAYS, weekdays: [] })).toThrow(NoWorkingDay)
    const one = new WorkingCalendar({ weekdays: [], minutes: 480, closed: [], extra: ['2027-03-06'] })
    expect(one.onOrAfter('2027-01-01')).toBe('2027-03-06')
    expect(() => one.onOrAfter('2027-03-07')).toThrow(NoWorkingDay)
  })
})
