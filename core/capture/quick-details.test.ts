import { describe, expect, it } from 'vitest'
import { MARKERS } from '../tree'
import { readDay, readDetails, readItems } from './quick-details'

const known = { people: [{ id: 'u1', name: 'Ines Brandt' }, { id: 'u2', name: 'Oskar Moreau' }, { id: 'u3', name: 'Ida Brook' }], markers: MARKERS, today: '2027-03-03' }

describe('quick details', () => {
  it('reads people, dates, lengths, done, priority and markers, and leaves the rest as text', () => {
    expect(readDetails('Order shelving // Ines, due 12 May, 3 days, 40%, risk, p2, oak', known)).toMatchObject({
      title: 'Order shelving // oak',
      details: { people: ['u1'], due: '2027-05-12', duration: 3, done: 40, markers: ['at-risk'], priority: 2 },
    })
    expect(readDetails('Sort // OM, start mon, in 2 weeks', known).details).toEqual({ people: ['u2'], start: '2027-03-08', due: '2027-03-17' })
  })
  it('leaves addresses, ambiguous initials and ordinary words alone', () => {
    expect(readDetails('See https://tannery.example/ tomorrow', known)).toEqual({ title: 'See https://tannery.example/ tomorrow', details: {}, chips: [] })
    expect(readDetails('Ring // IB', known).details).toEqual({})
    expect(readDetails('Shop // buy 2 sat navs', known)).toMatchObject({ title: 'Shop // buy 2 sat navs', details: {} })
  })
  // 3 March 2027 is a Wednesday (ISO 8601 week 9).
  it.each([['fri', '2027-03-05'], ['15 Dec', '2027-12-15'], ['Dec 15', '2027-12-15'], ['tomorrow', '2027-03-04'], ['in 3 days', '2027-03-06'], ['2 days ago', '2027-03-01'], ['2027-05-12', '2027-05-12'], ['someday', null], ['may', null]])('%s', (phrase, day) => {
    expect(readDay(phrase, '2027-03-03')).toBe(day)
  })
})

it('items are read all the way down, and keep what they carried', () => {
  expect(readItems([{ title: 'Lift // Ines', details: { done: 20, hue: '3' }, children: [{ title: 'Shaft // 40%', children: [{ title: 'plain', children: [] }] }] }], known)).toEqual([
    { title: 'Lift', details: { done: 20, hue: '3', people: ['u1'] }, children: [{ title: 'Shaft', details: { done: 40 }, children: [{ title: 'plain', children: [] }] }] },
  ])
})
