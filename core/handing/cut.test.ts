import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChanges, type Change, emptyTree, fromSnapshot, newTopic, toSnapshot, type Tree } from '../tree'
import { allTopics } from '../tree/walk'
import { type Choice, choiceSchema, KIND_NAMES, KINDS, TAKEN } from './choice'
import { cutOut, NothingThere } from './cut'
import { everyTopic, handedOf } from './handed'

const choice = (more: Partial<Choice> = {}): Choice => choiceSchema.parse({ as: 'docx', ...more })

/** Everything that a topic can carry, each with a word by which it's found again. */
const FULL: Change['op'] extends string ? Extract<Change, { op: 'add' }>['with'] : never = {
  title: 'Lift',
  people: ['person-of-lift'],
  due: '2027-05-12',
  markers: ['decision'],
  links: [{ id: 'l', url: 'https://lift.example/', title: 'link-of-lift' }],
  files: [{ id: 'f', file: 'f'.repeat(64), name: 'file-of-lift.pdf', type: 'application/pdf', size: 3, preview: null }],
  picture: { file: 'e'.repeat(64), width: 120, ratio: 1, place: 'above' },
  checks: [{ id: 'k', order: 'a0', text: 'check-of-lift', done: false, due: null, priority: null }],
  ties: [{ id: 't', to: 'books', label: 'tie-of-lift', ends: 'to', bend: null, hue: null }],
}

function plan(): Tree {
  const tree = emptyTree({ ...newTopic('centre', null, 'a0'), title: 'Move' })
  const add = (topic: string, parent: string, order: string, more: object = { title: topic }): Change => ({
    op: 'add',
    topic,
    parent,
    order,
    with: more,
  })
  applyChanges(tree, [
    add('fitout', 'centre', 'a0', { title: 'Fit-out', hue: '3' }),
    add('books', 'centre', 'a1', { title: 'Books' }),
    add('lift', 'fitout', 'a0', FULL as object),
    add('bolts', 'lift', 'a0', { title: 'Bolts' }),
    add('lamps', 'fitout', 'a1', { title: 'Lamps' }),
    add('gone', 'fitout', 'a2', { title: 'Secret' }),
    { op: 'remove', topic: 'gone' },
    { op: 'add', topic: 'loose', parent: null, order: 'a0', with: { title: 'Loose' } },
    { op: 'set', topic: 'books', field: 'reference', value: { tree: null, topic: 'lamps' } },
  ])
  return tree
}
const titles = (tree: Tree): string[] => [...allTopics(tree)].map(({ title }) => title)

describe('a cut', () => {
  it('shows what a filter found, wherever it stands: a whole keeps what is folded and behind a door as it is', () => {
    const tree = plan()
    applyChanges(tree, [
      { op: 'set', topic: 'fitout', field: 'folded', value: true },
      { op: 'set', topic: 'lift', field: 'annex', value: true },
    ])
    const shown = (cut: Tree): unknown[] =>
      ['fitout', 'lift'].map(id => [cut.topics.get(id)!.folded, cut.topics.get(id)!.annex])
    expect(shown(cutOut(tree, choice()).tree)).toEqual([
      [true, false],
      [false, true],
    ])
    expect(shown(cutOut(tree, choice({ part: { kind: 'topics', topics: ['bolts'], way: true } })).tree)).toEqual([
      [false, false],
      [false, false],
    ])
  })
  it('is the whole, a branch, picked topics, or the way to some, by itself', () => {
    const tree = plan()
    expect(titles(cutOut(tree, choice()).tree)).toEqual(['Move', 'Fit-out', 'Lift', 'Bolts', 'Lamps', 'Lamps', 'Loose'])
    const branch = cutOut(tree, choice({ part: { kind: 'branch', topic: 'fitout' } }))
    expect(titles(branch.tree)).toEqual(['Fit-out', 'Lift', 'Bolts', 'Lamps'])
    expect(branch.tree.centre).toBe('fitout')
    // What somebody says aloud is what the document says: numbers are the whole tree's.
    expect(branch.numbers.get('bolts')).toBe('1.1.1')
    expect(
      titles(cutOut(tree, choice({ part: { kind: 'topics', topics: ['lamps', 'bolts', 'lift'], way: false } })).tree),
    ).toEqual(['Move', 'Lift', 'Bolts', 'Lamps'])
    expect(titles(cutOut(tree, choice({ part: { kind: 'topics', topics: ['bolts'], way: true } })).tree)).toEqual([
      'Move',
      'Fit-out',
      'Lift',
      'Bolts',
    ])
    const shallow = cutOut(tree, choice({ depth: 1 }))
    expect(titles(shallow.tree)).toEqual(['Move', 'Fit-out', 'Lamps', 'Loose'])
    expect(shallow.deeper).toBe(3)
  })

  it('holds nothing of what stands elsewhere, was removed, or wasn’t chosen', () => {
    const tree = plan()
    const all = JSON.stringify(
      toSnapshot(cutOut(tree, choice({ part: { kind: 'branch', topic: 'lift' }, with: [...TAKEN] })).tree),
    )
    expect(all).not.toContain('Secret')
    expect(all).not.toContain('tie-of-lift')
    const bare = JSON.stringify(toSnapshot(cutOut(tree, choice({ with: [] })).tree))
    for (const word of [
      'person-of-lift',
      'link-of-lift',
      'file-of-lift',
      'check-of-lift',
      'tie-of-lift',
      'decision',
      '2027-05-12',
      'eeee',
    ])
      expect(bare).not.toContain(word)
  })

  it('law: a kind takes what it holds and what was chosen, no more', () => {
    const words = {
      tasks: 'person-of-lift',
      markers: 'decision',
      links: 'link-of-lift',
      files: 'file-of-lift',
      pictures: 'eeee',
      'cross-links': 'tie-of-lift',
    } as const
    fc.assert(
      fc.property(fc.constantFrom(...KIND_NAMES), fc.subarray([...TAKEN]), (as, wanted) => {
        const text = JSON.stringify(toSnapshot(cutOut(plan(), choice({ as, with: wanted })).tree))
        const holds: readonly string[] = KINDS[as].holds
        for (const [what, word] of Object.entries(words))
          expect(text.includes(word)).toBe(holds.includes(what) && (wanted as string[]).includes(what))
      }),
    )
  })

  it('says what was removed since, and what a filter left nothing of', () => {
    const tree = plan()
    const fails = (more: Partial<Choice>): void =>
      expect(() =>
        cutOut(tree, choice(more), {
          me: 'ines',
          today: '2027-01-01',
          changesOf: () => [],
          talkOf: () => null,
          dayOf: () => '',
        }),
      ).toThrow(NothingThere)
    fails({ part: { kind: 'branch', topic: 'gone' } })
    fails({ part: { kind: 'topics', topics: ['gone', 'never'], way: false } })
    fails({ part: { kind: 'filter', query: { about: 'marker', marker: 'risk' } } })
    const found = cutOut(tree, choice({ part: { kind: 'filter', query: { about: 'marker', marker: 'decision' } } }), {
      me: 'ines',
      today: '2027-01-01',
      changesOf: () => [],
      talkOf: () => null,
      dayOf: () => '',
    })
    expect(titles(found.tree)).toEqual(['Move', 'Fit-out', 'Lift'])
  })

  it('stands by itself: it’s read back as it is, and the tree it was cut from is as it was', () => {
    const tree = plan()
    const before = JSON.stringify(toSnapshot(tree))
    const { tree: cut } = cutOut(tree, choice({ part: { kind: 'branch', topic: 'fitout' } }))
    expect(toSnapshot(fromSnapshot(toSnapshot(cut)))).toEqual(toSnapshot(cut))
    expect(JSON.stringify(toSnapshot(tree))).toBe(before)
    // Its branches keep the colour they had among the others.
    expect(cut.topics.get('lift')!.hue).toBe('3')
  })
})

describe('what is handed out', () => {
  it('tells everything once, in reading order, with names; both ends of a cross-link hear of the other', () => {
    const tree = plan()
    const handed = handedOf(
      cutOut(tree, choice({ with: [...TAKEN] })),
      choice({ with: [...TAKEN] }),
      id => `Name of ${id}`,
      [
        {
          id: 'th',
          place: { on: 'topic', topic: 'lift' },
          settled: false,
          comments: [
            {
              id: 'c1',
              by: 'rana',
              at: '2027-01-01T10:00:00.000Z',
              body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Too dear' }] }] },
              became: null,
            },
          ],
        },
      ],
    )
    expect([...everyTopic(handed.root)].map(({ title }) => title)).toEqual([
      'Move',
      'Fit-out',
      'Lift',
      'Bolts',
      'Lamps',
      'Lamps',
      'Loose',
    ])
    const lift = [...everyTopic(handed.root)].find(({ id }) => id === 'lift')!
    expect(lift).toMatchObject({
      number: '1.1',
      task: { people: ['Name of person-of-lift'], due: '2027-05-12' },
      markers: ['Decision'],
      comments: [{ by: 'Name of rana', text: 'Too dear' }],
      ties: [{ label: 'tie-of-lift', to: 'books', number: '2' }],
    })
    expect([...everyTopic(handed.root)].find(({ id }) => id === 'books')!.ties).toMatchObject([
      { to: 'lift', number: '1.1' },
    ])
    expect(handed.key).toEqual([{ id: 'decision', name: 'Decision' }])
  })
})
