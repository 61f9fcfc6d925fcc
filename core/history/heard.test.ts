import { describe, expect, it } from 'vitest'
import { applyChanges, BLANK, type Change, emptyTree } from '../tree'
import { heardOf } from './heard'
import { inWords } from './words'

const speaker = {
  nameOf: (id: string) => ({ r: 'Rana' })[id] ?? 'Somebody',
  markerOf: (id: string) => id,
  day: (iso: string) => iso,
  measureOf: (id: string) => id,
  figure: (_: string, text: string) => text,
}
const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
applyChanges(tree, [
  { op: 'add', topic: 'lift', parent: 'c', order: 'a0', with: { title: 'Lift' } },
  { op: 'add', topic: 'books', parent: 'c', order: 'a1', with: { title: 'Books' } },
  { op: 'add', topic: 'crates', parent: 'books', order: 'a0', with: { title: 'Crates' } },
])
/** What is heard of changes, once they're made. */
function heard(...changes: Change[]): string[] {
  applyChanges(tree, changes)
  return heardOf(tree, changes).map(one => inWords(one, speaker))
}

describe('what others did is heard', () => {
  it('from the tree as it’s now: what is new, called otherwise, moved, set, gone', () => {
    expect(heard({ op: 'set', topic: 'lift', field: 'title', value: 'Goods lift' })).toEqual(['named “Goods lift”'])
    expect(heard({ op: 'place', topic: 'crates', parent: 'lift', order: 'a0' })).toEqual([
      'moved “Crates” under “Goods lift”',
    ])
    expect(
      heard(
        { op: 'set', topic: 'crates', field: 'due', value: '2027-05-12' },
        { op: 'put', topic: 'crates', set: 'people', member: 'r' },
      ),
    ).toEqual(['set the due date of “Crates” to 2027-05-12', 'gave “Crates” to Rana'])
    expect(
      heard({
        op: 'put',
        topic: 'lift',
        set: 'figures',
        member: { id: 'cost', measure: 'cost', whatIf: null, text: '12', target: null, range: null },
      }),
    ).toEqual(['set the cost of “Goods lift” to 12'])
    expect(heard({ op: 'remove', topic: 'books' })).toEqual(['took away “Books”'])
    expect(heard({ op: 'tree', field: 'arrangement', value: 'down' })).toEqual(['changed the tree’s arrangement'])
  })

  it('says a new topic once, and nothing of folds and of what is gone for good', () => {
    expect(
      heard(
        { op: 'add', topic: 'ramp', parent: 'lift', order: 'a1', with: { title: '' } },
        { op: 'set', topic: 'ramp', field: 'title', value: 'Ramp' },
        { op: 'set', topic: 'ramp', field: 'due', value: '2027-05-12' },
      ),
    ).toEqual(['added “Ramp” under “Goods lift”'])
    expect(heard({ op: 'set', topic: 'lift', field: 'folded', value: true })).toEqual([])
    expect(heardOf(tree, [{ op: 'set', topic: 'nowhere', field: 'title', value: 'x' }])).toEqual([])
  })
})
