import { describe, expect, it } from 'vitest'
import { minutesDocument } from '../formats/minutes-markdown'
import { addAt, applyChanges, BLANK, type BriefPart, type Change, emptyTree, type Tree } from '../tree'
import { briefInCopy } from './copy'
import { deliveredInWords, deliveredOf, sayOutcome, tallyInWords, tallyOf } from './delivered'
import { minutesOf } from './minutes'
import { capture } from './record'

const must = (id: string, order: string, text: string): Change => ({
  op: 'put',
  topic: 'm',
  set: 'meeting',
  member: { id, kind: 'must', order, text },
})
function held(): Tree {
  const tree = emptyTree({ ...BLANK, id: 'm', parent: null, order: 'a0', title: 'Coordination' })
  const add = (id: string, title: string, ...serves: string[]): Change[] => [
    ...addAt(tree, { parent: 'm', index: Infinity }, () => id, { title }).changes,
    { op: 'put', topic: id, set: 'item', member: { id: 'intent', kind: 'intent', intent: 'decide' } },
    ...serves.map((one): Change => ({ op: 'put', topic: id, set: 'item', member: { id: one, kind: 'serves' } })),
  ]
  applyChanges(tree, [
    must('firm', 'a0', 'Which firm'),
    must('day', 'a1', 'Which day'),
    must('cost', 'a2', 'What it costs'),
  ])
  applyChanges(tree, add('offers', 'Two offers', 'firm', 'cost'))
  applyChanges(tree, add('dates', 'Dates', 'day'))
  return tree
}
const decide = (tree: Tree, under: string, title: string): void =>
  void applyChanges(
    tree,
    capture(tree, under, 'decision', { title }, { by: 'ines', name: '', at: 0 }, () => title).changes,
  )
const words = (tree: Tree): string[] => deliveredOf(tree, 'm').map(one => `${one.text}: ${deliveredInWords(one)}`)

describe('what was delivered', () => {
  it('is reached by the decisions of the items that serve it, in the order of what was to be settled', () => {
    const tree = held()
    expect(tallyInWords(tallyOf(deliveredOf(tree, 'm')))).toBe('0 of 3 reached, 3 open')
    decide(tree, 'offers', 'Two Rivers moves us')
    expect(words(tree)).toEqual([
      'Which firm: reached: Two Rivers moves us',
      'Which day: not settled',
      'What it costs: reached: Two Rivers moves us',
    ])
    expect(tallyInWords(tallyOf(deliveredOf(tree, 'm')))).toBe('2 of 3 reached, 1 open')
  })
  it('is what somebody says by hand before what the decisions say, and theirs again when that is taken back', () => {
    const tree = held()
    decide(tree, 'offers', 'Two Rivers moves us')
    applyChanges(tree, [sayOutcome('m', 'cost', 'partly', ' the stairs are open ')])
    applyChanges(tree, [sayOutcome('m', 'day', 'not')])
    expect(words(tree).slice(1)).toEqual([
      'Which day: not reached',
      'What it costs: partly reached: the stairs are open',
    ])
    expect(tallyInWords(tallyOf(deliveredOf(tree, 'm')))).toBe('1 of 3 reached, 1 partly, 1 not')
    // Said twice it's one saying.
    applyChanges(tree, [sayOutcome('m', 'cost', 'reached')])
    applyChanges(tree, [sayOutcome('m', 'cost', null)])
    expect(words(tree)[2]).toBe('What it costs: reached: Two Rivers moves us')
  })
  it('stands in the minutes, and goes with what was to be settled', () => {
    const tree = held()
    applyChanges(tree, [sayOutcome('m', 'firm', 'partly', 'the price is open')])
    const written = JSON.stringify(minutesDocument(minutesOf(tree, 'm', id => id)))
    expect(written).toContain('partly reached: the price is open')
    applyChanges(tree, [{ op: 'take', topic: 'm', set: 'meeting', member: 'firm' }])
    expect(deliveredOf(tree, 'm').map(({ id }) => id)).toEqual(['day', 'cost'])
    expect(tallyInWords(tallyOf([]))).toBe('')
  })
  it('isn’t copied into a plan made from it', () => {
    const tree = held()
    applyChanges(tree, [sayOutcome('m', 'firm', 'not')])
    const parts = tree.topics.get('m')!.meeting as BriefPart[]
    const copied = (progress: boolean) =>
      briefInCopy(parts, { people: true, progress, moved: day => day }).map(({ kind }) => kind)
    expect(copied(false)).not.toContain('outcome')
    expect(copied(true)).toContain('outcome')
  })
})
