import { expect, it } from 'vitest'
import { applyChanges, BLANK, emptyTree } from '../tree'
import { editInWords } from './edit-words'

it('says what an edit was, so that nobody wonders what wasn’t kept', () => {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  applyChanges(tree, [{ op: 'add', topic: 't', parent: 'c', order: 'a0', with: { title: 'Lift' } }])
  expect(
    editInWords(tree, [
      { op: 'set', topic: 't', field: 'title', value: 'Order lamps' },
      { op: 'set', topic: 't', field: 'due', value: '2027-03-05' },
    ]),
  ).toBe('the title “Order lamps”, due date of “Lift”')
  expect(editInWords(tree, [{ op: 'add', topic: 'n', parent: 'c', order: 'a1', with: { title: 'Doors' } }])).toBe(
    'the new topic “Doors”',
  )
  expect(
    editInWords(tree, [
      { op: 'remove', topic: 't' },
      { op: 'restore', topic: 't' },
      { op: 'place', topic: 't', parent: null, order: 'a0' },
      { op: 'note', topic: 't', update: '' },
      { op: 'tree', field: 'description', value: '' },
    ]),
  ).toBe('removing “Lift”, bringing “Lift” back, moving “Lift” and 2 more')
})
