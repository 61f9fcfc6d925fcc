import { describe, expect, it } from 'vitest'
import type { OutlineItem } from '../tree/outline'
import { readHtmlDocument } from './html-document'
import { noteWords } from '../tree/note'
import { noteToMarkdown } from './note-text'

/** Items as lines, two blanks a level, a note in brackets behind its title. */
function lines(items: readonly OutlineItem[], level = 0): string[] {
  return items.flatMap(({ title, details, children }) => [
    `${'  '.repeat(level)}${title}${details?.note ? ` [${noteToMarkdown(details.note).trim()}]` : ''}`,
    ...lines(children, level + 1),
  ])
}
const read = (html: string): string[] => lines(readHtmlDocument(html).items)

describe('a written document', () => {
  it('has its headings by their ranks, its lists below them, and paragraphs as notes', () => {
    expect(
      read(`<h1>Fit-out</h1><p>What has to be <strong>dry</strong> first.</p><p>See <a href="https://oak.example/a_b">Oak</a>.</p>
        <h2>Lift</h2><ul><li>Doors<ul><li>Left</li><li>Right<p>narrow</p></li></ul></li><li>Shaft</li></ul>
        <h2>Paint</h2><p>Two coats</p><h1>Books</h1>`),
    ).toEqual([
      'Fit-out [What has to be **dry** first.\n\nSee [Oak](https://oak.example/a_b).]',
      '  Lift',
      '    Doors',
      '      Left',
      '      Right [narrow]',
      '    Shaft',
      '  Paint [Two coats]',
      'Books',
    ])
  })

  it('skips a rank without losing its place, and begins below where it began', () => {
    expect(read('<h2>A</h2><h4>B</h4><h3>C</h3><h2>D</h2>')).toEqual(['A', '  B', '  C', 'D'])
  })

  it('has a table’s rows as topics, the other cells below with what their column is called', () => {
    expect(
      read(
        '<h1>Crates</h1><table><tr><th>What</th><th>How many</th></tr><tr><td>Books</td><td>120</td></tr><tr><td><p>Maps</p></td><td></td></tr></table>',
      ),
    ).toEqual(['Crates', '  Books', '    How many: 120', '  Maps'])
  })

  it('is a list of its paragraphs where there is nothing else, and has its beginning as the note of the whole', () => {
    expect(read('<p>One</p><div>Two *stars*</div><br>')).toEqual(['One', 'Two *stars*'])
    const { title, items } = readHtmlDocument('<title>The move</title><p>In short: soon.</p><h1>Fit-out</h1>')
    expect([title, lines(items)]).toEqual(['The move', ['The move [In short: soon.]', '  Fit-out']])
  })

  it('counts what stays behind, keeps links of items, and runs nothing', () => {
    const { items, left } = readHtmlDocument(
      `<script>alert(1)</script><h1>A</h1><img src="data:,x"><p>x<sup><a href="#footnote-1">[1]</a></sup></p>
       <ul><li><a href="https://oak.example/">Oak</a></li><li><a href="javascript:alert(1)">Bad</a></li></ul>
       <ol><li id="footnote-1">small <b>print</b></li></ol>`,
    )
    expect(left).toEqual([
      { what: 'image', count: 1 },
      { what: 'footnote', count: 1 },
    ])
    expect(lines(items)).toEqual(['A [x]', '  Oak', '  Bad'])
    expect(items[0]!.children.map(({ details }) => details?.links?.map(({ url }) => url))).toEqual([
      ['https://oak.example/'],
      undefined,
    ])
  })

  it('keeps a paragraph a paragraph, whatever it begins with', () => {
    for (const said of [
      '1990. was a year',
      '- not a list',
      '+1',
      '=== end',
      '| bar',
      '~~~ wave',
      'R&D &amp; more',
      '5) five',
      '# no heading',
    ]) {
      const [{ details } = { details: undefined }] = readHtmlDocument(
        `<h1>A</h1><p>${said.replaceAll('&', '&amp;')}</p>`,
      ).items
      expect(noteWords(details!.note!)).toBe(said)
    }
    expect(read('<p>1. One</p><p>- Two</p>')).toEqual(['1. One', '- Two'])
  })

  it('takes what is never closed, and refuses what nests too deeply', () => {
    expect(read('<h1>A</h1><ul><li>B<li>C<p>D')).toEqual(['A', '  B', '  C [D]'])
    expect(() => readHtmlDocument('<ul><li>x'.repeat(5000))).toThrow('too many levels')
    expect(read(`${'<div>'.repeat(100_000)}<h1>A</h1>`)).toEqual(['A'])
  })
})
