import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readHtmlList } from '../capture/html-list'
import { readNested, Unreadable } from '../capture/nested'
import {
  applyChanges,
  BLANK,
  emptyTree,
  fromBase64,
  LOOKS,
  noteWords,
  type OutlineItem,
  plantAt,
  toOutline,
  toSnapshot,
  type Tree,
} from '../tree'
import { writeHtmlList, writeNested } from './clipboard'
import { jsonSchema, readJson, writeJson } from './json'
import { readMarkdown, writeMarkdown, readMarkdownFully } from './markdown'
import { noteFromMarkdown, noteToMarkdown } from './note-text'
import { readOpml, writeOpml } from './opml'

/** Titles nested in arrays, the shortest way to say a tree. */
type Titles = [string, ...Titles[]]
const titles = (item: OutlineItem): Titles => [item.title, ...item.children.map(titles)]
const all = (items: readonly OutlineItem[]): Titles[] => items.map(titles)

function grown(items: readonly OutlineItem[]): Tree {
  const tree = emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0', title: 'Move to the tannery' })
  let made = 0
  applyChanges(tree, plantAt(tree, items, { parent: 'centre', index: 0 }, () => `n${made++}`).changes)
  return tree
}

const wanted: Titles[] = [['Fit-out', ['Shelving', ['Oak']], ['Lift']], ['Books']]

describe('what was left behind once, and isn’t any more', () => {
  it('Markdown keeps quotes, tables, code and addresses, and says what it leaves', () => {
    const { items, left } = readMarkdownFully(
      '> said first\n\n# Plan [the offer](https://sand.example/x)\n\n> a quote\n\nand text\n\n| a | b |\n|---|---|\n| 1 | 2 |\n\n```\nlet x\n```\n\n![lift](https://sand.example/lift.png) ![](lamp.png)\n\n- item\n  > its note\n\n# Next\n',
    )
    expect(items.map(({ title }) => title)).toEqual(['', 'Plan the offer', 'Next'])
    expect(items[1]!.details!.links).toEqual([
      { id: 'l1', url: 'https://sand.example/x', title: 'the offer' },
      { id: 'l2', url: 'https://sand.example/lift.png', title: 'lift' },
    ])
    const note = noteToMarkdown(items[1]!.details!.note ?? null)
    for (const part of ['> a quote', 'and text', '| 1 | 2 |', '```\nlet x\n```']) expect(note).toContain(part)
    expect(noteToMarkdown(items[0]!.details!.note ?? null)).toBe('said first')
    expect(noteToMarkdown(items[1]!.children[0]!.details!.note ?? null)).toBe('its note')
    expect(left).toEqual([{ what: 'picture', count: 2 }])
  })
  it('OPML: an empty text has its title, an empty number is none', () => {
    const { items } = readOpml(
      '<opml version="2.0"><body><outline text="" title="Lift" porch:done="" porch:duration=" "/><outline text=""/></body></opml>',
    )
    expect(items).toEqual([
      { title: 'Lift', children: [] },
      { title: '', children: [] },
    ])
  })
})

describe('nested text', () => {
  it('ten million lines are refused at once, with words that say what was kept', () => {
    const text = 'crate\n'.repeat(10_000_000)
    const began = performance.now()
    expect(() => readNested(text)).toThrow(/more than 100,000 lines.*Nothing was changed/)
    expect(performance.now() - began).toBeLessThan(500)
  })
  it.each([
    ['tabs', 'Fit-out\n\tShelving\n\t\tOak\n\tLift\nBooks'],
    ['two spaces', 'Fit-out\n  Shelving\n    Oak\n  Lift\nBooks\n'],
    ['uneven spaces', 'Fit-out\n   Shelving\n     Oak\n   Lift\nBooks'],
    ['bullets of several kinds', '• Fit-out\n  - Shelving\n    * Oak\n  + Lift\n• Books'],
    ['numbers', '1. Fit-out\n   1. Shelving\n      a) Oak\n   2) Lift\n2. Books'],
    ['headings', '# Fit-out\n## Shelving\n### Oak\n## Lift\n# Books'],
    ['headings and lists', '# Fit-out\n\n- Shelving\n  - Oak\n- Lift\n\n# Books'],
    ['Windows line ends and a byte order mark', '\uFEFFFit-out\r\n\tShelving\r\n\t\tOak\r\n\tLift\r\nBooks'],
    ['blank lines between', 'Fit-out\n\n\tShelving\n\n\t\tOak\n\tLift\n\n\nBooks'],
  ])('%s', (_, text) => {
    expect(all(readNested(text))).toEqual(wanted)
  })

  it('reads task boxes, continued lines, cells and escapes', () => {
    expect(readNested('- [x] Count shelves\n- [ ] Order oak\n  from the joiner')).toEqual([
      { title: 'Count shelves', details: { done: 100 }, children: [] },
      { title: 'Order oak\nfrom the joiner', details: { done: 0 }, children: [] },
    ])
    expect(all(readNested('Shelving\tOak\t14 350\nLift\tsmall'))).toEqual([
      ['Shelving', ['Oak'], ['14 350']],
      ['Lift', ['small']],
    ])
    expect(all(readNested('- \\*not bold\\*'))).toEqual([['*not bold*']])
  })

  it('reads 300 Markdown lines as they are nested', () => {
    const lines = Array.from({ length: 300 }, (_, i) => `${'  '.repeat(i % 5)}- line ${i}`)
    const items = readNested(lines.join('\n'))
    expect(items).toHaveLength(60)
    expect(titles(items[0]!)).toEqual(['line 0', ['line 1', ['line 2', ['line 3', ['line 4']]]]])
  })

  it('refuses what is over the limits, in words', () => {
    expect(() => readNested('a\n'.repeat(200_000))).toThrow(Unreadable)
    expect(() => readNested(Array.from({ length: 1000 }, (_, i) => `${' '.repeat(i)}x`).join('\n'))).toThrow(
      /levels deep/,
    )
    expect(() => readNested('x'.repeat(10_001))).toThrow(/10,000 characters/)
  })

  it('what is written as a nested list is read back the same', () => {
    const title = fc.stringMatching(/^[A-Z][a-z]{1,6}( [a-z]{2,5}){0,2}$/)
    const items = fc.letrec<{ item: OutlineItem }>(tie => ({
      item: fc.record({
        title,
        children: fc.oneof({ maxDepth: 4 }, fc.constant<OutlineItem[]>([]), fc.array(tie('item'), { maxLength: 4 })),
      }),
    })).item
    fc.assert(
      fc.property(fc.array(items, { minLength: 1, maxLength: 4 }), list => {
        expect(all(readNested(writeNested(list)))).toEqual(all(list))
        expect(all(readHtmlList(writeHtmlList(list))!)).toEqual(all(list))
      }),
    )
  })
})

describe('HTML lists', () => {
  it('reads nested lists, also where a list stands beside its item', () => {
    expect(
      all(
        readHtmlList(
          '<ul><li>Fit-out<ul><li>Shelving<ol><li>Oak</li></ol></li><li><p>Lift</p></li></ul></li><li>Books</li></ul>',
        )!,
      ),
    ).toEqual(wanted)
    expect(all(readHtmlList('<ul><li>Fit-out</li><li>Books</ul>')!)).toEqual([['Fit-out'], ['Books']])
  })
  it('reads headings with lists below, and rows of cells', () => {
    expect(
      all(readHtmlList('<h1>Fit-out</h1><h2>Shelving</h2><ul><li>Oak</li></ul><h2>Lift</h2><h1>Books</h1>')!),
    ).toEqual(wanted)
    expect(all(readHtmlList('<table><tr><td>Shelving</td><td>Oak</td></tr><tr><th>Lift</th></tr></table>')!)).toEqual([
      ['Shelving', ['Oak']],
      ['Lift'],
    ])
  })
  it('takes the words alone from hostile HTML, and says when there is no list', () => {
    expect(all(readHtmlList('<ul><li>a<script>alert(1)</script><img src=x onerror=alert(1)></li></ul>')!)).toEqual([
      ['a'],
    ])
    expect(readHtmlList('<p>just text</p>')).toBeNull()
    expect(() => readHtmlList('<ul><li>'.repeat(5000))).toThrow(Unreadable)
  })
})

describe('Markdown', () => {
  it('reads headings, lists, tasks, and takes paragraphs as notes', () => {
    const items = readMarkdown('# Fit-out\n\nThe joiner needs a **count**.\n\n- [x] Shelving\n  - Oak\n\n# Books')
    expect(all(items)).toEqual([['Fit-out', ['Shelving', ['Oak']]], ['Books']])
    expect(noteToMarkdown(items[0]!.details!.note!)).toBe('The joiner needs a **count**.')
    expect(items[0]!.children[0]!.details).toEqual({ done: 100 })
  })
  // Examples 9 and 308 of the CommonMark specification, version 0.31.2, section 5.2 and 5.3 (from memory).
  it('nests as CommonMark’s own examples do', () => {
    expect(all(readMarkdown(' - foo\n   - bar\n\t - baz'))).toEqual([['foo', ['bar', ['baz']]]])
    expect(all(readMarkdown('- foo\n  - bar\n    - baz\n\n\n      bim'))).toEqual([['foo', ['bar', ['baz']]]])
  })
  it('a tree written as Markdown reads back with titles, tasks and notes', () => {
    const items: OutlineItem[] = [
      {
        title: 'Shelving * with # signs_',
        details: { done: 100, note: noteFromMarkdown('One\n\n- two\n- **three**')! },
        children: [{ title: '1. not a number', children: [] }],
      },
      { title: 'Zwei\nZeilen', details: { done: 0 }, children: [] },
    ]
    const [root] = readMarkdown(writeMarkdown({ title: 'Move', children: items }))
    expect(titles(root!)).toEqual(['Move', ['Shelving * with # signs_', ['1. not a number']], ['Zwei\nZeilen']])
    expect(root!.children[0]!.details!.done).toBe(100)
    expect(root!.children[1]!.details!.done).toBe(0)
    expect(noteToMarkdown(root!.children[0]!.details!.note!)).toBe('One\n\n- two\n- **three**')
  })
  it('refuses hostile nesting in words, at once', () => {
    expect(() => readMarkdown('>'.repeat(20_000))).toThrow(Unreadable)
    expect(() => readMarkdown('- '.repeat(500) + 'x')).toThrow(Unreadable)
  })
})

describe('notes', () => {
  const source =
    '# Count\n\nThe *joiner* needs [it](https://tannery.example/) by ~~Monday~~ **Friday**.\n\n- oak\n- pine\n\n1. first\n\n> quoted\n\n```\ncode\n```'
  it('keep their form from Markdown to a Yjs document and back', () => {
    expect(noteToMarkdown(noteFromMarkdown(source))).toBe(source)
    expect(noteWords(noteFromMarkdown(source))).toContain('The joiner needs it by Monday Friday.')
  })
  it('drop addresses that could run something', () => {
    expect(noteToMarkdown(noteFromMarkdown('[x](javascript:alert(1))'))).toBe('x')
  })
  it('merge whatever the order', () => {
    expect(fromBase64(noteFromMarkdown('a')!).length).toBeGreaterThan(4)
  })
})

describe('OPML 2.0', () => {
  // The example "states" of the OPML 2.0 specification (opml.org/examples/states.opml), shortened; from memory.
  const states =
    '<?xml version="1.0" encoding="ISO-8859-1"?>\n<opml version="2.0"><head><title>states.opml</title><expansionState>1,6</expansionState></head><body><outline text="United States"><outline text="Far West"><outline text="Alaska"/><outline text="Nevada"><outline text="Reno"/></outline></outline></outline></body></opml>'
  it('reads the specification’s example', () => {
    const { title, items } = readOpml(states)
    expect(title).toBe('states.opml')
    expect(all(items)).toEqual([['United States', ['Far West', ['Alaska'], ['Nevada', ['Reno']]]]])
  })
  it('writes what it reads: titles with anything in them, notes, links, task fields', () => {
    const root: OutlineItem = {
      title: 'Move & "go" <now>',
      details: {
        start: '2027-03-01',
        due: '2027-05-12',
        duration: 6,
        done: 40,
        priority: 2,
        note: noteFromMarkdown('A **note**\n\nin two')!,
        links: [{ id: 'l1', url: 'https://tannery.example/', title: '' }],
      },
      children: [{ title: 'Zeile\tmit\nBruch 😀 ‏עברית', children: [] }],
    }
    const [back] = readOpml(writeOpml(root)).items
    expect(titles(back!)).toEqual(titles(root))
    expect({ ...back!.details, note: noteToMarkdown(back!.details!.note!) }).toEqual({
      ...root.details,
      note: 'A **note**\n\nin two',
    })
  })
  it('strips what XML has no place for', () => {
    expect(readOpml(writeOpml({ title: 'a\u0000b\uFFFEc\uD800d', children: [] })).items[0]!.title).toBe('abcd')
  })
  it.each([
    ['a DOCTYPE', '<!DOCTYPE opml [<!ENTITY a "aaaa">]><opml version="2.0"><body><outline text="&a;"/></body></opml>'],
    ['broken XML', '<opml version="2.0"><body><outline text="a"></body></opml>'],
    ['another document', '<html><body/></html>'],
    ['a tree without end', `<opml version="2.0"><body>${'<outline text="x">'.repeat(2000)}`],
  ])('refuses %s in words', (_, text) => {
    expect(() => readOpml(text)).toThrow(Unreadable)
  })
})

describe('Sun Porch JSON', () => {
  it('loses nothing, the trash included', () => {
    const tree = grown([
      {
        title: 'Fit-out',
        details: { note: noteFromMarkdown('x')!, markers: ['risk'], people: ['u1'], due: '2027-05-12' },
        children: [{ title: 'Lift', children: [] }],
      },
    ])
    applyChanges(tree, [
      { op: 'remove', topic: 'n1' },
      { op: 'tree', field: 'description', value: 'why' },
    ])
    const { tree: back, people } = readJson(writeJson(tree, { u1: 'Ines Brandt' }))
    expect(toSnapshot(back)).toEqual(toSnapshot(tree))
    expect(people).toEqual({ u1: 'Ines Brandt' })
    expect(toOutline(back, 'centre').children[0]!.children).toEqual([])
  })
  it.each([
    ['no JSON', '{'],
    ['another file', '{"a":1}'],
    [
      'a parent that is missing',
      wrap([
        { id: 'c', parent: null, order: 'a0' },
        { id: 'a', parent: 'zz', order: 'a0' },
      ]),
    ],
    [
      'a loop of parents',
      wrap([
        { id: 'c', parent: null, order: 'a0' },
        { id: 'a', parent: 'b', order: 'a0' },
        { id: 'b', parent: 'a', order: 'a0' },
      ]),
    ],
    [
      'one id twice',
      wrap([
        { id: 'c', parent: null, order: 'a0' },
        { id: 'a', parent: 'c', order: 'a0' },
        { id: 'a', parent: 'c', order: 'a1' },
      ]),
    ],
    [
      'a centre below another topic',
      wrap([
        { id: 'r', parent: null, order: 'a0' },
        { id: 'c', parent: 'r', order: 'a0' },
      ]),
    ],
    [
      'a bad address',
      wrap([{ id: 'c', parent: null, order: 'a0', links: [{ id: 'l', url: 'javascript:alert(1)', title: '' }] }]),
    ],
  ])('refuses %s in words', (_, text) => {
    expect(() => readJson(text)).toThrow(/Nothing was changed/)
  })
  it('describes itself as JSON Schema', () => {
    expect(jsonSchema()).toMatchObject({ $schema: 'https://json-schema.org/draft/2020-12/schema', type: 'object' })
  })
})

function wrap(topics: object[]): string {
  return JSON.stringify({ format: 'sun-porch-tree', version: 1, tree: { centre: 'c', fields: {}, topics } })
}

describe('what is dressed and arranged', () => {
  const dressed: OutlineItem = {
    title: 'Shelving',
    children: [],
    details: {
      hue: '#aa2299',
      fill: '3',
      ink: '#101010',
      textSize: 'large',
      bold: true,
      slanted: true,
      underlined: true,
      shape: 'awning',
      border: 'double',
      edge: '5',
      width: 320,
      arrangement: 'down',
      markers: ['must', 'idea'],
      start: '2027-03-01',
      due: '2027-03-05',
      duration: 3,
      done: 40,
      priority: 2,
    },
  }
  it('goes through OPML and comes back', () => {
    const text = writeOpml({ title: 'Move', children: [dressed] })
    expect(readOpml(text).items[0]!.children).toEqual([dressed])
  })
  it('what OPML from elsewhere says wrongly is left out and the topic kept', () => {
    const { items } = readOpml(
      '<opml version="2.0" xmlns:porch="urn:sun-porch:opml:1"><body><outline text="A" porch:shape="cloud" porch:width="9" porch:fill="red" porch:done="200" porch:bold="maybe" porch:markers="ok a/b"/></body></opml>',
    )
    expect(items).toEqual([{ title: 'A', details: { bold: false, markers: ['ok'] }, children: [] }])
  })
  it('loses nothing in our JSON: looks, marker sets, spacing, levels, pictures, places by hand, the tray', () => {
    const tree = grown([
      {
        ...dressed,
        details: {
          ...dressed.details,
          picture: { file: 'a'.repeat(64), width: 200, ratio: 0.5, place: 'below' },
          x: 10.5,
          y: -3,
          z: 2,
        },
      },
    ])
    applyChanges(tree, [
      { op: 'add', topic: 'line', parent: null, order: 'a0', with: { title: 'a line', tray: true } },
      { op: 'tree', field: 'arrangement', value: 'hand' },
      { op: 'tree', field: 'along', value: 150 },
      { op: 'tree', field: 'tags', value: ['river'] },
      { op: 'tree', field: 'levels', value: [{}, { bold: true }] },
      { op: 'tree-put', set: 'looks', member: { ...LOOKS[2]!, id: 'ours', name: 'Ours' } },
      { op: 'tree', field: 'look', value: 'ours' },
      {
        op: 'tree-put',
        set: 'markerSets',
        member: {
          id: 'rooms',
          name: 'Rooms',
          exclusive: true,
          markers: [{ id: 'loft', name: 'Loft', shape: 'hex', sign: 'key', hue: 'plum' }],
        },
      },
    ])
    expect(toSnapshot(readJson(writeJson(tree)).tree)).toEqual(toSnapshot(tree))
  })
  it('a file of ours with a look or a set that is none is refused whole', () => {
    const tree = grown([])
    const bad = JSON.parse(writeJson(tree)) as { tree: { fields: Record<string, unknown> } }
    bad.tree.fields.looks = [{ id: 'x', name: 'x' }]
    expect(() => readJson(JSON.stringify(bad))).toThrow(Unreadable)
  })
})
