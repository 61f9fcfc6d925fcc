import { describe, expect, it } from 'vitest'
import type { z } from 'zod'
import type { customMarkerSet } from './markers'
import {
  addAt,
  applyChanges,
  BLANK,
  changeSchema,
  type Change,
  drawnStyle,
  dress,
  emptyTree,
  invertAll,
  invertOver,
  LIMITS,
  lookOf,
  LOOKS,
  MARKER_SETS,
  MARKERS,
  markerOf,
  markerSetsOf,
  replaceMarker,
  rivalsOf,
  styleOf,
  toggleMember,
  topicOf,
  type Tree,
} from './index'

function grow(...ids: string[]): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0' })
  for (const id of ids) applyChanges(tree, addAt(tree, { parent: 'c', index: Infinity }, () => id).changes)
  return tree
}
const own: z.output<typeof customMarkerSet> = {
  id: 'rooms',
  name: 'Rooms',
  exclusive: true,
  markers: [
    { id: 'r1', name: 'Hall', shape: 'hex', sign: 'key', hue: 'plum' },
    { id: 'r2', name: 'Loft', shape: 'bare', sign: 'none', hue: 'sky', emoji: '🪜' },
  ],
}

describe('marker sets', () => {
  it('are at least five, every marker is told apart by shape, sign and emoji alone, and no id stands twice', () => {
    expect(MARKER_SETS.length).toBeGreaterThanOrEqual(5)
    expect(new Set(MARKERS.map(marker => marker.id)).size).toBe(MARKERS.length)
    for (const set of MARKER_SETS)
      expect(new Set(set.markers.map(({ shape, sign, emoji }) => [shape, sign, emoji].join())).size).toBe(
        set.markers.length,
      )
  })
  it('of a team are kept with the tree, replaced whole, taken away, and all of it undone', () => {
    const tree = grow()
    const put: Change = { op: 'tree-put', set: 'markerSets', member: own }
    const patches = applyChanges(tree, [put])
    expect(markerSetsOf(tree.fields).at(-1)).toEqual(own)
    expect(markerOf('r2', tree.fields.markerSets)?.name).toBe('Loft')
    const renamed = applyChanges(tree, [{ op: 'tree-put', set: 'markerSets', member: { ...own, name: 'Places' } }])
    expect(tree.fields.markerSets).toHaveLength(1)
    applyChanges(tree, invertAll([{ op: 'tree-put', set: 'markerSets', member: { ...own, name: 'Places' } }], renamed))
    expect(tree.fields.markerSets[0]?.name).toBe('Rooms')
    applyChanges(tree, invertAll([put], patches))
    expect(tree.fields.markerSets).toEqual([])
    expect(markerSetsOf({ markerSets: [{ ...MARKER_SETS[0]!, name: 'Ours' }] })[0]?.name).toBe('Ours')
  })
  it('undo never takes back what somebody changed in a set since', () => {
    const tree = grow()
    const put: Change = { op: 'tree-put', set: 'markerSets', member: own }
    const patches = applyChanges(tree, [put])
    applyChanges(tree, [{ op: 'tree-put', set: 'markerSets', member: { ...own, name: 'Somebody’s' } }])
    expect(invertOver(tree, [put], patches).changes).toEqual([])
  })
  it('let one marker of an exclusive set stand, in one step, and any number of another', () => {
    const tree = grow('A', 'B')
    const give = (marker: string, ...ids: string[]): void => {
      applyChanges(tree, toggleMember(tree, ids, 'markers', marker, rivalsOf(marker, MARKER_SETS)).changes)
    }
    give('at-risk', 'A', 'B')
    give('stuck', 'A')
    give('idea', 'A')
    give('risk', 'A')
    expect(topicOf(tree, 'A').markers).toEqual(['stuck', 'idea', 'risk'])
    give('stuck', 'A', 'B')
    expect(topicOf(tree, 'B').markers).toEqual(['stuck'])
    give('stuck', 'A', 'B')
    expect(topicOf(tree, 'B').markers).toEqual([])
    applyChanges(tree, replaceMarker(tree, ['A', 'B'], 'idea', 'question').changes)
    expect(topicOf(tree, 'A').markers).toEqual(['risk', 'question'])
  })
  it('are refused over the limit and when they are no sets', () => {
    const tree = grow()
    const many = Array.from({ length: LIMITS.treeMembers + 1 }, (_, i): Change => ({
      op: 'tree-put',
      set: 'markerSets',
      member: { ...own, id: `s${i}` },
    }))
    expect(() => applyChanges(tree, many)).toThrow(/40/)
    expect(tree.fields.markerSets).toEqual([])
    for (const bad of [
      { ...own, markers: [{ ...own.markers[0], shape: 'blob' }] },
      { ...own, name: '' },
      { ...own, extra: 1 },
    ])
      expect(changeSchema.safeParse({ op: 'tree-put', set: 'markerSets', member: bad }).success).toBe(false)
  })
})

describe('style', () => {
  it('is copied and pasted whole, touching only what differs', () => {
    const tree = grow('A', 'B')
    applyChanges(tree, dress(tree, ['A'], { fill: '3', bold: true, shape: 'tag' }))
    const step = dress(tree, ['A', 'B'], styleOf(topicOf(tree, 'A')))
    expect(step.map(change => change.op === 'set' && change.topic)).toEqual(['B', 'B', 'B'])
    applyChanges(tree, step)
    expect(styleOf(topicOf(tree, 'B'))).toEqual(styleOf(topicOf(tree, 'A')))
  })
  it('of a level shows where a topic has none of its own; the tree’s word counts before the look’s', () => {
    const topic = { ...BLANK, id: 'A', parent: 'c', order: 'a0', bold: true }
    const drawn = drawnStyle(topic, 1, [{}, { fill: '2', textSize: 'large' }], [{}, { fill: '5', shape: 'round' }])
    expect(drawn).toMatchObject({ fill: '2', textSize: 'large', shape: 'round', bold: true })
    expect(drawnStyle({ ...topic, fill: '9' }, 1, [{}, { fill: '2' }]).fill).toBe('9')
    expect(drawnStyle(topic, 3, [{}, { fill: '2' }])).toBe(topic)
  })
  it('refuses what is no colour, shape or width', () => {
    for (const [field, value] of [
      ['fill', 'red'],
      ['fill', 'url(x)'],
      ['shape', 'cloud'],
      ['width', 5],
      ['edge', '#12345'],
      ['picture', { file: '../etc', width: 50, ratio: 1, place: 'above' }],
    ] as const)
      expect(changeSchema.safeParse({ op: 'set', topic: 'a', field, value }).success, `${field}`).toBe(false)
  })
  it('a look that is gone falls back to the first one', () => {
    expect(lookOf({ look: 'gone', looks: [] })).toBe(LOOKS[0])
    expect(lookOf({ look: 'mine', looks: [{ ...LOOKS[1]!, id: 'mine' }] }).id).toBe('mine')
  })
})
