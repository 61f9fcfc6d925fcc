import { Temporal } from 'temporal-polyfill'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { agoInWords, dayInWords, daysBetween, dueInWords } from './days'

const day = fc
  .integer({ min: 0, max: 60_000 })
  .map(offset => Temporal.PlainDate.from('1950-01-01').add({ days: offset }))

describe('calendar days', () => {
  // Reference library: temporal-polyfill, an independent implementation of the Temporal proposal.
  it('are as far apart as Temporal says', () => {
    fc.assert(
      fc.property(day, day, (a, b) => {
        expect(daysBetween(a.toString(), b.toString())).toBe(a.until(b, { largestUnit: 'days' }).days)
      }),
    )
  })
  it('are written without ambiguity', () => {
    expect(dayInWords('2027-05-12')).toBe('12 May 2027')
    expect(dayInWords('2027-12-05')).toBe('5 Dec 2027')
  })
  it.each([
    ['2027-03-01', '2 d late', true],
    ['2027-02-11', '20 d late', true],
    ['2027-02-10', '3 wk late', true],
    ['2027-03-03', 'today', false],
    ['2027-03-04', 'tomorrow', false],
    ['2027-03-17', 'in 14 d', false],
    ['2027-03-18', 'in 2 wk', false],
    ['2027-05-05', 'in 9 wk', false],
    ['2027-05-12', '12 May 2027', false],
  ])('due %s is "%s"', (due, text, late) => {
    expect(dueInWords(due, '2027-03-03')).toEqual({ text, late })
  })
  it.each([
    [0.4, '2027-03-03', 'just now'],
    [12.7, '2027-03-03', '12 min ago'],
    [200, '2027-03-03', '3 h ago'],
    [600, '2027-03-02', 'yesterday'],
    [6000, '2027-02-27', '27 Feb 2027'],
  ])('%d minutes ago', (minutes, on, words) => {
    expect(agoInWords(minutes, on, '2027-03-03')).toBe(words)
  })
})
