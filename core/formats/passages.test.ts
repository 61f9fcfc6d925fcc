import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChanges, plantAt, type OutlineItem } from '../tree'
import { treeOf } from '../figures/fixtures/growing'
import { blocksOfHtml } from './html-blocks'
import {
  itemsOfPassages,
  type Passage,
  passagesOfBlocks,
  passagesOfPages,
  passagesOfSlides,
  passagesOfText,
  together,
  usedPassages,
} from './passages'
import { passageAddress } from '../tree/links'
import { noteToMarkdown } from './note-text'

const FILE = 'a'.repeat(64)
const said = (passages: readonly Passage[]): string[] =>
  passages.map(({ kind, level, text, page }) => `${kind[0]}${level}${page === null ? '' : `@${page}`} ${text}`)
const linkOf = ({ at, text }: Passage) => ({ id: `l${at}`, url: passageAddress(FILE, at), title: text.slice(0, 20) })
const lines = (items: readonly OutlineItem[], depth = 0): string[] =>
  items.flatMap(({ title, children }) => [`${'  '.repeat(depth)}${title}`, ...lines(children, depth + 1)])

const OFFER = passagesOfBlocks(
  blocksOfHtml(`<h1>Offer</h1><p>We move you.</p><h2>What is in it</h2><p>It has:</p>
    <ul><li>Crates<ul><li>for maps</li></ul></li><li>A lift</li></ul><p>Not the piano.</p>
    <h2>Price</h2><table><tr><td>Two days</td><td>4,200 euros</td></tr></table>`).blocks,
)

describe('passages', () => {
  it('of a document are its headings, paragraphs, items and rows', () => {
    expect(said(OFFER)).toEqual([
      'h1 Offer',
      'p0 We move you.',
      'h2 What is in it',
      'p0 It has:',
      'i1 Crates',
      'i2 for maps',
      'i1 A lift',
      'p0 Not the piano.',
      'h2 Price',
      'i1 Two days · 4,200 euros',
    ])
    expect(OFFER.map(({ at }) => at)).toEqual(OFFER.map((_, i) => i))
  })
  it('of slides and of plain text', () => {
    const slide = {
      title: 'Opening',
      lines: [
        { level: 0, text: 'Doors' },
        { level: 1, text: 'at ten' },
      ],
      pictures: [],
      notes: '',
    }
    expect(said(passagesOfSlides([slide, { ...slide, title: '' }]))).toEqual([
      'h1@1 Opening',
      'i1@1 Doors',
      'i2@1 at ten',
      'i1@2 Doors',
      'i2@2 at ten',
    ])
    expect(
      said(passagesOfText('# Notes\r\nFirst line\nand its end\n\n- one\n  goes on\n  - deeper\n2) two\n\n\nLast')),
    ).toEqual(['h1 Notes', 'p0 First line and its end', 'i1 one goes on', 'i2 deeper', 'i1 two', 'p0 Last'])
  })
  it('of printed pages: by gaps, sizes and marks; a parted word is one again, and nothing goes on over the page', () => {
    const line = (text: string, y: number, size = 10) => ({ text, y, size })
    expect(
      said(
        passagesOfPages([
          [
            line('The lift', 50, 20),
            line('It is inspected before the ware-', 90),
            line('house opens, and', 103),
            line('again after.', 116),
            line('A new one', 150),
            line('• Key', 163),
            line('• Card', 176),
          ],
          [line('goes on here', 50)],
        ]),
      ),
    ).toEqual([
      'h1@1 The lift',
      'p0@1 It is inspected before the warehouse opens, and again after.',
      'p0@1 A new one',
      'i1@1 Key',
      'i1@1 Card',
      'p0@2 goes on here',
    ])
  })
  it('become topics that hang as the document has it, each with its way back', () => {
    const all = new Set(OFFER.map(({ at }) => at))
    expect(lines(itemsOfPassages(OFFER, all, linkOf))).toEqual([
      'Offer',
      '  We move you.',
      '  What is in it',
      '    It has:',
      '      Crates',
      '        for maps',
      '      A lift',
      '    Not the piano.',
      '  Price',
      '    Two days · 4,200 euros',
    ])
    // Without the words that name it a list stands by itself, and without its heading all does.
    expect(lines(itemsOfPassages(OFFER, new Set([1, 4, 5, 6, 9]), linkOf))).toEqual([
      'We move you.',
      'Crates',
      '  for maps',
      'A lift',
      'Two days · 4,200 euros',
    ])
    expect(together(OFFER, 2)).toEqual([2, 3, 4, 5, 6, 7])
    expect(together(OFFER, 5)).toEqual([4, 5, 6])
    expect(together(OFFER, 1)).toEqual([1])
    expect(together(OFFER, 0)).toHaveLength(10)
  })
  it('that are long have a title and all of it as the note, word by word', () => {
    const long =
      `The tannery needs a second way out of the reading room. ${'It has *none* now [1]. '.repeat(20)}`.trim()
    const [item] = itemsOfPassages(
      [{ at: 0, kind: 'paragraph', level: 0, text: long, page: null }],
      new Set([0]),
      linkOf,
    )
    expect(item!.title).toBe('The tannery needs a second way out of the reading room.')
    expect(noteToMarkdown(item!.details!.note as string).replace(/\\/g, '')).toContain(long)
    const word = itemsOfPassages(
      [{ at: 0, kind: 'paragraph', level: 0, text: 'shelf '.repeat(90), page: null }],
      new Set([0]),
      linkOf,
    )
    expect(word[0]!.title).toMatch(/^(?:shelf )+…$/)
  })
  it('count as used by the topics that lead to them, and no longer in the trash', () => {
    const tree = treeOf([], 'A')
    let made = 0
    const { changes, made: topics } = plantAt(
      tree,
      itemsOfPassages(OFFER, new Set([4, 6]), linkOf),
      { parent: tree.centre, index: 0 },
      () => `n${made++}`,
    )
    applyChanges(tree, changes)
    expect([...usedPassages(tree, FILE)].sort()).toEqual([4, 6])
    expect(usedPassages(tree, 'b'.repeat(64)).size).toBe(0)
    applyChanges(tree, [{ op: 'remove', topic: topics[0]! }])
    expect([...usedPassages(tree, FILE)]).toEqual([6])
  })
  it('each chosen one becomes one topic, whatever is chosen', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.constantFrom('heading', 'paragraph', 'item'),
            fc.integer({ min: 1, max: 4 }),
            fc.boolean(),
            fc.boolean(),
          ),
        ),
        rolled => {
          const passages = rolled.map(([kind, level, colon], at): Passage => ({
            at,
            kind: kind as Passage['kind'],
            level: kind === 'paragraph' ? 0 : level,
            text: `t${at}${colon ? ':' : ''}`,
            page: null,
          }))
          const chosen = new Set(rolled.flatMap(([, , , is], at) => (is ? [at] : [])))
          const items = itemsOfPassages(passages, chosen, linkOf)
          // In the order of the document, each once.
          expect(lines(items).map(one => one.trim())).toEqual(
            passages.filter(({ at }) => chosen.has(at)).map(({ text }) => text),
          )
        },
      ),
    )
  })
})
