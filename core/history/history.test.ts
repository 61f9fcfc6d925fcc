import { KEPT_WHY, keptInWords, MANY, worthKeeping } from './kept'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { differencesOf } from '../compare/differences'
import { movedAmong } from '../compare/moves'
import { noteFromMarkdown } from '../formats/note-text'
import {
  addAt,
  applyChanges,
  BLANK,
  type Change,
  emptyTree,
  type Figure,
  lastChild,
  noteBetween,
  type Tree,
} from '../tree'
import { happeningsOf, kindsOf } from './happenings'
import { byOthers, marksOf, marksOfDifferences, wordOf } from './marks'
import { sittingsOf, type Stitch } from './sittings'
import { inWords } from './words'

function plan(): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  for (const [id, parent, title] of [
    ['fit', 'c', 'Fit-out'],
    ['lift', 'fit', 'Lift'],
    ['ramp', 'fit', 'Ramp'],
    ['books', 'c', 'Books'],
  ] as const)
    applyChanges(tree, addAt(tree, lastChild(tree, parent), () => id, { title }).changes)
  return tree
}
const speaker = {
  nameOf: (id: string) => ({ oskar: 'Oskar Mølgaard' })[id] ?? 'Somebody',
  markerOf: (id: string) => ({ risk: 'Risk' })[id] ?? id,
  day: (iso: string) => `day ${iso}`,
  measureOf: (id: string) => ({ cost: 'Cost' })[id] ?? 'former figure',
  figure: (_: string, text: string) => (text.startsWith('=') ? 'a formula' : `${text} EUR`),
}
const figure = (text: string, more: Partial<Figure> = {}): Change => ({
  op: 'put',
  topic: 'lift',
  set: 'figures',
  member: { id: 'cost', measure: 'cost', whatIf: null, text, target: null, range: null, ...more },
})
const words = (changes: Change[]): string[] => happeningsOf(plan(), changes).map(told => inWords(told, speaker))

describe('what an edit did, in words', () => {
  it.each<[string, Change[], string[]]>([
    ['a branch moved', [{ op: 'place', topic: 'lift', parent: 'books', order: 'a1' }], ['moved “Lift” under “Books”']],
    ['its place', [{ op: 'place', topic: 'lift', parent: 'fit', order: 'a9' }], ['moved “Lift” among its siblings']],
    ['made loose', [{ op: 'place', topic: 'lift', parent: null, order: 'a9' }], ['let “Lift” stand alone']],
    [
      'a due date, set and cleared',
      [
        { op: 'set', topic: 'lift', field: 'due', value: '2027-05-12' },
        { op: 'set', topic: 'ramp', field: 'due', value: null },
      ],
      ['set the due date of “Lift” to day 2027-05-12', 'cleared the due date of “Ramp”'],
    ],
    ['progress', [{ op: 'set', topic: 'lift', field: 'done', value: 50 }], ['set the progress of “Lift” to 50 %']],
    [
      'a new title',
      [{ op: 'set', topic: 'lift', field: 'title', value: 'Lift, ordered' }],
      ['renamed “Lift” to “Lift, ordered”'],
    ],
    [
      'a new topic with what it was born with, by the title it has in the end',
      [
        { op: 'add', topic: 'x', parent: 'fit', order: 'a5', with: { title: 'Lamp' } },
        { op: 'set', topic: 'x', field: 'title', value: 'Lamps' },
        { op: 'set', topic: 'x', field: 'due', value: '2027-05-12' },
      ],
      ['added “Lamps” under “Fit-out”'],
    ],
    ['a branch that went', [{ op: 'remove', topic: 'fit' }], ['took away “Fit-out” with 2 below']],
    [
      'people and markers, by name',
      [
        { op: 'put', topic: 'lift', set: 'people', member: 'oskar' },
        { op: 'put', topic: 'lift', set: 'markers', member: 'risk' },
        { op: 'take', topic: 'lift', set: 'markers', member: 'risk' },
      ],
      ['gave “Lift” to Oskar Mølgaard', 'marked “Lift” Risk', 'took the marker Risk from “Lift”'],
    ],
    ['a figure given', [figure('4000')], ['set the Cost of “Lift” to 4000 EUR']],
    [
      'one under a what-if, and one of a measure that went',
      [figure('=2', { id: 'cost-dear', whatIf: 'dear' }), figure('3', { id: 'old', measure: 'old' })],
      ['set the Cost of “Lift” in a what-if to a formula', 'set the former figure of “Lift” to 3 EUR'],
    ],
    [
      'a turn that was done, and taken back',
      [
        { op: 'put', topic: 'lift', set: 'turns', member: { id: '2027-05-10', on: '2027-05-11', by: 'oskar' } },
        { op: 'set', topic: 'lift', field: 'due', value: '2027-05-17' },
      ],
      ['did “Lift” for day 2027-05-10', 'set the due date of “Lift” to day 2027-05-17'],
    ],
    ['folds and splits', [{ op: 'set', topic: 'fit', field: 'folded', value: true }], []],
    ['the tree’s own', [{ op: 'tree', field: 'arrangement', value: 'down' }], ['changed the tree’s arrangement']],
  ])('%s', (_, changes, said) => {
    expect(words(changes)).toEqual(said)
  })
  it('tells of a figure what it was before', () => {
    const tree = plan()
    const after = (change: Change): string[] => happeningsOf(tree, [change]).map(told => inWords(told, speaker))
    expect(after(figure('4000'))).toEqual(['set the Cost of “Lift” to 4000 EUR'])
    expect(after(figure('4228.95'))).toEqual(['changed the Cost of “Lift” from 4000 EUR to 4228.95 EUR'])
    expect(after(figure('4228.95', { target: '4000' }))).toEqual([
      'changed the target, range or years of the Cost of “Lift”',
    ])
    expect(after({ op: 'take', topic: 'lift', set: 'figures', member: 'cost' })).toEqual([
      'took away the Cost of “Lift”',
    ])
    expect(after({ op: 'take', topic: 'lift', set: 'figures', member: 'cost' })).toEqual([])
  })
  it('finds by the changes alone every kind that it tells', () => {
    const changes: Change[] = [
      { op: 'add', topic: 'x', parent: 'fit', order: 'a5' },
      { op: 'place', topic: 'lift', parent: 'books', order: 'a1' },
      { op: 'set', topic: 'lift', field: 'title', value: 'L' },
      { op: 'set', topic: 'lift', field: 'due', value: null },
      { op: 'set', topic: 'lift', field: 'hue', value: null },
      { op: 'put', topic: 'lift', set: 'people', member: 'oskar' },
      figure('4000'),
      { op: 'tree', field: 'arrangement', value: 'down' },
      { op: 'remove', topic: 'books' },
    ]
    const kinds = kindsOf(changes)
    for (const { kind } of happeningsOf(plan(), changes)) expect(kinds).toContain(kind)
  })
})

describe('marks', () => {
  it('of edits: until a number; new stays new, what went has none, and comes back as new', () => {
    const tree = plan()
    const edits = (
      [
        [{ op: 'add', topic: 'x', parent: 'fit', order: 'a8' }],
        [{ op: 'set', topic: 'x', field: 'due', value: '2027-05-12' }],
        [{ op: 'set', topic: 'lift', field: 'done', value: 100 }],
        [{ op: 'place', topic: 'ramp', parent: 'books', order: 'a1' }],
        [{ op: 'remove', topic: 'ramp' }],
        [{ op: 'restore', topic: 'ramp' }],
      ] as Change[][]
    ).map((changes, i) => ({ number: i + 1, happenings: happeningsOf(tree, changes) }))
    const at = (until: number) => Object.fromEntries(marksOf(edits, until))
    expect(at(4)).toEqual({ x: 'new', lift: 'done', ramp: 'moved' })
    expect(at(5)).toEqual({ x: 'new', lift: 'done' })
    expect(at(6)).toEqual({ x: 'new', lift: 'done', ramp: 'new' })
    expect(at(0)).toEqual({})
  })
  it('of differences: each with its word; what went leaves one on what it hung on', () => {
    const [before, after] = [plan(), plan()]
    applyChanges(after, [
      { op: 'set', topic: 'lift', field: 'done', value: 100 },
      { op: 'set', topic: 'fit', field: 'title', value: 'Fit-out of it all' },
      { op: 'place', topic: 'ramp', parent: 'books', order: 'a1' },
      { op: 'add', topic: 'x', parent: 'c', order: 'a9' },
      { op: 'remove', topic: 'x' },
      { op: 'add', topic: 'y', parent: 'c', order: 'a9' },
    ])
    expect(Object.fromEntries(marksOfDifferences(differencesOf(before, after), before, after))).toEqual({
      lift: 'done',
      fit: 'changed',
      ramp: 'moved',
      y: 'new',
    })
    const back = differencesOf(after, before)
    expect(back.map(one => wordOf(one, before))).toContain('went')
    expect(marksOfDifferences(back, after, before).get('c')).toBe('went below')
  })
  it('of others: what one did oneself is nothing new, but what went with a branch went with whoever took it', () => {
    const [before, after] = [plan(), plan()]
    applyChanges(after, [
      { op: 'set', topic: 'books', field: 'title', value: 'All books' },
      { op: 'add', topic: 'mine', parent: 'c', order: 'a9' },
      { op: 'remove', topic: 'fit' },
    ])
    const found = differencesOf(before, after)
    const ids = (touched: string[]) => byOthers(found, before, new Set(touched)).map(({ id }) => id)
    expect(ids([])).toEqual([])
    expect(ids(['books', 'fit', 'gone'])).toEqual(['books', 'fit', 'lift', 'ramp'])
    expect(ids(['lift'])).toEqual(['lift'])
  })
})

describe('sittings', () => {
  const minute = 60_000
  const stitches = (...list: [number, string][]): Stitch[] =>
    list.map(([at, by], i) => ({ number: i + 1, by, at: at * minute }))
  it('end with a pause, whoever worked', () => {
    expect(sittingsOf(stitches([0, 'ines'], [20, 'rana'], [45, 'ines'], [90, 'ines']))).toEqual([
      {
        from: 1,
        to: 3,
        began: 0,
        ended: 45 * minute,
        edits: 3,
        people: [
          { by: 'ines', edits: 2 },
          { by: 'rana', edits: 1 },
        ],
      },
      { from: 4, to: 4, began: 90 * minute, ended: 90 * minute, edits: 1, people: [{ by: 'ines', edits: 1 }] },
    ])
  })
  it('law: every edit is in one, in order, whatever the clocks said', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: -1e6, max: 1e6 }), fc.constantFrom('a', 'b'))), list => {
        const sittings = sittingsOf(stitches(...list))
        expect(sittings.reduce((sum, one) => sum + one.edits, 0)).toBe(list.length)
        let last = 0
        for (const { from, to, edits, people } of sittings) {
          expect(from).toBe(last + 1)
          expect(to - from + 1).toBe(edits)
          expect(people.reduce((sum, part) => sum + part.edits, 0)).toBe(edits)
          last = to
        }
      }),
    )
  })
  it('a clock that is years off ends none and begins none', () => {
    expect(sittingsOf(stitches([0, 'a'], [-5_000_000, 'b'], [1, 'a'])).map(({ edits }) => edits)).toEqual([3])
  })
})

describe('the siblings that were moved', () => {
  /** The fewest that must be lifted so that the rest is in its old order: every choice is tried. */
  function fewest(before: readonly number[], after: readonly number[]): number {
    const both = after.filter(one => before.includes(one))
    let best = both.length
    for (let choice = 0; choice < 1 << both.length; choice++) {
      const stay = both.filter((_, i) => choice & (1 << i))
      const rising = stay.every((one, i) => i === 0 || before.indexOf(stay[i - 1]!) < before.indexOf(one))
      if (rising) best = Math.min(best, both.length - stay.length)
    }
    return best
  }
  it('are as few as an exhaustive search finds, on small lists with some gone and some new', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 9 }), { maxLength: 8 }),
        fc.uniqueArray(fc.integer({ min: 0, max: 9 }), { maxLength: 8 }),
        (before, after) => {
          const moved = movedAmong(before, after)
          expect(moved.length).toBe(fewest(before, after))
          const stay = after.filter(one => before.includes(one) && !moved.includes(one))
          expect([...stay].sort((a, b) => before.indexOf(a) - before.indexOf(b))).toEqual(stay)
        },
      ),
      { numRuns: 2000 },
    )
  })
  it('one that went from the front to the back is one, not all the others', () => {
    expect(movedAmong(['a', 'b', 'c', 'd'], ['b', 'c', 'd', 'a'])).toEqual(['a'])
  })
})

it('tells the words of a note that went and came, with a little around them, over all of an edit', () => {
  const tree = plan()
  const typed = (before: string | null, text: string): string => noteBetween(before, noteFromMarkdown(text))!
  const long = `${'Shaft, doors and the counterweight were looked at on Monday. '.repeat(3)}It is`
  const first = happeningsOf(tree, [{ op: 'note', topic: 'lift', update: typed(null, `${long} too slow.`) }])
  expect(first[0]!.words).toEqual([{ kind: 'come', text: `${long} too slow.` }])
  const second = happeningsOf(tree, [
    { op: 'note', topic: 'lift', update: typed(tree.topics.get('lift')!.note, `${long} too slow, and loud.`) },
  ])
  expect(second[0]!.words).toEqual([
    { kind: 'same', text: '…d at on Monday. It is too slow' },
    { kind: 'come', text: ', and loud' },
    { kind: 'same', text: '.' },
  ])
})

describe('moments that are kept by themselves', () => {
  const add = (n: number): Change => ({ op: 'add', topic: `t${n}`, parent: 'c', order: 'a0' })
  const of = (changes: readonly Change[], source?: { readonly kind: string; readonly [more: string]: unknown }) =>
    worthKeeping({ number: 7, changes, source })
  const many = (make: (n: number) => Change): Change[] => Array.from({ length: MANY }, (_, n) => make(n))
  const stage = (to: 'running' | 'ended' | 'planned'): Change => ({
    op: 'put',
    topic: 'm',
    set: 'meeting',
    member: { id: 'stage', kind: 'stage', stage: to },
  })
  it('are those before something large, and around a meeting; most edits make none', () => {
    expect(of(many(add))).toEqual({ number: 6, why: 'brought-in', topic: null })
    expect(of(many(add).slice(1))).toBeNull()
    expect(of(many(n => ({ op: 'set', topic: `t${n}`, field: 'done', value: 100 })))?.why).toBe('mass')
    // Many changes of few topics, or of those that the same edit brings, are none.
    expect(of(many(() => ({ op: 'set', topic: 't', field: 'done', value: 50 })))).toBeNull()
    expect(
      of([add(1), ...many(() => ({ op: 'set' as const, topic: 't1', field: 'done' as const, value: 50 }))]),
    ).toBeNull()
    expect(of([stage('running')])).toEqual({ number: 6, why: 'meeting-begun', topic: 'm' })
    expect(of([stage('ended')])).toEqual({ number: 7, why: 'meeting-ended', topic: 'm' })
    expect(of([stage('planned')])).toBeNull()
    expect(of([add(1)], { kind: 'moment', number: 3, branch: null })?.why).toBe('returned')
    expect(of([add(1)], { kind: 'taken-back', number: 3 })).toBeNull()
  })
  it('have words', () => {
    for (const why of KEPT_WHY) expect(keptInWords({ why, name: '' }).length).toBeGreaterThan(5)
    expect(keptInWords({ why: 'named', name: 'Before the fire drill' })).toBe('Before the fire drill')
    expect(keptInWords({ why: 'meeting-begun', name: 'Coordination' })).toBe('Coordination, when the meeting began')
  })
})
