import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { changeSchema, MARKERS } from '../tree'
import { detailChanges, type Known, readDetails, readItems } from './quick-details'

const known = {
  people: [
    { id: 'u1', name: 'Ines Brandt' },
    { id: 'u2', name: 'Oskar Moreau' },
    { id: 'u3', name: 'Ida Brook' },
  ],
  markers: MARKERS,
  today: '2027-03-03',
}

describe('quick details', () => {
  it('reads people, dates, lengths, done, priority and markers, and leaves the rest as text', () => {
    expect(readDetails('Order shelving // Ines, due 12 May, 3 days, 40%, risk, p2, oak', known)).toMatchObject({
      title: 'Order shelving // oak',
      details: { people: ['u1'], due: '2027-05-12', duration: 3, done: 40, markers: ['risk'], priority: 2 },
    })
    expect(readDetails('Sort // OM, start mon, in 2 weeks', known).details).toEqual({
      people: ['u2'],
      start: '2027-03-08',
      due: '2027-03-17',
    })
  })
  it('reads how something comes again, from the day it’s due, from the one it was due already, or from the first such day', () => {
    const read = (text: string, due?: string) => readDetails(`Alarm // ${text}`, { ...known, due: due ?? null })
    const monday = { rule: 'FREQ=WEEKLY;BYDAY=MO', from: '2027-03-08' }
    expect(read('every monday, Ines')).toMatchObject({
      title: 'Alarm',
      details: { people: ['u1'], due: '2027-03-08', again: monday },
      chips: [{ text: 'Ines Brandt' }, { kind: 'again', text: 'every Monday, next on 8 Mar 2027' }],
    })
    // Said before or after it.
    for (const text of ['every month, due 12 May', 'due 12 May, monthly'])
      expect(read(text).details).toEqual({
        due: '2027-05-12',
        again: { rule: 'FREQ=MONTHLY;BYMONTHDAY=12', from: '2027-05-12' },
      })
    expect(read('every 2 weeks', '2027-04-20').details).toEqual({
      again: { rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', from: '2027-04-20' },
    })
    expect(read('every thing').title).toBe('Alarm // every thing')
  })
  it('reads times of day: with their day, of one said beside them, or of the one that is there', () => {
    const read = (text: string, there: Partial<Known> = {}) => readDetails(`Van // ${text}`, { ...known, ...there })
    const fifth = '2027-06-05'
    expect(read('5 jun 7:30')).toMatchObject({
      title: 'Van',
      details: { due: fifth, dueTime: '07:30' },
      chips: [{ kind: 'due', text: 'due 5 Jun 2027, 07:30' }],
    })
    expect(read('start 5 jun at 7:30, due 5 jun 2 pm').details).toEqual({
      ...{ start: fifth, startTime: '07:30', due: fifth, dueTime: '14:00' },
    })
    const span = { start: fifth, startTime: '07:30', due: fifth, dueTime: '08:15' }
    for (const text of [
      '5 jun 7:30 to 8:15',
      '5 jun, 7:30–8:15',
      '7:30 to 8:15, due 5 jun',
      '7:30 - 8:15, start 5 jun',
    ])
      expect([text, read(text).details]).toEqual([text, span])
    expect(read('5 jun 22:00 to 2:00')).toMatchObject({
      details: { start: fifth, startTime: '22:00', due: '2027-06-06', dueTime: '02:00' },
      chips: [{ text: '5 Jun 2027, 22:00 to 6 Jun 2027, 02:00' }],
    })
    // A day that is there isn't said again.
    expect(read('14:30', { due: fifth }).details).toEqual({ dueTime: '14:30' })
    expect(read('from 14:30', { due: fifth }).details).toEqual({ start: fifth, startTime: '14:30' })
    expect(read('14:30', { start: fifth }).details).toEqual({ startTime: '14:30' })
    expect(read('14:30 to 15:00', { start: fifth, due: fifth }).details).toEqual({
      startTime: '14:30',
      dueTime: '15:00',
    })
    expect(read('14:30').details).toEqual({ due: known.today, dueTime: '14:30' })
    expect(read('every monday, 8:00').details).toMatchObject({ due: '2027-03-08', dueTime: '08:00' })
    for (const text of ['25:00', 'lift 7:30', '7:30 to lunch', 'ratio 1:3'])
      expect(read(text)).toMatchObject({ title: `Van // ${text}`, details: {} })
  })
  it('leaves addresses, ambiguous initials and ordinary words alone', () => {
    expect(readDetails('See https://tannery.example/ tomorrow', known)).toEqual({
      title: 'See https://tannery.example/ tomorrow',
      details: {},
      chips: [],
    })
    expect(readDetails('Ring // IB', known).details).toEqual({})
    expect(readDetails('Shop // buy 2 sat navs', known)).toMatchObject({ title: 'Shop // buy 2 sat navs', details: {} })
  })
  it('a marker is reached by its very name before by another’s short form', () => {
    expect(readDetails('Shelves // risk', known).details.markers).toEqual(['risk'])
  })
  it('a day word beats a name that begins so; two who match are asked about', () => {
    const people = [
      { id: 'f', name: 'Frida Lund' },
      { id: 'm', name: 'Monica Sand', email: 'monica@porch.example' },
      { id: 'i1', name: 'Ida Brook', email: 'ida@porch.example' },
      { id: 'i2', name: 'Ida Moreau' },
      { id: 'i3', name: 'Ida Brook', email: 'ida.b@porch.example' },
    ]
    const read = (text: string) => readDetails(`x // ${text}`, { ...known, people })
    expect(read('fri').details).toEqual({ due: '2027-03-05' })
    expect(read('mon').details).toEqual({ due: '2027-03-08' })
    expect(read('@mon').details).toEqual({ people: ['m'] })
    expect(read('frida').details).toEqual({ people: ['f'] })
    const asked = read('Ida')
    expect(asked).toMatchObject({ title: 'x // Ida', details: {} })
    expect(asked.chips).toEqual([
      {
        kind: 'which',
        text: 'Which Ida?',
        said: 'Ida',
        choices: ['ida@porch.example', 'Ida Moreau', 'ida.b@porch.example'],
      },
    ])
    for (const choice of asked.chips[0]!.choices!) expect(read(choice).details.people).toHaveLength(1)
  })
  it('what a topic can’t have stays text, and a comma may belong to a number or a day', () => {
    for (const text of ['2027-02-30', '2001 weeks', '10001 days', '101%', 'last friday', '2 hourglasses', '30 Feb'])
      expect(readDetails(`x // ${text}`, known), text).toEqual({ title: `x // ${text}`, details: {}, chips: [] })
    expect(readDetails('x // 2,5 days, Dec 15, 2028, Ines', known)).toMatchObject({
      title: 'x',
      details: { duration: 2.5, due: '2028-12-15', people: ['u1'] },
    })
  })
  it('whatever is understood, the door accepts', () => {
    const word = fc.oneof(
      fc.constantFrom(
        'fri',
        '30',
        'Feb',
        '2027',
        '-',
        '.',
        ',',
        'weeks',
        'days',
        '%',
        'p',
        'due',
        'start',
        'end of',
        'month',
        'next',
        'in',
        '9999',
        '9999-12-31',
        '9:30',
        '22:00',
        'to',
        'pm',
        '12',
        '/',
        'Ines',
        'risk',
      ),
      fc.string({ maxLength: 4 }),
    )
    fc.assert(
      fc.property(fc.array(word, { maxLength: 6 }), words => {
        const { details } = readDetails(`x // ${words.join(' ')}`, known)
        for (const change of detailChanges('t1', details))
          expect(changeSchema.safeParse(change).success, JSON.stringify(change)).toBe(true)
      }),
      { numRuns: 3000 },
    )
  })
})

it('items are read all the way down, and keep what they carried', () => {
  expect(
    readItems(
      [
        {
          title: 'Lift // Ines',
          details: { done: 20, hue: '3' },
          children: [{ title: 'Shaft // 40%', children: [{ title: 'plain', children: [] }] }],
        },
      ],
      known,
    ),
  ).toEqual([
    {
      title: 'Lift',
      details: { done: 20, hue: '3', people: ['u1'] },
      children: [{ title: 'Shaft', details: { done: 40 }, children: [{ title: 'plain', children: [] }] }],
    },
  ])
})

describe('what the plan takes', () => {
  const known: Known = {
    people: [],
    markers: [],
    today: '2027-03-03',
    locale: 'en-GB',
    topicCalled: words => (words.toLowerCase() === 'permit' ? { id: 'p1', title: 'Permit' } : null),
  }
  const details = (text: string): unknown => readDetails(`Lift // ${text}`, known).details

  it('is estimates, hours, what it waits for and not before', () => {
    expect(details('3 to 8 days')).toEqual({ estimate: { best: 3, likely: 5.5, worst: 8 } })
    expect(details('3–4–8 d')).toEqual({ estimate: { best: 3, likely: 4, worst: 8 } })
    expect(details('1 to 2 weeks')).toEqual({ estimate: { best: 5, likely: 7.5, worst: 10 } })
    expect(details('4 h')).toEqual({ effort: 4 })
    expect(details('2,5 Stunden')).toEqual({ effort: 2.5 })
    expect(details('not before 12 May')).toEqual({ start: '2027-05-12' })
    expect(details('after Permit + 2 days')).toEqual({
      waits: [{ id: 'after-p1', on: 'p1', kind: 'FS', lag: 2, days: 'working' }],
    })
    expect(details('after permit, 3 days')).toMatchObject({ waits: [{ on: 'p1', lag: 0 }], duration: 3 })
  })
  it('that names no topic, runs backwards or isn’t a length stays text', () => {
    for (const text of ['after lunch', 'after Permit + soon', '8 to 3 days', '3 to 8 apples', '4 horses'])
      expect(readDetails(`Lift // ${text}`, known)).toMatchObject({ title: `Lift // ${text}`, details: {} })
  })
  it('is put as dependencies are', () => {
    expect(detailChanges('t', readDetails('Lift // after permit', known).details)).toEqual([
      {
        op: 'put',
        topic: 't',
        set: 'waits',
        member: { id: 'after-p1', on: 'p1', kind: 'FS', lag: 0, days: 'working' },
      },
    ])
  })
})
