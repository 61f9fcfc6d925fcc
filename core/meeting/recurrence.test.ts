import fc from 'fast-check'
import { RRule, rrulestr } from 'rrule'
import { describe, expect, it } from 'vitest'
import { addDays } from '../schedule/days'
import { daysOf, nextDay, NTHS, nthWeekday, readRule, type Rule, slotOf, WEEKDAYS, writeRule } from './recurrence'

const take = (first: string, rule: Rule, count: number): string[] => {
  const days: string[] = []
  for (const day of daysOf(first, rule)) {
    days.push(day)
    if (days.length === count) return days
  }
  return days
}

describe('a series of meetings', () => {
  // RFC 5545, section 3.8.5.3: "Every other week on Monday" cut to one day, "Monthly on the first Friday", "Monthly on
  // the second-to-last" isn't asked for.
  it('monthly on the first Friday, from 5 September 1997', () => {
    expect(take('1997-09-05', readRule('FREQ=MONTHLY;BYDAY=1FR')!, 6)).toEqual([
      '1997-09-05',
      '1997-10-03',
      '1997-11-07',
      '1997-12-05',
      '1998-01-02',
      '1998-02-06',
    ])
  })
  it('every other week on Tuesday, from 2 September 1997', () => {
    expect(take('1997-09-02', readRule('RRULE:FREQ=WEEKLY;INTERVAL=2;BYDAY=TU')!, 5)).toEqual([
      '1997-09-02',
      '1997-09-16',
      '1997-09-30',
      '1997-10-14',
      '1997-10-28',
    ])
  })
  it('the last Friday of each month, leap year and all', () => {
    expect(take('2028-01-28', { every: 'month', interval: 1, nth: -1, on: 'FR' }, 4)).toEqual([
      '2028-01-28',
      '2028-02-25',
      '2028-03-31',
      '2028-04-28',
    ])
    expect(nthWeekday('2027-02', -1, 'SU')).toBe('2027-02-28')
  })
  it('goes as the rrule library (2.8.1) says, for any rule and first day', () => {
    const rule = fc.oneof(
      fc.record({
        every: fc.constant('week' as const),
        interval: fc.integer({ min: 1, max: 6 }),
        on: fc.constantFrom(...WEEKDAYS),
      }),
      fc.record({
        every: fc.constant('month' as const),
        interval: fc.integer({ min: 1, max: 6 }),
        nth: fc.constantFrom(...NTHS),
        on: fc.constantFrom(...WEEKDAYS),
      }),
    )
    fc.assert(
      fc.property(rule, fc.integer({ min: 0, max: 4000 }), (one, offset) => {
        const first = addDays('2020-01-01', offset)
        const start = new Date(`${first}T00:00:00Z`)
        const reference = new RRule({ ...rrulestr(writeRule(one)).origOptions, dtstart: start })
        // Theirs leaves out a first day that doesn't fit; ours, as the RFC says, counts it.
        const theirs = reference
          .between(new Date(start.getTime() + 1), new Date(start.getTime() + 3 * 366 * 86_400_000))
          .map(date => date.toISOString().slice(0, 10))
          .slice(0, 12)
        expect(take(first, one, theirs.length + 1).slice(1)).toEqual(theirs)
      }),
    )
  })
  it('a month without a fifth has none; the last but one is counted from the end', () => {
    expect(take('2027-01-29', { every: 'month', interval: 1, nth: 5, on: 'FR' }, 4)).toEqual([
      '2027-01-29',
      '2027-04-30',
      '2027-07-30',
      '2027-10-29',
    ])
    expect(nthWeekday('2027-02', 5, 'SU')).toBeNull()
    // RFC 5545, section 3.8.5.3: “Monthly on the second-to-last Monday of the month for 6 months”, from 22 September
    // 1997.
    expect(take('1997-09-22', readRule('FREQ=MONTHLY;BYDAY=-2MO')!, 6)).toEqual([
      '1997-09-22',
      '1997-10-20',
      '1997-11-17',
      '1997-12-22',
      '1998-01-19',
      '1998-02-16',
    ])
  })
  it('one that was moved by hand stands for the rule’s nearest day', () => {
    const rule: Rule = { every: 'week', interval: 1, on: 'TU' }
    for (const day of ['2027-03-06', '2027-03-08', '2027-03-09', '2027-03-10', '2027-03-12'])
      expect([day, slotOf(day, rule)]).toEqual([day, '2027-03-09'])
    expect(slotOf('2027-03-01', { every: 'month', interval: 1, nth: -1, on: 'FR' })).toBe('2027-02-26')
  })
  it('the next day leaves out what is closed', () => {
    const rule: Rule = { every: 'week', interval: 2, on: 'TU' }
    expect(nextDay('2027-03-02', rule, '2027-03-02')).toBe('2027-03-16')
    expect(nextDay('2027-03-02', rule, '2027-03-02', day => day === '2027-03-16')).toBe('2027-03-30')
    expect(nextDay('2027-03-02', rule, '2027-03-20')).toBe('2027-03-30')
    expect(nextDay('2027-03-02', rule, '2027-03-02', () => true)).toBeNull()
  })
  it('rules are written and read back; what isn’t one of them is no rule', () => {
    for (const text of [
      'FREQ=WEEKLY;BYDAY=TU',
      'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO',
      'FREQ=MONTHLY;BYDAY=-1FR',
      'FREQ=MONTHLY;INTERVAL=3;BYDAY=2WE',
      'FREQ=MONTHLY;BYDAY=5MO',
      'FREQ=MONTHLY;BYDAY=-2TH',
    ])
      expect(writeRule(readRule(text)!)).toBe(text)
    for (const text of [
      '',
      'FREQ=DAILY',
      'FREQ=WEEKLY;BYDAY=MO,TU',
      'FREQ=MONTHLY;BYDAY=6MO',
      'FREQ=MONTHLY;BYMONTHDAY=13',
      'FREQ=WEEKLY;INTERVAL=0;BYDAY=MO',
      'FREQ=WEEKLY;BYDAY=XX',
    ])
      expect(readRule(text)).toBeNull()
  })
})
