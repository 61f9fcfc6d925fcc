import { describe, expect, it } from 'vitest'
import { applyChanges, BLANK, type BriefPart, emptyTree, type Tree } from '../tree'
import { dayOfNext, nextTitle } from './next'
import { addDays } from '../schedule/days'

function series(day: string, rule: string): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0' })
  const meeting: BriefPart[] = [
    { id: 'begins', kind: 'begins', day, time: '10:00', zone: 'UTC' },
    { id: 'rule', kind: 'rule', rule, closed: [] },
  ]
  applyChanges(tree, [{ op: 'add', topic: 'm', parent: 'c', order: 'a0', with: { meeting } }])
  return tree
}

describe('the next meeting of a series', () => {
  // Tuesdays; 9 March 2027 is one.
  it.each([
    [-3, '2027-03-16'],
    [-1, '2027-03-16'],
    [0, '2027-03-16'],
    [1, '2027-03-16'],
    [3, '2027-03-16'],
  ])('moved by %i days by hand, the next stays where the rule has it', (by, next) => {
    expect(dayOfNext(series(addDays('2027-03-09', by), 'FREQ=WEEKLY;BYDAY=TU'), 'm')).toBe(next)
  })
  it('every second week and by the month too', () => {
    for (const by of [-2, 0, 2])
      expect(dayOfNext(series(addDays('2027-03-09', by), 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU'), 'm')).toBe('2027-03-23')
    for (const by of [-4, 0, 5])
      expect(dayOfNext(series(addDays('2027-03-26', by), 'FREQ=MONTHLY;BYDAY=-1FR'), 'm')).toBe('2027-04-30')
    expect(dayOfNext(series('2027-01-29', 'FREQ=MONTHLY;BYDAY=5FR'), 'm')).toBe('2027-04-30')
  })
  it.each([
    ['Meeting 3', 'Meeting 4'],
    ['Coordination #12 ', 'Coordination #13 '],
    ['Meeting (9)', 'Meeting (10)'],
    ['No. 1999', 'No. 2000'],
    ['7', '8'],
    ['Board 31.12.2026', 'Board 31.12.2026'],
    ['Board 2026-12-31', 'Board 2026-12-31'],
    ['Plan 2027', 'Plan 2027'],
    ['Board 12 May 2027', 'Board 12 May 2027'],
    ['Version 1.2', 'Version 1.2'],
    ['Room B12', 'Room B12'],
    ['Opening', 'Opening'],
  ])('the title “%s” becomes “%s”', (title, next) => expect(nextTitle(title)).toBe(next))
})
