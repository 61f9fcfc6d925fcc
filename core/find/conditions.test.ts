import { Temporal } from 'temporal-polyfill'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { noteFromMarkdown } from '../formats/note-text'
import { type Baseline, datesOf } from '../schedule/baseline'
import { type Plan, planOf } from '../schedule/plan'
import { addAt, allTopics, applyChanges, BLANK, type Change, emptyTree, type Initial, type Tree } from '../tree'
import {
  type Condition,
  conditionInWords,
  countConditions,
  type Names,
  type Query,
  queryInWords,
  querySchema,
} from './conditions'
import { type Circumstances, compile } from './evaluate'
import { planTest } from './plan-test'
import { readingOrder, search } from './search'

const TODAY = '2027-03-10'
const HASH = 'a'.repeat(64)

function grow(...topics: [id: string, parent: string | null, given?: Initial][]): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  for (const [id, parent, given] of topics)
    applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id, { title: id, ...given }).changes)
  return tree
}

const tree = grow(
  ['plan', 'c'],
  [
    'shelves',
    'plan',
    {
      due: '2027-03-09',
      people: ['ines'],
      markers: ['risk'],
      done: 50,
      priority: 1,
      links: [{ id: 'l', url: 'https://joiner.example/oak', title: '' }],
    },
  ],
  ['crates', 'plan', { due: '2027-03-12', people: ['tomas'], done: 100, start: '2027-03-01' }],
  [
    'lamps',
    'plan',
    {
      due: '2027-03-25',
      done: 0,
      checks: [{ id: 'k', order: 'a0', text: 'Measure the loft', done: false, due: null, priority: null }],
      votes: [
        {
          id: 'v',
          question: 'Warm light?',
          kind: 'yes-no',
          secret: false,
          choices: ['Yes', 'No'],
          counts: [2, 0],
          pairs: null,
          voters: ['ines', 'rana'],
          casts: [
            [1, 0],
            [1, 0],
          ],
          by: 'ines',
          at: 0,
        },
      ],
    },
  ],
  [
    'oak',
    'shelves',
    {
      note: noteFromMarkdown('The **Réading** room comes first'),
      files: [{ id: 'f', file: HASH, name: 'quote.pdf', type: 'application/pdf', size: 3, preview: null }],
    },
  ],
  ['late but done', 'plan', { due: '2027-01-01', done: 100 }],
  ['shown', 'c', { reference: { tree: null, topic: 'oak' } }],
  ['paged', 'c', { annex: true, place: { name: 'Tannery', lat: null, lon: null } }],
  ['loose', null, { ties: [{ id: 't', to: 'oak', label: 'needs', ends: 'to', bend: null, hue: null }] }],
)
const changes = new Map([
  [
    'oak',
    [
      { user: 'ines', at: '2027-03-08T09:00:00.000Z' },
      { user: 'tomas', at: '2027-02-01T09:00:00.000Z' },
    ],
  ],
  ['crates', [{ user: 'tomas', at: '2027-03-10T07:00:00.000Z' }]],
])
const circumstances = {
  me: 'ines',
  today: TODAY,
  changesOf: (id: string) => changes.get(id) ?? [],
  talkOf: () => null,
  dayOf: (instant: string) => instant.slice(0, 10),
}
const found = (query: Query): string[] =>
  readingOrder(tree)
    .filter(compile(query, tree, circumstances))
    .map(topic => topic.id)

describe('conditions', () => {
  it('“changed today” is the person’s day, not the day in Greenwich', () => {
    // 23:30 UTC on the 9th is the 10th in Copenhagen and still the 9th in New York.
    const at = '2027-03-09T23:30:00.000Z'
    const there = (zone: string) => ({
      ...circumstances,
      today: '2027-03-10',
      changesOf: (id: string) => (id === 'oak' ? [{ user: 'ines', at }] : []),
      dayOf: (instant: string) => Temporal.Instant.from(instant).toZonedDateTimeISO(zone).toPlainDate().toString(),
    })
    const changed: Query = { about: 'changed', days: 0 }
    expect(
      readingOrder(tree)
        .filter(compile(changed, tree, there('Europe/Copenhagen')))
        .map(topic => topic.id),
    ).toEqual(['oak'])
    expect(readingOrder(tree).filter(compile(changed, tree, there('America/New_York')))).toEqual([])
  })

  it.each<[Condition, string[]]>([
    [{ about: 'text', words: 'OAK', where: 'title' }, ['oak']],
    [{ about: 'text', words: 'oak joiner', where: 'anywhere' }, ['shelves']],
    [{ about: 'text', words: 'reading', where: 'note' }, ['oak']],
    [{ about: 'text', words: 'quote', where: 'anywhere' }, ['oak']],
    [{ about: 'text', words: 'measure', where: 'anywhere' }, ['lamps']],
    [{ about: 'marker', marker: 'risk' }, ['shelves']],
    [{ about: 'person', person: 'me' }, ['shelves']],
    [{ about: 'person', person: 'tomas' }, ['crates']],
    [{ about: 'person', person: 'somebody' }, ['shelves', 'crates']],
    [{ about: 'due', is: 'late' }, ['shelves']],
    [{ about: 'due', is: 'within', days: 2 }, ['crates']],
    [{ about: 'due', is: 'within', days: 15 }, ['crates', 'lamps']],
    [{ about: 'due', is: 'before', day: '2027-03-09' }, ['late but done']],
    [{ about: 'due', is: 'after', day: '2027-03-12' }, ['lamps']],
    [{ about: 'due', is: 'on', day: '2027-03-12' }, ['crates']],
    [{ about: 'due', is: 'some' }, ['shelves', 'crates', 'lamps', 'late but done']],
    [{ about: 'state', is: 'open' }, ['shelves', 'lamps']],
    [{ about: 'state', is: 'not-begun' }, ['lamps']],
    [{ about: 'state', is: 'under-way' }, ['shelves']],
    [{ about: 'state', is: 'done' }, ['crates', 'late but done']],
    [{ about: 'done', least: 50, most: 99 }, ['shelves']],
    [{ about: 'priority', most: 2 }, ['shelves']],
    [{ about: 'depth', least: 3, most: 400 }, ['oak']],
    [{ about: 'depth', least: 0, most: 1 }, ['c', 'plan', 'shown', 'paged', 'loose']],
    [{ about: 'kind', is: 'task' }, ['shelves', 'crates', 'lamps', 'late but done']],
    [{ about: 'kind', is: 'reference' }, ['shown']],
    [{ about: 'kind', is: 'annex' }, ['paged']],
    [{ about: 'kind', is: 'loose' }, ['loose']],
    [{ about: 'kind', is: 'parent' }, ['c', 'plan', 'shelves']],
    [{ about: 'changed', since: '2027-03-08' }, ['oak', 'crates']],
    [{ about: 'changed', days: 0 }, ['crates']],
    [{ about: 'changed', days: 3, by: 'me' }, ['oak']],
    [{ about: 'changed', since: '2027-03-01', by: 'tomas' }, ['crates']],
    [{ about: 'changed', by: 'tomas' }, ['oak', 'crates']],
    [{ about: 'has', what: 'note' }, ['oak']],
    [{ about: 'has', what: 'vote' }, ['lamps']],
    [{ about: 'has', what: 'link' }, ['shelves']],
    [{ about: 'has', what: 'file' }, ['oak']],
    [{ about: 'has', what: 'checklist' }, ['lamps']],
    [{ about: 'has', what: 'place' }, ['paged']],
    [{ about: 'has', what: 'cross-link' }, ['loose']],
  ])('%j', (condition, ids) => {
    expect(found(condition)).toEqual(ids)
    const all = readingOrder(tree).map(topic => topic.id)
    expect(found({ ...condition, not: true })).toEqual(all.filter(id => !ids.includes(id)))
    expect(querySchema.safeParse(condition).success).toBe(true)
  })

  it('join by and, by or, inside each other, and turned round; an empty group asks for nothing', () => {
    const mine: Condition = { about: 'person', person: 'me' }
    const late: Condition = { about: 'due', is: 'late' }
    const done: Condition = { about: 'state', is: 'done' }
    expect(found({ join: 'all', of: [mine, late] })).toEqual(['shelves'])
    expect(found({ join: 'any', of: [mine, done] })).toEqual(['shelves', 'crates', 'late but done'])
    expect(
      found({
        join: 'all',
        of: [
          { about: 'due', is: 'some' },
          { join: 'any', not: true, of: [mine, done] },
        ],
      }),
    ).toEqual(['lamps'])
    expect(found({ join: 'any', of: [] })).toHaveLength(10)
  })

  const condition = fc.oneof(
    fc.record({ about: fc.constant('done' as const), least: fc.nat(60), most: fc.integer({ min: 40, max: 100 }) }),
    fc.record({
      about: fc.constant('kind' as const),
      is: fc.constantFrom('task' as const, 'leaf' as const, 'loose' as const),
    }),
    fc.record({ about: fc.constant('due' as const), is: fc.constantFrom('late' as const, 'some' as const) }),
  )
  const query = fc.letrec<{ query: Query }>(tie => ({
    query: fc.oneof(
      { maxDepth: 3 },
      condition as fc.Arbitrary<Query>,
      fc.record({
        join: fc.constantFrom('all' as const, 'any' as const),
        of: fc.array(tie('query'), { minLength: 1, maxLength: 3 }),
        not: fc.boolean(),
      }),
    ),
  })).query
  it('De Morgan: not (a and b) is (not a) or (not b), for any filters', () => {
    const turn = (one: Query): Query => ({ ...one, not: !one.not }) as Query
    fc.assert(
      fc.property(query, query, (a, b) => {
        expect(found({ join: 'all', not: true, of: [a, b] })).toEqual(found({ join: 'any', of: [turn(a), turn(b)] }))
      }),
    )
  })

  it('words and filter are asked together, and the path to each match stays', () => {
    const { matches, lit } = search(
      tree,
      { text: 'la', marker: null },
      undefined,
      compile({ about: 'state', is: 'open' }, tree, circumstances),
    )
    expect(matches).toEqual(['lamps'])
    expect([...lit].sort()).toEqual(['c', 'lamps', 'plan'])
  })
})

describe('a filter as a sentence', () => {
  const names: Names = { marker: id => (id === 'risk' ? 'Risk' : id), person: () => 'Ines Bauer' }
  it.each<[Condition, string]>([
    [{ about: 'due', is: 'within', days: 7 }, 'due within 7 days'],
    [{ about: 'due', is: 'before', day: '2027-05-12', not: true }, 'not due before 12 May 2027'],
    [{ about: 'marker', marker: 'risk' }, 'marked Risk'],
    [{ about: 'person', person: 'me' }, 'mine'],
    [{ about: 'person', person: 'u1' }, 'of Ines Bauer'],
    [{ about: 'depth', least: 0, most: 3 }, 'to depth 3'],
    [{ about: 'changed', days: 7, by: 'u1' }, 'changed in the last 7 days by Ines Bauer'],
    [{ about: 'text', words: 'oak', where: 'note' }, 'with “oak” in the note'],
  ])('%j', (condition, words) => expect(conditionInWords(condition, names)).toBe(words))
  it('with and, or, not and brackets', () => {
    const query: Query = {
      join: 'all',
      of: [
        { about: 'person', person: 'me' },
        {
          join: 'any',
          of: [
            { about: 'due', is: 'late' },
            { about: 'marker', marker: 'risk' },
          ],
        },
      ],
    }
    expect(queryInWords(query, names)).toBe('mine and (late or marked Risk)')
    expect(queryInWords({ ...query, not: true }, names)).toBe('not (mine and (late or marked Risk))')
    expect(countConditions(query)).toBe(3)
  })
  it('refuses what is no filter, nests without end, or has too many conditions', () => {
    let deep: Query = { about: 'due', is: 'late' }
    for (let i = 0; i < 20; i++) deep = { join: 'all', of: [deep] }
    const many: Query = {
      join: 'any',
      of: Array.from({ length: 9 }, (): Query => ({
        join: 'all',
        of: Array.from({ length: 9 }, (): Query => ({ about: 'due', is: 'late' })),
      })),
    }
    for (const bad of [deep, many, { about: 'due', is: 'sometime' }, { about: 'done', least: -1, most: 5 }, {}, null])
      expect(querySchema.safeParse(bad).success).toBe(false)
  })
})

describe('what is computed in the plan', () => {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  const grow = (id: string, given: Initial): void =>
    void applyChanges(tree, addAt(tree, { parent: 'c', index: Infinity }, () => id, { title: id, ...given }).changes)
  const after = (on: string): Initial => ({ waits: [{ id: 'w', on, kind: 'FS', lag: 0, days: 'working' }] })
  grow('long', { duration: 9 })
  grow('last', { duration: 1, due: '2027-01-12', ...after('long') })
  grow('short', { duration: 6 })
  grow('done', { duration: 2, done: 100 })
  grow('words', {})
  let agreed: Circumstances['agreed']
  const found = (query: Query): string[] => {
    const test = compile(query, tree, {
      me: 'ines',
      today: '2027-01-11',
      ...(agreed ? { agreed } : {}),
      planTest,
      talkOf: () => null,
      dayOf: () => '2027-01-11',
    })
    return [...allTopics(tree)].filter(test).map(({ id }) => id)
  }
  it('is nothing without a plan', () => {
    expect(found({ about: 'plan', is: 'critical' })).toEqual([])
  })
  it('is found and said', () => {
    applyChanges(tree, [{ op: 'tree', field: 'planFrom', value: '2027-01-11' }])
    expect(found({ about: 'plan', is: 'critical' })).toEqual(['long', 'last'])
    expect(found({ about: 'plan', is: 'tight', days: 5 })).toEqual(['long', 'last', 'short'])
    expect(found({ about: 'plan', is: 'tight', days: 4 })).toEqual(['long', 'last'])
    expect(found({ about: 'plan', is: 'late' })).toEqual(['last'])
    expect(found({ about: 'plan', is: 'waits' })).toEqual(['last'])
    expect(found({ about: 'plan', is: 'ready' })).toEqual(['long', 'short'])
    expect(found({ about: 'plan', is: 'critical', not: true })).toContain('words')
    const names = { marker: (id: string) => id, person: (id: string) => id }
    expect(
      (['critical', 'late', 'waits', 'ready'] as const).map(is => conditionInWords({ about: 'plan', is }, names)),
    ).toEqual(['that must not slip', 'planned to end late', 'that can’t begin yet', 'that can begin now'])
    expect(conditionInWords({ about: 'plan', is: 'tight', days: 3 }, names)).toBe('with float under 3 d')
    // Held against the newest baseline, where it's known.
    expect(found({ about: 'plan', is: 'slipped' })).toEqual([])
    const plan = planOf(tree, '2027-01-11') as Plan
    const { long, short } = datesOf(plan)
    const then: Baseline['tasks'] = { long: { ...long!, finish: '2027-01-12' }, short: short! }
    agreed = id => then[id] ?? null
    expect(found({ about: 'plan', is: 'slipped' })).toEqual(['long'])
    expect(found({ about: 'plan', is: 'agreed' })).toEqual(['long', 'short'])
    expect(
      found({
        join: 'all',
        of: [
          { about: 'state', is: 'open' },
          { about: 'plan', is: 'agreed', not: true },
        ],
      }),
    ).toEqual(['last'])
    agreed = undefined
    // Nobody has more than a week holds, until somebody has two whole tasks in one.
    expect(found({ about: 'plan', is: 'overloaded' })).toEqual([])
    applyChanges(tree, [
      { op: 'put', topic: 'long', set: 'people', member: 'ines' },
      { op: 'put', topic: 'short', set: 'people', member: 'ines' },
      { op: 'put', topic: 'last', set: 'people', member: 'ines' },
    ])
    expect(found({ about: 'plan', is: 'overloaded' })).toEqual(['long', 'last', 'short'])
    // Nine days and the one after them fill two weeks to the brim.
    applyChanges(tree, [{ op: 'take', topic: 'short', set: 'people', member: 'ines' }])
    expect(found({ about: 'plan', is: 'overloaded' })).toEqual([])
    expect(conditionInWords({ about: 'plan', is: 'overloaded' }, names)).toContain('too much')
  })
})

describe('what stands alone', () => {
  const tie = (to: string) => [{ id: `t${to}`, to, label: '', ends: 'to' as const, bend: null, hue: null }]
  const alone = grow(
    ['rooms', 'c', { markers: ['risk', 'idea'] }],
    ['lift', 'rooms', { markers: ['risk'], ties: tie('books') }],
    ['books', 'c'],
    ['lamps', 'c', { markers: ['question'], ties: tie('gone') }],
    ['gone', 'c', { markers: ['risk'] }],
  )
  applyChanges(alone, [{ op: 'remove', topic: 'gone' }])
  const found = (is: 'untied' | 'lone-marker' | 'unopened', isOpened?: (file: string) => boolean): string[] => {
    const fits = compile({ about: 'kind', is }, alone, {
      ...circumstances,
      talkOf: () => null,
      ...(isOpened ? { isOpened } : {}),
    })
    return [...allTopics(alone)].filter(fits).map(({ id }) => id)
  }
  it('is without a cross-link, whichever way, and one whose other end is gone is none', () => {
    expect(found('untied')).toEqual(['c', 'rooms', 'lamps'])
    expect(conditionInWords({ about: 'kind', is: 'untied' }, { marker: String, person: String })).toBe(
      'with no cross-link from or to it',
    )
  })
  it('has a marker that nothing else has', () => {
    expect(found('lone-marker')).toEqual(['rooms', 'lamps'])
    applyChanges(alone, [{ op: 'put', topic: 'books', set: 'markers', member: 'idea' }])
    expect(found('lone-marker')).toEqual(['lamps'])
  })
  it('has a file that nobody has opened, where that is known', () => {
    const file = (id: string, hash: string): Change => ({
      op: 'put',
      topic: id,
      set: 'files',
      member: { id: hash, name: `${hash}.pdf`, file: hash.repeat(64), size: 1, type: 'application/pdf', preview: null },
    })
    applyChanges(alone, [file('lift', 'a'), file('books', 'a'), file('books', 'b')])
    expect(found('unopened')).toEqual([])
    expect(found('unopened', () => false)).toEqual(['lift', 'books'])
    expect(found('unopened', one => one === 'a'.repeat(64))).toEqual(['books'])
    expect(found('unopened', () => true)).toEqual([])
  })
})
