import { fromMarkdown } from 'mdast-util-from-markdown'
import { toString } from 'mdast-util-to-string'
import { describe, expect, it } from 'vitest'
import { copyOf, grow, seed } from '../../tests/rolled'
import { applyChanges, type Change, type Tree } from '../tree'
import { differencesOf } from '../compare/differences'
import { entriesBetween, type Entry } from './entries'
import { mergeOf } from '../compare/merge'
import { narrowed } from './narrow'
import { reportHtml, reportMarkdown } from './report'

const speaker = {
  nameOf: (id: string) => ({ ines: 'Ines Brandt' })[id] ?? 'Somebody',
  markerOf: (id: string) => id,
  day: (iso: string) => `day ${iso}`,
}
const made = (tree: Tree, changes: readonly Change[]): Tree => {
  const copy = copyOf(tree)
  applyChanges(copy, changes)
  return copy
}
function compared(there: Tree, mine: readonly Change[], theirs: readonly Change[] = []) {
  const sides = { here: made(there, mine), there: made(there, theirs), common: { here: there, there } }
  const pieces = [...mergeOf(sides).pieces.values()]
  const differences = differencesOf(sides.there, sides.here, { order: true })
  return { ...sides, entries: entriesBetween({ ...sides, pieces, differences }, speaker) }
}
const told = ({ kinds, title, by, lines }: Entry): string =>
  `${kinds.join('+')} ${title} ${by}${lines.map(({ name, there, here }) => ` | ${name}: ${there || '–'} → ${here || '–'}`).join('')}`

const base = (): Tree =>
  made(seed(), [
    { op: 'set', topic: 'a', field: 'title', value: 'Fit-out' },
    { op: 'set', topic: 'b', field: 'title', value: 'Order <b>lamps</b>' },
    { op: 'set', topic: 'c', field: 'title', value: 'Opening' },
    { op: 'put', topic: 'b', set: 'people', member: 'ines' },
  ])
const mine: Change[] = [
  { op: 'set', topic: 'b', field: 'title', value: 'Order the lamps' },
  { op: 'set', topic: 'b', field: 'due', value: '2027-05-12' },
  { op: 'set', topic: 'b', field: 'place', value: { name: 'Tannery', lat: null, lon: null } },
  { op: 'place', topic: 'b', parent: 'a', order: 'a0' },
  { op: 'add', topic: 'n', parent: 'a', order: 'a1', with: { title: 'Ramp' } },
  { op: 'remove', topic: 'c' },
  { op: 'tree', field: 'description', value: 'The move' },
]

describe('a comparison as it’s read', () => {
  it('has an entry a topic and a line a field, from there to here', () => {
    expect(compared(base(), mine).entries.map(told)).toEqual([
      'changed The tree itself here | description: – → The move',
      'moved+changed Order the lamps here | place: under “Move” → under “Fit-out” | title: Order <b>lamps</b> → Order the lamps | due date: – → day 2027-05-12 | place on the map: – → Tannery',
      'only here Ramp here',
      'only there Opening here',
    ])
  })

  it('says who changed what, and what both did', () => {
    const { entries } = compared(base(), mine, [
      { op: 'set', topic: 'b', field: 'due', value: '2027-05-14' },
      { op: 'set', topic: 'a', field: 'done', value: 40 },
    ])
    const lamps = entries.find(({ id }) => id === 'b')!
    expect(lamps.lines.map(({ name, by }) => `${name} ${by}`)).toContain('due date both')
    expect(lamps.by).toBe('both')
    expect(entries.find(({ id }) => id === 'a')!.by).toBe('there')
  })

  it('is narrowed by kind, field, person, branch, letters and what is asked', () => {
    const { entries, here, there } = compared(base(), mine)
    const of = (wanted: Parameters<typeof narrowed>[3]): (string | null)[] =>
      narrowed(entries, here, there, wanted).map(({ id }) => id)
    expect(of({})).toEqual([null, 'b', 'n', 'c'])
    expect(of({ kind: 'moved' })).toEqual(['b'])
    expect(of({ field: 'due date' })).toEqual(['b'])
    expect(of({ person: 'ines' })).toEqual(['b'])
    expect(of({ branch: 'a' })).toEqual(['b', 'n'])
    expect(of({ letters: 'RAM' })).toEqual(['n'])
    expect(of({ asked: true })).toEqual([])
  })

  it('is kept as Markdown and as a page, in which nothing of a title is markup', () => {
    const { entries } = compared(base(), mine)
    const head = { title: 'Move', here: 'as it is now', there: 'on 3 May', language: 'en' }
    const markdown = reportMarkdown(head, entries)
    expect(toString(fromMarkdown(markdown))).toContain('title: Order ~~<b>lamps</b>~~ the lamps')
    expect(markdown).toContain('**only here** Ramp')
    const page = reportHtml(head, entries)
    expect(page).toContain('<del>&lt;b&gt;lamps&lt;/b&gt;</del>')
    expect(page).not.toMatch(/<b>|<script/)
    expect(reportMarkdown(head, [])).toContain('Nothing is different.')
  })

  it('of any two states has words for every value', () => {
    const [one, other] = [grow(seed(), []), grow(seed(), [])]
    expect(entriesBetween({ here: one, there: other, pieces: [], differences: [] }, speaker)).toEqual([])
  })
})
