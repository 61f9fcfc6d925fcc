import { expect, it } from 'vitest'
import { DomUtils, parseDocument } from 'htmlparser2'
import { runSheetOf } from '../calendar/run-sheet'
import { applyChanges, type Change } from '../tree'
import { seed } from '../../tests/rolled'
import { runSheetPage } from './run-sheet-page'

it('prints a line a row, says who is in two places, and takes no mark-up from titles', () => {
  const tree = seed()
  const day = '2027-06-05'
  const at = (startTime: string, dueTime: string) => ({ start: day, due: day, startTime, dueTime, people: ['ines'] })
  applyChanges(
    tree,
    [
      ['doors', { title: 'Doors <script>alert(1)</script>', ...at('10:00', '12:00') }] as const,
      [
        'speech',
        { title: 'Speech', place: { name: 'Hall & stairs', lat: null, lon: null }, ...at('10:30', '10:40') },
      ] as const,
      ['tidy', { title: 'Tidy "up"', due: day }] as const,
    ].map(([topic, content], i): Change => ({ op: 'add', topic, parent: 'a', order: `b${i}`, with: content })),
  )
  const asked = { plan: null, today: day, zone: 'Europe/Lisbon', only: null, hidden: () => false }
  const html = runSheetPage({
    sheet: runSheetOf(tree, asked, day),
    tree: 'Move <b>',
    head: 'Saturday, 5 June 2027',
    zone: 'Europe/Lisbon',
    titleOf: id => tree.topics.get(id)!.title,
    nameOf: () => 'Ines',
    paper: 'A4',
  })
  const page = parseDocument(html)
  const all = (name: string, from: typeof page.children = page.children) => DomUtils.getElementsByTagName(name, from)
  expect([all('script').length, all('b').length]).toEqual([0, 0])
  expect(DomUtils.textContent(all('h1'))).toBe('Move <b>')
  expect(DomUtils.textContent(all('p'))).toContain('At any time, or all day: Tidy "up"')
  const rows = all('tr', all('tbody')).map(row =>
    all('td', row.children)
      .map(cell => DomUtils.textContent(cell))
      .join('|'),
  )
  expect(rows).toEqual([
    '10:00 to 12:00|Doors <script>alert(1)</script>! Ines is to be at “Speech”, too|Ines||',
    '10:30 to 10:40|Speech! Ines is to be at “Doors <script>alert(1)</script>”, too|Ines|Hall & stairs|',
  ])
})
