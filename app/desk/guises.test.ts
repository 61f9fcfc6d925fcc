import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { ShownTopic } from '#core/contract'
import {
  addAt,
  applyChanges,
  BLANK,
  type Change,
  emptyTree,
  type Initial,
  moveTo,
  removeAll,
  topicOf,
  touchedBy,
  type Tree,
} from '#core/tree'
import { Guises, referencesTo, sampleOf, stateInWords } from './guises'

function grow(...topics: [id: string, parent: string | null, given?: Initial][]): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  for (const [id, parent, given] of topics)
    applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id, { title: id, ...given }).changes)
  return tree
}
function guisesOf(tree: Tree): Guises {
  const guises = new Guises(() => tree)
  guises.refresh()
  return guises
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

describe('after a change', () => {
  const step = fc.tuple(fc.nat(99), fc.nat(99), fc.nat(7))
  it('exactly those that look different are named: their number is another, or they show one that changed', () => {
    fc.assert(
      fc.property(fc.array(step, { minLength: 4, maxLength: 40 }), steps => {
        const tree = grow(['a', 'c'], ['b', 'c'])
        const guises = guisesOf(tree)
        let made = 0
        const looks = (of: Guises): Map<string, string> =>
          new Map(
            [...tree.topics.values()]
              .filter(topic => !topic.removed)
              .map(topic => [
                topic.id,
                JSON.stringify([of.of(topic).number, of.of(topic).topic.title, of.of(topic).reference]),
              ]),
          )
        for (const [x, y, kind] of steps) {
          const ids = [...tree.topics.values()].filter(topic => !topic.removed).map(topic => topic.id)
          const [one, other] = [ids[x % ids.length]!, ids[y % ids.length]!]
          const before = looks(guises)
          const changes: readonly Change[] =
            kind < 2
              ? addAt(tree, { parent: one, index: y % 3 }, () => `n${made++}`, { title: `t${y}` }).changes
              : kind === 2
                ? moveTo(tree, [one], { parent: other, index: 0 }).changes
                : kind === 3
                  ? removeAll(tree, [one]).changes
                  : kind === 4
                    ? [
                        {
                          op: 'set',
                          topic: one,
                          field: 'numbering',
                          value:
                            y % 3 === 0
                              ? null
                              : { scheme: (['figures', 'letters', 'roman'] as const)[y % 3]!, levels: 1 + (x % 4) },
                        },
                      ]
                    : kind === 5
                      ? [
                          {
                            op: 'set',
                            topic: one,
                            field: 'reference',
                            value: y % 4 === 0 ? null : { tree: null, topic: other },
                          },
                        ]
                      : [{ op: 'set', topic: one, field: 'title', value: `t${x}${y}` }]
          let touched: ReadonlySet<string | null>
          try {
            touched = touchedBy(applyChanges(tree, changes))
          } catch {
            continue
          }
          const moved = kind < 4
          const others = new Set([...guises.changed(touched, moved), ...touched])
          const kept = looks(guises)
          // Kept up to date, they look as if looked at afresh …
          expect(kept).toEqual(looks(guisesOf(tree)))
          // … and whatever looks different was named.
          for (const [id, look] of kept)
            if (before.has(id) && before.get(id) !== look)
              expect(others.has(id), `${id} ${before.get(id)} ${look}`).toBe(true)
        }
      }),
      { numRuns: 200 },
    )
  })
})

describe('schemes', () => {
  it('are shown by an example', () => {
    expect([sampleOf('figures'), sampleOf('letters'), sampleOf('roman')]).toEqual(['1.2.1', 'A.2.a', 'I.B.1'])
  })
})
