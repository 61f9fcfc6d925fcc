import { describe, expect, it } from 'vitest'
import type { ShownTopic } from '../contract'
import { addAt, applyChanges, BLANK, emptyTree, type Initial, topicOf, type Tree } from '../tree'
import { Numbers } from './numbers'
import { Guises, referencesTo, sampleOf, stateInWords } from './guises'

function grow(...topics: [id: string, parent: string | null, given?: Initial][]): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  for (const [id, parent, given] of topics)
    applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id, { title: id, ...given }).changes)
  return tree
}
function guisesOf(tree: Tree): Guises {
  return new Guises(() => tree, new Numbers(() => tree))
}
const here = (topic: string): Initial => ({ reference: { tree: null, topic } })

describe('what a reference shows', () => {
  it('is the original’s words and task, through references on the way, dressed as its own', () => {
    const tree = grow(
      ['books', 'c', { done: 30, people: ['rana'], markers: ['risk'], fill: '2' }],
      ['ref', 'c', { ...here('books'), hue: '4', links: [{ id: 'l', url: 'https://a.example/', title: '' }] }],
      ['ref2', 'c', here('ref')],
    )
    const guises = guisesOf(tree)
    for (const id of ['ref', 'ref2']) {
      const guise = guises.of(topicOf(tree, id))
      expect([
        guise.topic.title,
        guise.topic.done,
        guise.topic.people,
        guise.topic.markers,
        guise.reference,
        guise.original,
      ]).toEqual(['books', 30, ['rana'], ['risk'], 'shown', { tree: null, topic: 'books' }])
      expect(guise.topic.id).toBe(id)
    }
    expect([
      guises.of(topicOf(tree, 'ref')).topic.hue,
      guises.of(topicOf(tree, 'ref')).topic.fill,
      guises.of(topicOf(tree, 'ref')).topic.links,
    ]).toEqual(['4', null, topicOf(tree, 'ref').links])
    expect([guises.isShownElsewhere('books'), guises.isShownElsewhere('ref2')]).toEqual([true, false])
    expect(referencesTo(tree, 'books')).toEqual(['ref'])
  })
  it('is what it was called, with the reason, when the original is in the trash, not there, or closed', () => {
    const tree = grow(
      ['books', 'c'],
      ['ref', 'c', { ...here('books'), title: 'Books, once' }],
      ['lost', 'c', { ...here('nowhere'), title: 'Lost' }],
      ['far', 'c', { reference: { tree: 'T2', topic: 'x' }, title: 'Far' }],
    )
    const guises = guisesOf(tree)
    applyChanges(tree, [{ op: 'remove', topic: 'books' }])
    const state = (id: string): [string, string | null] => {
      const { topic, reference } = guises.of(topicOf(tree, id))
      return [topic.title, reference]
    }
    expect([state('ref'), state('lost'), state('far')]).toEqual([
      ['Books, once', 'trashed'],
      ['Lost', 'gone'],
      ['Far', 'asking'],
    ])
    expect(guises.trees).toEqual(['T2'])
    const shown: ShownTopic = {
      tree: 'T2',
      topic: 'x',
      state: 'shown',
      title: 'As it is',
      treeTitle: 'Plan',
      markers: [],
      people: ['Lev Aalto'],
      due: '2027-05-12',
      done: null,
    }
    expect(guises.take([shown])).toContain('far')
    expect([state('far'), guises.of(topicOf(tree, 'far')).names, guises.treeTitle('T2')]).toEqual([
      ['As it is', 'shown'],
      ['Lev Aalto'],
      'Plan',
    ])
    for (const gone of ['closed', 'trashed', 'gone', 'loop'] as const) {
      guises.take([{ ...shown, state: gone, title: '' }])
      expect(state('far')).toEqual(['Far', gone])
      expect(stateInWords(gone)).toMatch(/\.$/)
    }
    expect([stateInWords(null), stateInWords('shown')]).toEqual(['', ''])
  })
})

describe('schemes', () => {
  it('are shown by an example', () => {
    expect([sampleOf('figures'), sampleOf('letters'), sampleOf('roman')]).toEqual(['1.2.1', 'A.2.a', 'I.B.1'])
  })
})
