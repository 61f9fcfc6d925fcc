import { expect, it } from 'vitest'
import { faceOf } from '../arrange/plank'
import { Dressing } from '../dress/dressing'
import { applyChanges, BLANK, emptyTree, LOOKS, topicOf } from '../tree'

it('letters: a topic’s own, else its level’s, else the look’s, else those of its rank', () => {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: '', title: 'Move' })
  applyChanges(tree, [
    { op: 'add', topic: 'A', parent: 'c', order: 'a0', with: {} },
    { op: 'add', topic: 'B', parent: 'c', order: 'a1', with: {} },
  ])
  const dressing = new Dressing(
    () => tree,
    () => false,
  )
  const letters = (id: string): string | null => {
    dressing.refresh()
    return dressing.styleOf(topicOf(tree, id)).typeface
  }
  expect(letters('A')).toBeNull()
  const look = { ...LOOKS[0]!, id: 'own', name: 'Own', typeface: 'hand' as const, levels: [] }
  applyChanges(tree, [
    { op: 'tree-put', set: 'looks', member: look },
    { op: 'tree', field: 'look', value: 'own' },
  ])
  expect([letters('c'), letters('A')]).toEqual(['hand', 'hand'])
  applyChanges(tree, [{ op: 'tree', field: 'levels', value: [{}, { typeface: 'book' }] }])
  expect([letters('c'), letters('A')]).toEqual(['hand', 'book'])
  applyChanges(tree, [{ op: 'set', topic: 'A', field: 'typeface', value: 'plain' }])
  expect([letters('A'), letters('B')]).toEqual(['plain', 'book'])
})

it('each typeface has its family; the hand, whose letters are small, is set larger', () => {
  const centre = { rank: 'centre', textSize: null, bold: false, slanted: false } as const
  const plain = { ...centre, rank: 'plain' } as const
  expect(faceOf(centre).family).toBe('display')
  expect(faceOf(plain).family).toBe('text')
  expect(faceOf({ ...centre, typeface: 'plain' }).family).toBe('text')
  expect(faceOf({ ...plain, typeface: 'broad' }).family).toBe('display')
  expect(faceOf({ ...plain, typeface: 'book' })).toMatchObject({ family: 'book', size: 13.5 })
  expect(faceOf({ ...plain, typeface: 'hand' })).toMatchObject({ family: 'hand', size: 16.5 })
})
