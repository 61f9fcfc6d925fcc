import { describe, expect, it } from 'vitest'
import {
  addAt,
  applyChanges,
  BLANK,
  emptyTree,
  type Initial,
  noteWords,
  plantAt,
  toOutline,
  topicOf,
  type Tree,
} from '../tree'
import { writeMarkdown } from './markdown'
import { noteToHtml } from './note-html'
import { noteFromMarkdown, noteToMarkdown } from './note-text'
import { readOpml, writeOpml } from './opml'
import { toReadable } from './readable'

function grow(...topics: [id: string, parent: string | null, given?: Initial][]): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  for (const [id, parent, given] of topics)
    applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id, { title: id, ...given }).changes)
  return tree
}
const HASH = 'cd'.repeat(32)

const rich = (): Tree =>
  grow(
    ['Fit-out', 'c', { numbering: null }],
    [
      'Shelving',
      'Fit-out',
      {
        note: noteFromMarkdown('Oak, **not** pine.'),
        links: [
          { id: 'l1', url: 'https://joiner.example/oak', title: 'The joiner' },
          { id: 'l2', url: 'topic:Books', title: '' },
        ],
        checks: [
          { id: 'k2', order: 'a1', text: 'Order', done: false, due: '2027-05-12', priority: null },
          { id: 'k1', order: 'a0', text: 'Measure', done: true, due: null, priority: null },
        ],
        files: [{ id: 'f', file: HASH, name: 'Quote.pdf', type: 'application/pdf', size: 9, preview: null }],
        place: { name: 'Joinery', lat: 48.2, lon: 16.37 },
        ties: [{ id: 't', to: 'Books', label: 'same lorry', ends: 'to', bend: null, hue: null }],
      },
    ],
    ['Books', 'c', { done: 30 }],
    ['old name', 'c', { reference: { tree: null, topic: 'Books' } }],
  )

describe('a tree to read', () => {
  it('has numbers before titles, the words of originals, and what hangs on topics after their notes', () => {
    const tree = rich()
    applyChanges(tree, [{ op: 'set', topic: 'c', field: 'numbering', value: { scheme: 'figures', levels: 2 } }])
    const text = writeMarkdown(toReadable(tree, 'c'))
    for (const line of [
      '- 1 Fit-out',
      '- 1.1 Shelving',
      '- [ ] 2 Books',
      '- [ ] 3 Books',
      '> Oak, **not** pine.',
      '> - [x] Measure',
      '> - [ ] Order (2027-05-12)',
      '[The joiner](https://joiner.example/oak)',
      'See Books',
      'File: Quote.pdf',
      'Place: Joinery geo:48.2,16.37',
      'same lorry: Books',
    ])
      expect(text).toContain(line)
    expect(text.indexOf('Measure')).toBeLessThan(text.indexOf('Order (2027'))
    expect(text).not.toContain('old name')
    // The tree itself is as it was.
    expect(topicOf(tree, 'Shelving').title).toBe('Shelving')
  })
  it('leaves out what a filter leaves out', () => {
    expect(
      toReadable(rich(), 'c', new Set(['c', 'Fit-out', 'Shelving'])).children.map(item => [
        item.title,
        item.children.length,
      ]),
    ).toEqual([['Fit-out', 1]])
  })
})

describe('substance in OPML', () => {
  it('links, checklists, places, annexes and numbering come back as they were; what is no such thing is passed over', () => {
    const tree = rich()
    applyChanges(tree, [
      { op: 'set', topic: 'Fit-out', field: 'annex', value: true },
      { op: 'set', topic: 'Fit-out', field: 'numbering', value: { scheme: 'roman', levels: 3 } },
    ])
    const back = grow()
    let made = 0
    applyChanges(
      back,
      plantAt(
        back,
        readOpml(writeOpml(toOutline(tree, 'c'))).items[0]!.children,
        { parent: 'c', index: 0 },
        () => `n${made++}`,
      ).changes,
    )
    const [fitOut, shelving] = [topicOf(back, 'n0'), topicOf(back, 'n1')]
    const before = topicOf(tree, 'Shelving')
    expect([fitOut.annex, fitOut.numbering]).toEqual([true, { scheme: 'roman', levels: 3 }])
    expect([shelving.links, shelving.checks, shelving.place]).toEqual([before.links, before.checks, before.place])
    const odd = readOpml(
      '<opml version="2.0"><body><outline text="x" porch:links="[{&quot;id&quot;:&quot;l&quot;,&quot;url&quot;:&quot;javascript:1&quot;,&quot;title&quot;:&quot;&quot;}]" porch:place="{" porch:checks="7"/></body></opml>',
    )
    expect(odd.items[0]!.details).toBeUndefined()
  })
})

describe('notes', () => {
  const source = `# Rooms\n\n| Room | Metres |\n| - | - |\n| Front **room** | 84 |\n| Loft | 12 |\n\n- [x] Measure\n- [ ] Order\n\n![Plan](${HASH})\n\n~~No~~ [yes](https://a.example/)`
  it('tables (GFM 4.10), tasks (GFM 5.3) and pictures of the tree come through Markdown and back', () => {
    const once = noteToMarkdown(noteFromMarkdown(source))
    expect(noteToMarkdown(noteFromMarkdown(once))).toBe(once)
    for (const part of ['| Front **room** | 84 |', '- [x] Measure', '- [ ] Order', `![Plan](${HASH})`])
      expect(once).toContain(part)
    expect(noteWords(noteFromMarkdown(source))).toMatch(/Rooms\nRoom\nMetres\nFront room\n84/)
  })
  it('as HTML hold named elements, escaped text and safe addresses only', () => {
    const html = noteToHtml(
      noteFromMarkdown(
        `${source}\n\n<img src=x onerror=alert(1)>\n\n[bad](javascript:alert(1)) ![far](https://elsewhere.example/x.png)`,
      ),
      file => `/files/${file}`,
    )
    expect(html).toContain('<th><p>Room</p></th>')
    expect(html).toContain('<td><p>Front <strong>room</strong></p></td>')
    expect(html).toContain(`<img src="/files/${HASH}" alt="Plan">`)
    expect(html).toContain('<li class="task" data-done="true">')
    expect(html).toContain('<a href="https://a.example/" rel="noopener noreferrer" target="_blank">yes</a>')
    expect(html).toContain('&lt;img src=x onerror=alert(1)&gt;')
    for (const bad of ['javascript:', '<img src=x', 'elsewhere.example/x.png"']) expect(html).not.toContain(bad)
  })
})
