import Papa from 'papaparse'
import { expect, it } from 'vitest'
import { planOf } from '../schedule/plan'
import { applyChanges, type Change, toOutline } from '../tree'
import { seed } from '../../tests/rolled'
import { readCsv, writeCsv } from './csv'
import { planColumns } from './plan-columns'

it('a table says what the plan computed, row by row, and is read back without taking it for what was typed', () => {
  const tree = seed()
  const add = (topic: string, order: string, more: object): Change => ({
    op: 'add',
    topic,
    parent: 'a',
    order,
    with: more,
  })
  applyChanges(tree, [
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    add('permit', 'a1', { title: 'Permit', duration: 4, due: '2027-01-12' }),
    add('lift', 'a2', { title: 'Lift', duration: 2 }),
    add('paint', 'a3', { title: 'Paint', duration: 1 }),
    add('word', 'a4', { title: 'A word' }),
    { op: 'put', topic: 'lift', set: 'waits', member: { id: 'w', on: 'permit', kind: 'FS', lag: 0, days: 'working' } },
  ])
  const plan = planOf(tree, '2027-01-11')
  if (typeof plan === 'string') throw new Error(plan)
  const text = writeCsv([toOutline(tree, 'a')], () => '', planColumns(tree, 'a', plan))
  const rows = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true }).data
  const of = (title: string) => rows.find(row => row.title === title)!
  // Monday 11 January and four working days; the lift follows, over a weekend.
  expect(of('Permit')).toMatchObject({
    'planned start': '2027-01-11',
    'planned finish': '2027-01-14',
    'must not slip': 'yes',
    'days late': '2',
    due: '2027-01-12',
  })
  expect(of('Lift')).toMatchObject({ 'planned start': '2027-01-15', 'planned finish': '2027-01-18', start: '' })
  expect(of('Paint')).toMatchObject({ 'planned start': '2027-01-11', float: '5', 'must not slip': '' })
  expect(of('A word')).toMatchObject({ 'planned start': '', state: '' })
  expect(rows[0]).toMatchObject({ 'planned start': '2027-01-11', 'planned finish': '2027-01-18', state: '' })
  const [back] = readCsv(text)
  expect(back!.children.map(({ title, details }) => [title, details?.start ?? null, details?.due ?? null])).toEqual([
    ['Permit', null, '2027-01-12'],
    ['Lift', null, null],
    ['Paint', null, null],
    ['A word', null, null],
  ])
})
