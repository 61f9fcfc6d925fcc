import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { planOf } from '../schedule/plan'
import { minuteOf } from '../schedule/times'
import { applyChanges, type Change, type Topic, type Tree } from '../tree'
import { seed } from '../../tests/rolled'
import type { CalendarAsked } from './calendar'
import { dayWithTimes, lineInWords, runSheetOf, toldRunSheet } from './run-sheet'

const DAY = '2027-06-05'
const asked: CalendarAsked = { plan: null, today: '2027-01-11', zone: 'Europe/Lisbon', only: null, hidden: () => false }

const grown = (...list: [string, Partial<Topic>, string?][]): Tree => {
  const tree = seed()
  applyChanges(
    tree,
    list.map(([topic, content, parent = 'a'], i): Change => ({
      op: 'add',
      topic,
      parent,
      order: `b${String(i).padStart(4, '0')}V`,
      with: { title: topic, ...content },
    })),
  )
  return tree
}
const at = (startTime: string | null, dueTime: string | null, more: Partial<Topic> = {}): Partial<Topic> => ({
  start: DAY,
  due: DAY,
  startTime,
  dueTime,
  ...more,
})
const place = (name: string): Pick<Topic, 'place'> => ({ place: { name, lat: null, lon: null } })
const told = (tree: Tree, of: CalendarAsked = asked, day = DAY): string[] =>
  runSheetOf(tree, of, day).lines.map(line => `${line.entry.id} ${lineInWords(line)}`)

describe('a run-sheet', () => {
  it('sorts by the time of day; what has none stands by itself', () => {
    const tree = grown(
      ['doors', at('10:00', '12:00')],
      ['lamps', { due: DAY, dueTime: '07:30' }],
      ['speech', at('10:00', '10:10')],
      ['van', { start: DAY, startTime: '06:15' }],
      ['cleaning', { start: '2027-06-03', due: '2027-06-06' }],
      ['tidy', { due: DAY }],
      ['elsewhen', { due: '2027-06-06', dueTime: '09:00' }],
    )
    expect(told(tree)).toEqual(['van 06:15', 'lamps 07:30', 'doors 10:00 to 12:00', 'speech 10:00 to 10:10'])
    expect(runSheetOf(tree, asked, DAY).untimed.map(({ id }) => id)).toEqual(['cleaning', 'tidy'])
  })

  it('goes over midnight on both days, and on the days between goes on all day', () => {
    const tree = grown(
      ['night', { start: '2027-06-04', startTime: '22:00', due: DAY, dueTime: '02:00' }],
      ['guard', { start: DAY, startTime: '23:00', due: '2027-06-06', dueTime: '06:00' }],
      ['hire', { start: '2027-06-01', startTime: '09:00', due: '2027-06-08', dueTime: '17:00' }],
      ['paint', { start: '2027-06-02', due: DAY, dueTime: '15:00' }],
    )
    expect(told(tree)).toEqual([
      'paint until 15:00',
      'night 22:00 the day before to 02:00',
      'guard 23:00 to 06:00 the day after',
    ])
    expect(runSheetOf(tree, asked, DAY).untimed.map(({ id }) => id)).toEqual(['hire'])
    expect(told(tree, asked, '2027-06-01')).toEqual(['hire from 09:00'])
    expect(told(tree, asked, '2027-06-08')).toEqual(['hire until 17:00'])
  })

  it('tells meetings on the wall of the zone that is asked for, an end at midnight as that of the day', () => {
    const meeting = (time: string, minutes: number): Partial<Topic> => ({
      meeting: [
        { id: 'begins', kind: 'begins', day: DAY, time, zone: 'Europe/Copenhagen' },
        { id: 'slot', kind: 'slot', minutes },
        { id: 'where', kind: 'where', text: 'Drying loft' },
      ] as never,
    })
    const tree = grown(['brief', meeting('09:00', 45)], ['late', meeting('23:30', 90)])
    expect(told(tree)).toEqual(['brief 08:00 to 08:45', 'late 22:30 to 24:00'])
    expect(runSheetOf(tree, asked, DAY).lines[0]!.place).toBe('Drying loft')
  })

  it('a meeting in the hour that comes twice doesn’t end before it begins', () => {
    const day = '2027-10-31'
    const begins = { id: 'begins', kind: 'begins', day, time: '02:30', zone: 'Europe/Copenhagen' }
    const tree = grown(['night', { meeting: [begins, { id: 'slot', kind: 'slot', minutes: 45 }] as never }])
    const [line] = runSheetOf(tree, { ...asked, zone: 'Europe/Copenhagen' }, day).lines
    expect([line!.entry.time, line!.entry.ends, line!.backwards]).toEqual(['02:30', '02:15', false])
  })

  it('says nothing of times where the plan puts a task on another day than the typed one', () => {
    const tree = grown(['before', { duration: 3 }], ['van', { ...at('07:30', '08:00'), duration: 1 }])
    applyChanges(tree, [
      { op: 'tree', field: 'planFrom', value: '2027-06-04' },
      { op: 'tree', field: 'weekdays', value: [1, 2, 3, 4, 5, 6, 7] },
    ])
    const planned = (): CalendarAsked => {
      const plan = planOf(tree, '2027-06-01')
      if (typeof plan === 'string') throw new Error(plan)
      return { ...asked, plan }
    }
    expect(told(tree, planned())).toEqual(['van 07:30 to 08:00'])
    applyChanges(tree, [
      { op: 'put', topic: 'van', set: 'waits', member: { id: 'w', on: 'before', kind: 'FS', lag: 0, days: 'working' } },
    ])
    expect(told(tree, planned())).toEqual([])
    expect(runSheetOf(tree, planned(), '2027-06-07').untimed.map(({ id }) => id)).toEqual(['van'])
  })

  it('has what comes again at its time on each of its days', () => {
    const tree = grown([
      'count',
      { due: '2027-06-01', dueTime: '08:00', again: { rule: 'FREQ=DAILY', from: '2027-06-01' } },
    ])
    applyChanges(tree, [{ op: 'tree', field: 'weekdays', value: [1, 2, 3, 4, 5, 6, 7] }])
    expect(told(tree)).toEqual(['count 08:00'])
  })

  it('finds the day that has times', () => {
    const tree = grown(
      ['a1', { due: '2027-05-01', dueTime: '08:00' }],
      ['a2', at('09:00', null)],
      ['a3', { due: '2027-07-01' }],
    )
    expect(dayWithTimes(tree, asked, '2027-01-01')).toBe('2027-05-01')
    expect(dayWithTimes(tree, asked, '2027-05-02')).toBe(DAY)
    expect(dayWithTimes(tree, asked, '2027-06-06')).toBe(DAY)
    expect(dayWithTimes(seed(), asked, DAY)).toBeNull()
  })

  it('is told as plain data', () => {
    const tree = grown(['speech', at('10:00', '10:10', { people: ['ines'], ...place('Hall') })], ['tidy', { due: DAY }])
    expect(toldRunSheet(tree, runSheetOf(tree, asked, DAY), 'Europe/Lisbon', id => id.toUpperCase())).toEqual({
      day: DAY,
      zone: 'Europe/Lisbon',
      lines: [
        {
          topic: 'speech',
          title: 'speech',
          kind: 'task',
          begins: '2027-06-05T10:00',
          ends: '2027-06-05T10:10',
          people: [{ id: 'ines', name: 'INES' }],
          place: 'Hall',
          done: false,
          backwards: false,
          clashes: [],
        },
      ],
      untimed: [{ topic: 'tidy', title: 'tidy', kind: 'due', from: DAY, to: DAY, done: false }],
    })
  })
})

const clashes = (tree: Tree): string[] =>
  runSheetOf(tree, asked, DAY).lines.flatMap(({ entry, clashes: found }) =>
    found.map(clash => `${entry.id} ${clash.person} ${clash.with}`),
  )

describe('somebody in two places', () => {
  const ines = { people: ['ines'] }

  it('is who has two things at once; one after the other is none', () => {
    const tree = grown(
      ['doors', at('09:00', '10:00', ines)],
      ['speech', at('09:30', '09:40', { people: ['ines', 'rana'] })],
      ['press', at('10:00', '10:30', ines)],
      ['lift', at('09:35', '10:00', { people: ['rana'] })],
      ['late', { due: DAY, dueTime: '10:30', people: ['ines'] }],
    )
    expect(clashes(tree)).toEqual(['doors ines speech', 'speech ines doors', 'speech rana lift', 'lift rana speech'])
  })

  it('has two moments at the same minute, and one inside what takes longer', () => {
    const tree = grown(
      ['keys', { due: DAY, dueTime: '08:00', ...ines }],
      ['van', { due: DAY, dueTime: '08:00', ...ines }],
      ['shift', at('07:00', '09:00', ines)],
    )
    expect(clashes(tree)).toEqual([
      'shift ines keys',
      'shift ines van',
      'keys ines shift',
      'keys ines van',
      'van ines shift',
      'van ines keys',
    ])
  })

  it('is nobody at one place, in one branch, with what is done, or with what takes all week', () => {
    const tree = grown(
      ['doors', at('09:00', '10:00', { ...ines, ...place('Hall') })],
      ['speech', at('09:30', '09:40', { ...ines, ...place(' hall') })],
      ['words', at('09:30', '09:35', ines), 'speech'],
      ['done', at('09:00', '10:00', { ...ines, done: 100 })],
      ['week', { start: '2027-06-01', startTime: '08:00', due: DAY, dueTime: '18:00', ...ines }],
    )
    expect(clashes(tree)).toEqual(['doors ines words', 'words ines doors'])
  })

  it('ends before it begins: said, and no clash', () => {
    const tree = grown(['back', at('11:00', '09:00', ines)], ['doors', at('09:30', '10:00', ines)])
    const { lines } = runSheetOf(tree, asked, DAY)
    expect(lines.map(({ entry, backwards }) => [entry.id, backwards])).toEqual([
      ['doors', false],
      ['back', true],
    ])
    expect(clashes(tree)).toEqual([])
  })

  it('is found just where every pair compared with every other finds one', () => {
    const time = fc
      .integer({ min: 0, max: 23 })
      .chain(hour =>
        fc.constantFrom(0, 15, 30).map(minute => `${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`),
      )
    const line = fc.record({
      from: time,
      to: fc.option(time),
      people: fc.uniqueArray(fc.constantFrom('ines', 'rana', 'joao'), { maxLength: 3 }),
    })
    fc.assert(
      fc.property(fc.array(line, { maxLength: 12 }), rolled => {
        const tree = grown(
          ...rolled.map(({ from, to, people }, i): [string, Partial<Topic>] => [`t${i}`, at(from, to, { people })]),
        )
        const spans = rolled.map(({ from, to }) => [minuteOf(from), minuteOf(to ?? from)] as const)
        const wanted = rolled.flatMap(({ people }, i) =>
          rolled.flatMap((other, j) => {
            const [[a, b], [c, d]] = [spans[i]!, spans[j]!]
            // Both run forwards, and share a minute; a moment is shared where it lies in [begin, end), or at the other's beginning.
            const meet = i !== j && b >= a && d >= c && (a === c || (a < d && c < b))
            return meet ? people.filter(person => other.people.includes(person)).map(who => `t${i} ${who} t${j}`) : []
          }),
        )
        expect(clashes(tree).sort()).toEqual(wanted.sort())
      }),
      { numRuns: 300 },
    )
  })

  it('takes no time over a thousand things that somebody has at once', () => {
    const tree = grown(
      ...Array.from({ length: 1000 }, (_, i): [string, Partial<Topic>] => [`t${i}`, at('09:00', '17:00', ines)]),
    )
    const began = performance.now()
    const { lines } = runSheetOf(tree, asked, DAY)
    expect(lines.every(({ clashes: found }) => found.length > 0 && found.length <= 20)).toBe(true)
    expect(performance.now() - began).toBeLessThan(2_000)
  })
})
