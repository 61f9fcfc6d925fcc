import { describe, expect, it } from 'vitest'
import { movedDue, whenOf } from './when'

// 10 March 2027 is a Wednesday.
const TODAY = '2027-03-10'

describe('when something is owed', () => {
  it.each([
    [null, 'none'],
    ['2027-03-09', 'late'],
    ['2027-03-10', 'today'],
    ['2027-03-11', 'week'],
    ['2027-03-14', 'week'],
    ['2027-03-15', 'later'],
  ])('%s is %s', (due, when) => expect(whenOf(due, TODAY)).toBe(when))
  it('on a Sunday the week ends today', () => {
    expect(whenOf('2027-03-15', '2027-03-14')).toBe('later')
  })
  it.each([
    ['2027-03-12', 'later', '2027-03-13'],
    ['2027-03-01', 'later', '2027-03-11'],
    [null, 'later', '2027-03-11'],
    ['2027-03-12', 'earlier', '2027-03-11'],
    [null, 'earlier', '2027-03-09'],
    ['2027-03-12', 'next-week', '2027-03-15'],
    ['2027-03-12', 'none', null],
  ] as const)('%s moved %s is %s', (due, how, moved) => expect(movedDue(due, how, TODAY)).toBe(moved))
  it('next week from a Monday is the Monday after', () => {
    expect(movedDue(null, 'next-week', '2027-03-15')).toBe('2027-03-22')
  })
})
