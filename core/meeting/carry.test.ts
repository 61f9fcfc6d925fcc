import { describe, expect, it } from 'vitest'
import { actionFigures, ageInWords, carryOver, type Held, medianLife, type Raised } from './carry'

const raised = (id: string, kind: Raised['kind'], settled = false, due: string | null = null): Raised => ({
  id,
  kind,
  settled,
  due,
})
const series: Held[] = [
  { id: 'm2', day: '2027-03-16', raised: [raised('a2', 'action', false, '2027-03-20'), raised('p1', 'parked')] },
  {
    id: 'm1',
    day: '2027-03-02',
    raised: [raised('a1', 'action', true), raised('q1', 'question'), raised('a0', 'action', false, '2027-04-20')],
  },
]

describe('what goes on to the next meeting', () => {
  it('is what is open: actions, then questions, then what was parked, the oldest first, with its age', () => {
    const carried = carryOver(series, '2027-03-30')
    expect(carried.map(({ id, from, meetings, days, late }) => [id, from, meetings, days, late])).toEqual([
      ['a0', 'm1', 2, 28, false],
      ['a2', 'm2', 1, 14, true],
      ['q1', 'm1', 2, 28, false],
      ['p1', 'm2', 1, 14, false],
    ])
    expect(carried.map(ageInWords)).toEqual([
      '2 meetings ago, 28 days',
      'last meeting, 14 days',
      '2 meetings ago, 28 days',
      'last meeting, 14 days',
    ])
  })
  it('counts what was carried before from where it was first raised, and leaves out what has been settled since', () => {
    const third: Held = {
      id: 'm3',
      day: '2027-03-30',
      raised: [raised('a0', 'action', false, '2027-04-01'), raised('q1', 'question', true)],
    }
    expect(carryOver([...series, third], '2027-04-13').map(({ id, meetings, late }) => [id, meetings, late])).toEqual([
      ['a0', 3, true],
      ['a2', 2, true],
      ['p1', 2, false],
    ])
    expect(carryOver([], '2027-04-13')).toEqual([])
    expect(carryOver(series, '2027-03-10').map(one => one.id)).toEqual(['a0', 'q1'])
  })
})

describe('a series in figures', () => {
  it('actions raised, closed and overdue, meeting by meeting, worked by hand', () => {
    const closed: Record<string, string> = { a1: '2027-03-10' }
    expect(
      actionFigures(
        [
          ...series,
          {
            id: 'm3',
            day: '2027-03-30',
            raised: [raised('a3', 'action'), raised('a2', 'action', false, '2027-03-20')],
          },
        ],
        id => closed[id] ?? null,
      ),
    ).toEqual([
      { id: 'm1', day: '2027-03-02', raised: 2, closed: 0, overdue: 0 },
      { id: 'm2', day: '2027-03-16', raised: 1, closed: 1, overdue: 0 },
      { id: 'm3', day: '2027-03-30', raised: 1, closed: 0, overdue: 1 },
    ])
  })
  it('how long actions live: the median of those that were closed', () => {
    const life = (raised: string, closed: string | null) => ({ raised, closed })
    expect(
      medianLife([
        life('2027-03-01', '2027-03-04'),
        life('2027-03-01', '2027-03-11'),
        life('2027-03-01', null),
        life('2027-03-01', '2027-03-06'),
      ]),
    ).toBe(5)
    expect(medianLife([life('2027-03-01', '2027-03-04'), life('2027-03-01', '2027-03-06')])).toBe(4)
    expect(medianLife([life('2027-03-01', null)])).toBeNull()
  })
})
