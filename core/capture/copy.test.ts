import { describe, expect, it } from 'vitest'
import { filesShown } from '../formats/files-shown'
import {
  addAt,
  allTopics,
  applyChanges,
  BLANK,
  type BriefPart,
  type Change,
  childrenOf,
  emptyTree,
  type ItemPart,
  plainNote,
  topicOf,
  toOutline,
  toSnapshot,
  type Tree,
} from '../tree'
import { BARE, carriedBy, type CopyChoice, copyItems, copyTree, WHOLE } from './copy'

function grow(): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  applyChanges(
    tree,
    addAt(tree, { parent: 'c', index: 0 }, () => 'A', {
      title: 'A',
      start: '2027-02-27',
      due: '2027-03-01',
      duration: 3,
      done: 40,
      people: ['u1'],
      markers: ['idea'],
      note: 'AAA=',
      hue: '3',
    }).changes,
  )
  applyChanges(tree, addAt(tree, { parent: 'A', index: 0 }, () => 'A1', { title: 'A1', due: '2028-02-28' }).changes)
  applyChanges(tree, addAt(tree, { parent: null, index: 0 }, () => 'L', { title: 'L', x: 5, y: 6 }).changes)
  applyChanges(tree, addAt(tree, { parent: 'c', index: 0 }, () => 'gone', { title: 'gone' }).changes)
  applyChanges(tree, [
    { op: 'remove', topic: 'gone' },
    { op: 'tree', field: 'look', value: 'ledger' },
  ])
  return tree
}

it('a branch is copied with what was asked for, and dates moved across months and leap days', () => {
  const tree = grow()
  const items = [toOutline(tree, 'A')]
  expect(copyItems(items, WHOLE)).toEqual(items)
  expect(copyItems(items, { ...BARE, dates: true, shift: 2 })).toEqual([
    {
      title: 'A',
      details: { start: '2027-03-01', due: '2027-03-03', duration: 3, markers: ['idea'], hue: '3' },
      children: [{ title: 'A1', details: { due: '2028-03-01' }, children: [] }],
    },
  ])
  expect(copyItems(items, { ...WHOLE, dates: false })[0]!.details).not.toHaveProperty('due')
})

it('a tree is copied whole, loose topics and look too, without its trash; the first one stays as it was', () => {
  const tree = grow()
  const before = JSON.stringify(toSnapshot(tree))
  const copy = copyTree(tree, { ...WHOLE, people: false, shift: -1 })
  expect([...copy.topics.keys()].sort()).toEqual(['A', 'A1', 'L', 'c'])
  expect(childrenOf(copy, null)).toEqual(['L'])
  expect(topicOf(copy, 'A')).toMatchObject({ due: '2027-02-28', people: [], done: 40 })
  expect(copy.fields.look).toBe('ledger')
  expect(JSON.stringify(toSnapshot(tree))).toBe(before)
})

it('a meeting that is copied was sent to nobody; without progress it’s a plan, without people nobody is asked or named, and its days move', () => {
  const tree = grow()
  const parts: BriefPart[] = [
    { id: 'why', kind: 'why', text: 'So that' },
    { id: 'begins', kind: 'begins', day: '2027-02-26', time: '14:00', zone: 'UTC' },
    { id: 'rule', kind: 'rule', rule: 'FREQ=WEEKLY;BYDAY=TU', closed: ['2027-02-28'] },
    { id: 'stage', kind: 'stage', stage: 'ended' },
    { id: 'run', kind: 'run', step: 2, current: null, since: null, began: 1, ended: 2, version: 1, by: 'u1' },
    { id: 'p', kind: 'person', user: 'u1', mail: null, name: '', needed: true, role: null },
    { id: 'a', kind: 'answer', of: 'p', answer: 'accepted', comment: '', at: 1 },
    { id: 'c', kind: 'attendance', of: 'p', came: true },
    { id: 'invitation', kind: 'invitation', uid: 'u', sequence: 3, at: 1, by: 'u1', to: [], digest: 'd' },
    {
      id: 'l',
      kind: 'line',
      order: 'a0',
      title: 'Later',
      intent: 'inform',
      minutes: 5,
      floor: null,
      owner: 'u1',
      serves: [],
      pattern: [],
    },
  ]
  const item: ItemPart[] = [
    { id: 'minutes', kind: 'minutes', minutes: 20 },
    { id: 'asked', kind: 'asked', by: '2027-02-25', of: 'u1', at: 1 },
    { id: 'ready', kind: 'ready', at: 1, by: 'u1' },
    { id: 'spent', kind: 'spent', ms: 5 },
    { id: 'cut', kind: 'cut', minutes: 10 },
  ]
  applyChanges(tree, [
    ...parts.map((member): Change => ({ op: 'put', topic: 'A', set: 'meeting', member })),
    ...item.map((member): Change => ({ op: 'put', topic: 'A1', set: 'item', member })),
    { op: 'set', topic: 'A1', field: 'entry', value: { kind: 'decision', by: 'u1', name: 'Ines', at: 1 } },
  ])
  const kinds = (copy: Tree): string[] => topicOf(copy, 'A').meeting.map(({ kind }) => kind)
  const bare = copyTree(tree, { ...WHOLE, people: false, progress: false, shift: 7 })
  expect(kinds(bare)).toEqual(['why', 'begins', 'rule', 'stage', 'line'])
  expect(topicOf(bare, 'A').meeting).toMatchObject([
    {},
    { day: '2027-03-05' },
    { closed: ['2027-03-07'] },
    { stage: 'planned' },
    { owner: null },
  ])
  expect([topicOf(bare, 'A1').item, topicOf(bare, 'A1').entry]).toEqual([
    [{ id: 'minutes', kind: 'minutes', minutes: 20 }],
    { kind: 'decision', by: null, name: '', at: 1 },
  ])
  expect(kinds(copyTree(tree, WHOLE))).toEqual([
    'why',
    'begins',
    'rule',
    'stage',
    'run',
    'person',
    'answer',
    'attendance',
    'line',
  ])
  expect(kinds(copyTree(tree, { ...WHOLE, dates: false }))).not.toContain('begins')
  expect(copyItems([toOutline(tree, 'A')], { ...WHOLE, shift: 1 })[0]!.details!.meeting).toContainEqual({
    id: 'begins',
    kind: 'begins',
    day: '2027-02-27',
    time: '14:00',
    zone: 'UTC',
  })
})

describe('what is private', () => {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  const entry = { kind: 'decision', by: 'u1', name: 'Ines', at: 1 } as const
  const FILE = 'f'.repeat(64)
  const add = (id: string, parent: string, given: object): void =>
    void applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id, { title: id, ...given }).changes)
  add('lift', 'c', {
    note: plainNote('The code of the door is 4711'),
    people: ['u1'],
    due: '2027-03-01',
    done: 50,
    links: [{ id: 'l', url: 'https://joiner.example', title: '' }],
    files: [{ id: 'f', file: FILE, name: 'quote.pdf', type: 'application/pdf', size: 3, preview: null }],
    picture: { file: 'a'.repeat(64), ratio: 1, width: 80, place: 'above' },
    markers: ['risk'],
    figures: [{ id: 'pay', measure: 'pay', whatIf: null, text: '3990.25', target: null, range: null }],
    choice: [{ id: 'pay', kind: 'criterion', order: 'a0', weight: 40, better: 'less' }],
  })
  applyChanges(tree, [
    {
      op: 'tree-put',
      set: 'namedValues',
      member: { id: 'rate', order: 'a0', name: 'Rate', unit: 'EUR/h', text: '88.75' },
    },
    { op: 'tree-put', set: 'whatIfs', member: { id: 'b', order: 'a0', name: 'Without the assistant' } },
  ])
  add('said', 'lift', { entry })
  add('below', 'said', {})
  add('lamps', 'c', {
    ties: [
      { id: 't', to: 'said', label: '', ends: 'to', bend: null, hue: null },
      { id: 'u', to: 'lift', label: '', ends: 'to', bend: null, hue: null },
    ],
  })
  it('stays behind in a bare copy, in both ways of copying; titles, order and markers come', () => {
    const copy = copyTree(tree, BARE)
    expect([...copy.topics.keys()]).toEqual(['c', 'lift', 'lamps'])
    for (const topic of allTopics(copy)) expect(carriedBy(topic)).toEqual([])
    expect(topicOf(copy, 'lift').markers).toEqual(['risk'])
    expect(JSON.stringify(toOutline(copy, 'c'))).not.toMatch(/4711|joiner|quote|u1|2027|3990|criterion/)
    expect(JSON.stringify(copy.fields)).not.toMatch(/88\.75|assistant/)
    expect(topicOf(copy, 'lamps').ties.map(({ to }) => to)).toEqual(['lift'])
    expect(filesShown(copy)).toEqual([])
    // In the same tree a cross-link to what stays there leads there still.
    expect(JSON.stringify(copyItems([toOutline(tree, 'c')], BARE))).not.toMatch(
      /joiner|quote|u1|2027|3990|criterion|"title":"said"|below/,
    )
  })
  it('are votes too, which name who voted: they come with the record alone', () => {
    const asked = grow()
    const vote = {
      id: 'v',
      question: 'Cork?',
      kind: 'yes-no',
      secret: false,
      choices: ['Yes', 'No'],
      counts: [1, 0],
      pairs: null,
      voters: ['u1'],
      casts: [[1, 0]],
      by: 'u1',
      at: 1,
    }
    asked.topics.set('A', { ...topicOf(asked, 'A'), votes: [vote as never] })
    expect(topicOf(copyTree(asked, BARE), 'A').votes).toEqual([])
    expect(topicOf(copyTree(asked, WHOLE), 'A').votes).toHaveLength(1)
    expect(carriedBy(topicOf(asked, 'A'))).toContain('a vote')
  })
  it('comes one by one as it’s chosen', () => {
    const carried = (choice: Partial<CopyChoice>) => carriedBy(topicOf(copyTree(tree, { ...BARE, ...choice }), 'lift'))
    expect(carried({ notes: true })).toEqual(['a note'])
    expect(carried({ people: true })).toEqual(['a person'])
    expect(carried({ dates: true })).toEqual(['a date'])
    expect(carried({ progress: true })).toEqual(['progress'])
    expect(carried({ links: true })).toEqual(['a link'])
    expect(carried({ files: true })).toEqual(['2 files'])
    expect(carried({ figures: true })).toEqual(['a figure'])
    expect(copyTree(tree, { ...BARE, record: true }).topics.has('below')).toBe(true)
    expect(filesShown(copyTree(tree, { ...BARE, files: true })).sort()).toEqual(['a'.repeat(64), FILE])
  })
})

it('what comes again is counted from the copy’s own days, with its end as much later; who did a turn stays with people', () => {
  const tree = grow()
  applyChanges(tree, [
    {
      op: 'set',
      topic: 'A',
      field: 'again',
      value: { rule: 'FREQ=WEEKLY;BYDAY=MO;UNTIL=20270531', from: '2027-03-01' },
    },
    { op: 'put', topic: 'A', set: 'turns', member: { id: '2027-02-22', on: '2027-02-23', by: 'ines' } },
  ])
  const copied = (choice: CopyChoice) => topicOf(copyTree(tree, choice), 'A')
  expect(copied({ ...WHOLE, shift: 28 }).again).toEqual({
    rule: 'FREQ=WEEKLY;BYDAY=MO;UNTIL=20270628',
    from: '2027-03-29',
  })
  expect(copied({ ...WHOLE, people: false }).turns).toEqual([{ id: '2027-02-22', on: '2027-02-23', by: null }])
  expect([copied(BARE).again, copied(BARE).turns]).toEqual([null, []])
  expect(copyItems([toOutline(tree, 'A')], WHOLE)[0]!.details).not.toHaveProperty('turns')
})
