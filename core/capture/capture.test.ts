import { describe, expect, it } from 'vitest'
import type { OutlineItem } from '../tree/outline'
import { readAddresses } from './addresses'
import { readHtmlList } from './html-list'
import { readNested } from './nested'

type Nested = string | [string, ...Nested[]]
const titles = (items: readonly OutlineItem[]): Nested[] =>
  items.map(({ title, children }) =>
    children.length > 0 ? ([title, ...titles(children)] as [string, ...Nested[]]) : title,
  )

describe('pasted HTML', () => {
  it.each<[string, string, Nested[]]>([
    [
      'a list beside its item',
      '<ul><li>Fit-out</li><ul><li>Lift</li><ol><li>Shaft</li></ol><li>Lamps</li></ul><li>Books</li></ul>',
      [['Fit-out', ['Lift', 'Shaft'], 'Lamps'], 'Books'],
    ],
    [
      'a list inside its item',
      '<ul><li>Fit-out<ul><li>Lift</li></ul></li><li>Books</li></ul>',
      [['Fit-out', 'Lift'], 'Books'],
    ],
    // As a word processor puts lists on the clipboard: paragraphs whose style says the level, a bullet in a span of its
    // own. Written from memory.
    [
      'paragraphs with list levels',
      "<p class=MsoListParagraph style='mso-list:l0 level1 lfo1'><![if !supportLists]><span style='font-family:Symbol'><span style='mso-list:Ignore'>·<span>&nbsp;&nbsp;</span></span></span><![endif]>Fit-out</p><p style='margin-left:72pt;mso-list:l0 level2 lfo1'><span style='mso-list:Ignore'>o<span>&nbsp;</span></span>Lift</p><p style='mso-list:l0 level3 lfo1'><span style='mso-list:Ignore'>§ </span>Shaft</p><p style='mso-list:l0 level1 lfo1'>Books</p>",
      [['Fit-out', ['Lift', 'Shaft']], 'Books'],
    ],
    [
      'cells with paragraphs and lists',
      '<table><tr><td><p>Lift</p><p>with glass</p></td><td><ul><li>Shaft</li><li>Cab</li></ul></td><td>May</td></tr><tr><td>Lamps</td><td></td></tr></table>',
      [['Lift\nwith glass', 'Shaft', 'Cab', 'May'], 'Lamps'],
    ],
  ])('%s', (_, html, wanted) => expect(titles(readHtmlList(html)!)).toEqual(wanted))
})

describe('pasted text', () => {
  it.each<[string, string, Nested[]]>([
    ['signs of a word processor', '·\tFit-out\no\tLift\n§\tShaft\n·\tBooks', [['Fit-out', ['Lift', 'Shaft']], 'Books']],
    [
      'a Markdown table',
      '| Task | Who |\n|---|:-:|\n| Lift | Oskar |\n| a \\| b | |',
      [['Task', 'Who'], ['Lift', 'Oskar'], 'a | b'],
    ],
    ['emphasis in places', '**Cost** and **time**\n**All of it**', ['**Cost** and **time**', 'All of it']],
    ['a heading that ends in #', '# C#\n# Closed ##\ntext', ['C#', ['Closed', 'text']]],
    ['initials', 'A. Smith\nB. Jones\ni. e. the lift', ['A. Smith', 'B. Jones', 'i. e. the lift']],
    ['lettered items', 'a. Lift\nb. Lamps\nc. Doors', ['Lift', 'Lamps', 'Doors']],
    ['Roman items', 'i. Lift\nii. Lamps\niii. Doors\niv. Books', ['Lift', 'Lamps', 'Doors', 'Books']],
    ['items below items', '1. Fit-out\n   a. Lift\n   b. Lamps\n2. Books', [['Fit-out', 'Lift', 'Lamps'], 'Books']],
    ['one letter with a bracket', '- Shelving\n  a) Oak', [['Shelving', 'Oak']]],
  ])('%s', (_, text, wanted) => expect(titles(readNested(text))).toEqual(wanted))
})

describe('many addresses at once', () => {
  it('by commas, semicolons, spaces and lines, with names or without; what can’t be one is named', () => {
    expect(
      readAddresses(
        'Rana Tahiri <Rana@porch.example>, oskar@porch.example; "Brandt, Ines" <ines@porch.example>\nlev@porch.example  rana@porch.example nobody, x@y, <>',
      ),
    ).toEqual({
      good: [
        { mail: 'rana@porch.example', name: 'Rana Tahiri' },
        { mail: 'oskar@porch.example', name: '' },
        { mail: 'ines@porch.example', name: 'Brandt, Ines' },
        { mail: 'lev@porch.example', name: '' },
      ],
      wrong: ['nobody', 'x@y', '<>'],
    })
    expect(readAddresses('  ')).toEqual({ good: [], wrong: [] })
  })
})
