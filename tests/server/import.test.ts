import { readFileSync } from 'node:fs'
import { Document, HeadingLevel, Packer, Paragraph, Table, TableCell, TableRow, TextRun } from 'docx'
import ExcelJS from 'exceljs'
import { unzipSync, zipSync } from 'fflate'
import { beforeAll, describe, expect, inject, it } from 'vitest'
import type { Foreseen } from '../../core/formats/foreseen'
import { type Caller, signUp } from '../caller'

/* Documents and workbooks of other programs come in as trees; what they are made with here are libraries of their own. */

let ines: Caller
beforeAll(async () => {
  ines = await signUp(inject('url'), 'Ines Brandt')
})

interface Came {
  readonly id?: string
  readonly foreseen?: Foreseen
  readonly left: readonly { readonly what: string; readonly count: number }[]
}
async function bring(format: string, bytes: Uint8Array | string, preview = false): Promise<Came> {
  const text = typeof bytes === 'string' ? bytes : Buffer.from(bytes).toString('base64')
  const { status, data } = await ines.call<Came>('POST', '/api/trees/import', {
    format,
    name: `The move.${format}`,
    text,
    preview,
  })
  expect([status, data]).toEqual([200, data])
  return data
}
const refused = (format: string, bytes: Uint8Array): Promise<string> =>
  ines.refusal('POST', '/api/trees/import', { format, name: 'x', text: Buffer.from(bytes).toString('base64') })
/** A tree as lines, two blanks a level. */
async function linesOf(id: string): Promise<string[]> {
  const { snapshot } = await ines.open(id)
  const below = (parent: string | null, level: number): string[] =>
    snapshot.topics
      .filter(topic => topic.parent === parent)
      .sort((a, b) => (a.order < b.order ? -1 : 1))
      .flatMap(({ id: topic, title }) => [`${'  '.repeat(level)}${title}`, ...below(topic, level + 1)])
  return below(null, 0)
}

const plan = (): Promise<Buffer> =>
  Packer.toBuffer(
    new Document({
      sections: [
        {
          children: [
            new Paragraph({ text: 'Move to the tannery', heading: HeadingLevel.TITLE }),
            new Paragraph({ text: 'Fit-out', heading: HeadingLevel.HEADING_1 }),
            new Paragraph({
              children: [new TextRun('Has to be '), new TextRun({ text: 'dry', bold: true }), new TextRun(' first.')],
            }),
            new Paragraph({ text: 'Lift', heading: HeadingLevel.HEADING_2 }),
            new Paragraph({ text: 'Doors', bullet: { level: 0 } }),
            new Paragraph({ text: 'Left', bullet: { level: 1 } }),
            new Paragraph({ text: 'Shaft', bullet: { level: 0 } }),
            new Paragraph({ text: 'Books', heading: HeadingLevel.HEADING_1 }),
            new Table({
              rows: [
                ['Crates', '120'],
                ['Maps', '8'],
              ].map(
                cells =>
                  new TableRow({ children: cells.map(cell => new TableCell({ children: [new Paragraph(cell)] })) }),
              ),
            }),
          ],
        },
      ],
    }),
  )

describe('a Word document', () => {
  it('comes in by its headings, lists, tables and paragraphs; seen first, nothing is made', async () => {
    const bytes = await plan()
    const before = (await ines.call<unknown[]>('GET', '/api/home')).data
    const { foreseen, id, left } = await bring('docx', bytes, true)
    expect([id, left]).toEqual([undefined, []])
    expect((await ines.call<unknown[]>('GET', '/api/home')).data).toEqual(before)
    expect([foreseen!.title, foreseen!.count]).toEqual(['Move to the tannery', 11])
    expect(foreseen!.lines.slice(0, 3)).toEqual([
      { level: 1, title: 'Fit-out', noted: true },
      { level: 2, title: 'Lift', noted: false },
      { level: 3, title: 'Doors', noted: false },
    ])
    const made = await bring('docx', bytes)
    expect(await linesOf(made.id!)).toEqual([
      'Move to the tannery',
      '  Fit-out',
      '    Lift',
      '      Doors',
      '        Left',
      '      Shaft',
      '  Books',
      '    Crates',
      '      120',
      '    Maps',
      '      8',
    ])
  })

  it('that is none, is old, is packed too tightly or lies about its size is refused with words, and others go on', async () => {
    expect(await refused('docx', new Uint8Array([0xd0, 0xcf, 0x11, 0xe0]))).toBe('422 unreadable')
    expect(await refused('docx', new Uint8Array(0))).toBe('422 unreadable')
    expect(await refused('docx', Buffer.from('PK\u0003\u0004 and then nothing'))).toBe('422 unreadable')
    const parts = unzipSync(await plan())
    const bomb = zipSync({ ...parts, 'word/document.xml': new Uint8Array(60 * 1024 * 1024) }, { level: 9 })
    expect(bomb.length).toBeLessThan(2_000_000)
    expect(await refused('docx', bomb)).toBe('422 unreadable')
    // Its directory says that there are a hundred bytes.
    const lie = Buffer.from(bomb)
    const size = 60 * 1024 * 1024
    for (
      let at = lie.indexOf('PK\u0001\u0002', 0, 'latin1');
      at >= 0;
      at = lie.indexOf('PK\u0001\u0002', at + 4, 'latin1')
    )
      if (lie.readUInt32LE(at + 24) === size) lie.writeUInt32LE(100, at + 24)
    expect(await refused('docx', lie)).toBe('422 unreadable')
    expect((await ines.call('GET', '/api/health')).status).toBe(200)
  })

  it('with macros comes in without them, and says so', async () => {
    const parts = unzipSync(await plan())
    const { left } = await bring('docx', zipSync({ ...parts, 'word/vbaProject.bin': new Uint8Array(40) }))
    expect(left).toEqual([{ what: 'macro', count: 1 }])
  })
})

describe('a workbook', () => {
  async function book(...sheets: readonly (readonly [string, readonly (readonly unknown[])[]])[]): Promise<Uint8Array> {
    const made = new ExcelJS.Workbook()
    for (const [name, rows] of sheets) made.addWorksheet(name).addRows(rows as unknown[][])
    return new Uint8Array(await made.xlsx.writeBuffer())
  }
  it('comes in by a level, a number or a parent; dates are dates', async () => {
    const levels = await bring(
      'xlsx',
      await book([
        'Plan',
        [
          ['Level', 'Task', 'Due'],
          [1, 'Fit-out', null],
          [2, 'Lift', new Date('2027-05-12T00:00:00Z')],
          [1, 'Books', null],
        ],
      ]),
    )
    expect(await linesOf(levels.id!)).toEqual(['The move', '  Fit-out', '    Lift', '  Books'])
    expect((await ines.open(levels.id!)).snapshot.topics.find(({ title }) => title === 'Lift')!.due).toBe('2027-05-12')
    const numbers = await bring(
      'xlsx',
      await book([
        'Plan',
        [
          ['No', 'Title'],
          ['1', 'Fit-out'],
          ['1.1', 'Lift'],
          ['2', 'Books'],
        ],
      ]),
    )
    expect(await linesOf(numbers.id!)).toEqual(['The move', '  Fit-out', '    Lift', '  Books'])
    const parents = await bring(
      'xlsx',
      await book([
        'Plan',
        [
          ['Title', 'Parent'],
          ['Fit-out', ''],
          ['Lift', 'Fit-out'],
        ],
      ]),
    )
    expect(await linesOf(parents.id!)).toEqual(['Fit-out', '  Lift'])
  })

  it('has its sheets as branches; one that is no list stays behind, and that is said', async () => {
    const { id, left } = await bring(
      'xlsx',
      await book(
        ['Plan', [['Title'], ['Lift']]],
        ['People', [['Name'], ['Rana'], ['Oskar']]],
        ['Notes', [['just words']]],
      ),
    )
    expect(await linesOf(id!)).toEqual(['The move', '  Plan', '    Lift', '  People', '    Rana', '    Oskar'])
    expect(left).toEqual([{ what: 'part', count: 1 }])
    expect(await refused('xlsx', await book(['Notes', [['just words'], ['and more']]]))).toBe('422 unreadable')
    expect(await refused('xlsx', readFileSync('package.json'))).toBe('422 unreadable')
  })
})

it('a page of the web comes in by its headings, with what stays behind counted', async () => {
  const { id, left } = await bring(
    'html',
    '<title>The move</title><h1>Fit-out</h1><p>Dry first</p><h2>Lift</h2><img src="x"><h1>Books</h1>',
  )
  expect(await linesOf(id!)).toEqual(['The move', '  Fit-out', '    Lift', '  Books'])
  expect(left).toEqual([{ what: 'image', count: 1 }])
})

it('halves of a surrogate pair, which no database and no file holds, come in as the sign for what can’t be read', async () => {
  for (const [format, text] of [
    ['markdown', '# Lift \uD83D\n\n- a \uDE00 b'],
    ['text', 'Lift\n\ta \uD83D b'],
    ['html', '<h1>Lift</h1><ul><li>a &#xD83D; b<li><a href="https://lift.example/\uD83D">\uD83D</a></ul>'],
    ['csv', 'title,level\nLift,1\na \uD83D b,2'],
  ] as const) {
    const { id } = await bring(format, text)
    expect((await linesOf(id!)).join(), format).toContain('a \uFFFD b')
  }
  // A name too.
  const { status } = await ines.call('POST', '/api/trees/import', { format: 'text', name: '\uD83D', text: 'one\ntwo' })
  expect([200, 400]).toContain(status)
})
