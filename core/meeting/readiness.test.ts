import { describe, expect, it } from 'vitest'
import { findingsOf, type Planned, type PlannedItem, readinessOf } from './readiness'

const item = (part: Partial<PlannedItem> = {}): PlannedItem => ({
  id: 'i1',
  title: 'Two offers for the removal',
  intent: 'decide',
  minutes: 20,
  owner: 'oskar',
  serves: ['m1'],
  section: null,
  documents: [],
  reading: null,
  ...part,
})
const ready: Planned = {
  lead: 'ines',
  why: 'Decide who moves us.',
  mostMusts: 3,
  musts: [{ id: 'm1', text: 'Which removal firm' }],
  items: [item()],
  slot: 30,
  start: 'set',
  laidOut: true,
  people: [{ id: 'oskar', name: 'Oskar Malm', needed: true, invited: true, elsewhere: null }],
}
const kinds = (part: Partial<Planned>): string[] =>
  findingsOf({ ...ready, ...part }).map(({ kind, weight, who }) => `${kind} ${weight} ${who}`)

describe('a meeting', () => {
  it('that has all it needs is ready', () => {
    expect(findingsOf(ready)).toEqual([])
    expect(readinessOf(ready)).toBe(1)
  })
  it.each<[string, Partial<Planned>, string[]]>([
    ['without a why', { why: '  ' }, ['why-missing stop ines']],
    ['with a long why', { why: 'because '.repeat(40) }, ['why-long look ines']],
    ['without anything to settle', { musts: [] }, ['musts-missing stop ines']],
    [
      'with more things to settle than the tree’s setting, the fourth for a later meeting',
      { musts: ['m1', 'm2', 'm3', 'm4'].map(id => ({ id, text: id })), items: [item({ serves: ['m1', 'm2', 'm3'] })] },
      ['musts-many look ines'],
    ],
    [
      'with as many as a setting of four allows',
      {
        mostMusts: 4,
        musts: ['m1', 'm2', 'm3', 'm4'].map(id => ({ id, text: id })),
        items: [item({ serves: ['m1', 'm2', 'm3', 'm4'] })],
      },
      [],
    ],
    ['whose must nothing serves', { items: [item({ serves: [] })] }, ['must-unserved stop ines']],
    ['without items', { items: [] }, ['must-unserved stop ines', 'items-missing stop ines']],
    ['with an item of no minutes', { items: [item({ minutes: null })] }, ['item-minutes stop ines']],
    ['with an item of zero minutes', { items: [item({ minutes: 0 })] }, ['item-minutes stop ines']],
    ['with an item that nobody owns', { items: [item({ owner: null })] }, ['item-owner stop ines']],
    [
      'whose section isn’t filled in, which its owner mends',
      { items: [item({ section: { by: '2027-03-01', ready: false } })] },
      ['section-open look oskar'],
    ],
    [
      'whose document doesn’t open',
      { items: [item({ documents: [{ name: 'Offer.pdf', opens: false }] })] },
      ['document-closed stop oskar'],
    ],
    ['of which not all have read an item', { items: [item({ reading: { of: 4, read: 2 } })] }, ['unread look ines']],
    ['of which all have read an item', { items: [item({ reading: { of: 4, read: 4 } })] }, []],
    ['longer than its slot', { slot: 15 }, ['over-slot stop ines']],
    ['without a day', { start: 'none' }, ['start-missing stop ines']],
    ['at a time that daylight saving leaves out', { start: 'gap' }, ['start-gap stop ines']],
    ['whose items aren’t topics yet', { laidOut: false }, ['not-laid-out look ines']],
    ['that nobody is asked to', { people: [] }, ['nobody-needed stop ines']],
    [
      'whose people aren’t invited, or elsewhere',
      { people: [{ id: 'lev', name: 'Lev', needed: true, invited: false, elsewhere: 'Training' }] },
      ['not-invited stop ines', 'elsewhere stop ines'],
    ],
    [
      'of whom one who may stay away is elsewhere',
      { people: [...ready.people, { id: 'lev', name: 'Lev', needed: false, invited: true, elsewhere: 'Training' }] },
      ['elsewhere look ines'],
    ],
  ])('%s', (_, part, found) => {
    expect(kinds(part)).toEqual(found)
    expect(
      findingsOf({ ...ready, ...part }).every(
        ({ words, where }) => words.length > 10 && Object.keys(where).length === 1,
      ),
    ).toBe(true)
  })
  it('gets readier as things are mended', () => {
    const bare: Planned = { ...ready, why: '', items: [item({ minutes: null, owner: null, serves: [] })] }
    const better: Planned = { ...bare, why: 'Decide.' }
    expect(readinessOf(bare)).toBeLessThan(readinessOf(better))
    expect(readinessOf(better)).toBeLessThan(1)
  })
})
