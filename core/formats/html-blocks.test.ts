import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { contentsKindOf, wordsOf } from './contents'
import { blocksOfHtml } from './html-blocks'

const said = (html: string): string[] =>
  blocksOfHtml(html, (src, words) => (src.startsWith('known') ? { src, words } : null)).blocks.map(block =>
    block.kind === 'table'
      ? `table ${block.rows.map(row => row.join('|')).join(' / ')}`
      : block.kind === 'picture'
        ? `picture ${block.src} ${block.words}`
        : block.kind === 'item'
          ? `item${block.level} ${block.mark} ${wordsOf(block.runs)}`
          : `${block.kind}${block.kind === 'heading' ? block.level : ''} ${wordsOf(block.runs)}`,
  )

describe('a page as blocks', () => {
  it('keeps headings, paragraphs, lists in lists, tables and the pictures it was given', () => {
    expect(
      said(`<h1>The move</h1><p>From the <b>old</b>
        house.</p><ol><li>Pack<ul><li>Books</li><li><p>Maps</p><p>with their tubes</p></li></ul></li><li>Carry</li></ol>
        <table><tr><th>What</th><th>When</th></tr><tr><td><p>Shelves</p><p>new</p></td><td>March</td></tr></table>
        <p><img src="known-1" alt="The hall"><img src="https://example.org/x.png"></p><h2>After</h2>Loose words`),
    ).toEqual([
      'heading1 The move',
      'paragraph From the old house.',
      'item1 1. Pack',
      'item2 • Books',
      'item2 • Maps',
      'item2  with their tubes',
      'item1 2. Carry',
      'table What|When / Shelves\nnew|March',
      'picture known-1 The hall',
      'heading2 After',
      'paragraph Loose words',
    ])
  })
  it('tells what is strong, slanted or leads somewhere safe', () => {
    const [block] = blocksOfHtml(
      '<p>See <a href="https://tannery.example/plan">the <em>plan</em></a>, <a href="javascript:alert(1)">not this</a>, <strong>now</strong><br>or later</p>',
    ).blocks
    expect(block).toEqual({
      kind: 'paragraph',
      runs: [
        { text: 'See ' },
        { text: 'the ', link: 'https://tannery.example/plan' },
        { text: 'plan', slanted: true, link: 'https://tannery.example/plan' },
        { text: ', not this, ' },
        { text: 'now', strong: true },
        { text: '\nor later' },
      ],
    })
  })
  it('lets nothing through that runs, is asked for or stands behind', () => {
    expect(
      said(
        '<title>x</title><script>a()</script><style>p{}</style><svg><text>drawn</text></svg><select><option>a</select><p onclick="x()">Words</p><iframe src="/">no</iframe>',
      ),
    ).toEqual(['paragraph Words'])
  })
  it('never fails, and never grows beyond what it was given, whatever is closed or not', () => {
    const tag = fc.constantFrom(...'p b em a ul ol li table tr td h1 h3 br img div script svg'.split(' '))
    const piece = fc.oneof(
      fc.string({ maxLength: 12 }),
      tag.map(name => `<${name}>`),
      tag.map(name => `</${name}>`),
    )
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 60 }), pieces => {
        const { blocks } = blocksOfHtml(pieces.join(''))
        expect(blocks.length).toBeLessThanOrEqual(pieces.length + 1)
        for (const block of blocks)
          if (block.kind !== 'table' && block.kind !== 'picture')
            expect(wordsOf(block.runs)).toBe(wordsOf(block.runs).trim())
      }),
    )
  })
  it('says when there is more than is shown', () => {
    expect(blocksOfHtml('<p>a</p>'.repeat(20_001))).toMatchObject({ cut: true, blocks: { length: 20_000 } })
    expect(blocksOfHtml('<div>'.repeat(20_000) + 'deep')).toMatchObject({ cut: false, blocks: { length: 1 } })
  })
})

it('a file’s kind follows its bytes, and its name only where it’s text', () => {
  const office = 'application/vnd.openxmlformats-officedocument.'
  for (const [type, name, kind] of [
    [`${office}wordprocessingml.document`, 'plan', 'document'],
    [`${office}spreadsheetml.sheet`, 'plan.docx', 'sheets'],
    [`${office}presentationml.presentation`, 'plan.pptx', 'slides'],
    ['text/plain', 'Costs.CSV', 'sheets'],
    ['text/plain', 'page.htm', 'document'],
    ['text/plain', 'notes.txt', null],
    ['application/zip', 'costs.csv', null],
    ['application/zip', 'costs.XLSX', 'sheets'],
    ['text/plain', 'costs.xlsx', null],
  ] as const)
    expect([type, name, contentsKindOf({ type, name })]).toEqual([type, name, kind])
})
