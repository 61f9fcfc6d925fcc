import { Document, Header, Packer, Paragraph } from 'docx'
import { beforeAll, describe, expect, inject, it } from 'vitest'
import { TAKEN } from '../../core/handing/choice'
import { type HandedTree, handedTree, TITLES } from '../handed-tree'
import { converted, pdfText, printed, told } from './programs'

/* What is handed out is opened by the programs that people open it with: LibreOffice, python-docx, qpdf, unzip. */

const url = inject('url')
let handed: HandedTree
beforeAll(async () => {
  handed = await handedTree(url)
})
async function out(body: object): Promise<Buffer> {
  const response = await fetch(`${url}/api/trees/${handed.tree}/hand-out`, {
    method: 'POST',
    headers: { cookie: handed.ines.cookie, 'content-type': 'application/json' },
    body: JSON.stringify({ today: '2027-01-01', ...body }),
  })
  expect(response.status).toBe(200)
  return Buffer.from(await response.arrayBuffer())
}
/** All words one after the other: lines break where paper ends. */
const flat = (text: string): string => text.replace(/\s+/g, ' ')
/** Readers tell words from right to left in their own order, and a sign without a glyph not at all. */
const SAID = TITLES.filter(title => !/[\u0590-\u05FF]|\p{Extended_Pictographic}/u.test(title))

/** The town's letter: a header with the title, and a place for what is written. */
const letter = (place: string): Promise<Buffer> =>
  Packer.toBuffer(
    new Document({
      sections: [
        {
          headers: { default: new Header({ children: [new Paragraph('Town of Alder: {{title}}')] }) },
          children: [new Paragraph('Prepared by {{author}}'), new Paragraph(place), new Paragraph('So much for that.')],
        },
      ],
    }),
  )
async function kept(name: string, bytes: Uint8Array): Promise<string> {
  const response = await fetch(`${url}/api/templates?name=${name}`, {
    method: 'POST',
    headers: { cookie: handed.ines.cookie, 'content-type': 'application/octet-stream' },
    body: new Uint8Array(bytes),
  })
  expect(response.status).toBe(200)
  return ((await response.json()) as { id: string }).id
}

describe('LibreOffice opens', () => {
  it('a Word document in a town’s own template: its header and what it says round the tree', async () => {
    const template = await kept('tree', await letter('{{tree}}'))
    const text = flat(printed(await out({ as: 'docx', template, with: [...TAKEN] }), 'docx'))
    expect(text).toContain(`Town of Alder: ${TITLES[0]!}`)
    const order = ['Prepared by Ines Brandt', 'Fit-out', 'Books', 'So much for that.'].map(word => text.indexOf(word))
    expect(order.every((at, i) => at > (order[i - 1] ?? -1))).toBe(true)
    for (const title of SAID) expect(text).toContain(title)
  })

  it('minutes, as they look by themselves and in the town’s template', async () => {
    const { ines, tree } = handed
    await ines.edit(tree, [
      { op: 'add', topic: 'third', parent: null, order: 'a8', with: { title: 'Meeting 3' } },
      {
        op: 'put',
        topic: 'third',
        set: 'meeting',
        member: { id: 'why', kind: 'why', text: 'Settle the Zementestrich.' },
      },
    ])
    const template = await kept('minutes', await letter('{{minutes}}'))
    for (const query of ['', `?template=${template}`]) {
      const response = await fetch(`${url}/api/trees/${tree}/meetings/third/minutes/docx${query}`, {
        headers: { cookie: ines.cookie },
      })
      expect(response.status).toBe(200)
      const text = flat(printed(new Uint8Array(await response.arrayBuffer()), 'docx'))
      expect(text).toContain('Meeting 3')
      expect(text).toContain('Settle the Zementestrich.')
      expect(text.includes('Town of Alder: Meeting 3')).toBe(query !== '')
    }
  })

  it('a Word document and makes an ODT of it with the same words (docs/decisions/0043)', async () => {
    const docx = await out({ as: 'docx', with: [...TAKEN] })
    const words = (text: Buffer): string => flat(text.toString())
    const odt = converted(docx, 'docx', 'odt')
    expect(words(converted(odt, 'odt', 'txt:Text'))).toBe(words(converted(docx, 'docx', 'txt:Text')))
  })

  it('a Word document, and its text is the tree’s', async () => {
    const text = flat(converted(await out({ as: 'docx', with: [...TAKEN] }), 'docx', 'txt:Text').toString())
    for (const title of TITLES) expect(text).toContain(title)
    for (const word of ['Zementestrich', 'Decision', 'Liftwerk', '12 May 2027', 'Fahrkorbtiefe'])
      expect(text).toContain(word)
  })

  it('a Word document, and prints it: the picture, the contents, the tree', async () => {
    const text = printed(await out({ as: 'docx', with: [...TAKEN] }), 'docx')
    for (const title of SAID) expect(flat(text)).toContain(title)
  })

  it('slides, and their text is the tree’s', async () => {
    const slides = await out({ as: 'pptx', with: [...TAKEN] })
    const text = flat(printed(slides, 'pptx'))
    for (const title of SAID) expect(text).toContain(title)
  })

  it('a workbook, and its rows are the tree’s', async () => {
    const text = converted(
      await out({ as: 'xlsx', with: [...TAKEN] }),
      'xlsx',
      'csv:Text - txt - csv (StarCalc):44,34,76,1',
    ).toString()
    for (const title of TITLES) expect(text).toContain(title.replaceAll('"', '""'))
  })

  it('a page, and its text is the tree’s', async () => {
    const text = flat(converted(await out({ as: 'html', with: [...TAKEN] }), 'html', 'txt:Text').toString())
    for (const title of TITLES) expect(text).toContain(title)
  })

  it('a picture, as drawn shapes', async () => {
    const text = flat(printed(await out({ as: 'svg', with: [...TAKEN] }), 'svg'))
    for (const title of ['Fit-out', 'Lift', 'Books']) expect(text).toContain(title)
  })
})

describe('other programs find', () => {
  it('the levels of the tree as headings of a Word document (python-docx)', async () => {
    const script = `
import sys, docx
for p in docx.Document(sys.argv[1]).paragraphs:
    if p.style.name.startswith('Heading'):
        print(p.style.name[8:], p.text)
`
    const lines = told('/usr/bin/python3', ['-c', script], await out({ as: 'docx', with: [] }), 'handed.docx')
      .trim()
      .split('\n')
    for (const [level, title] of [
      [1, 'Fit-out'],
      [2, 'Lift'],
      [1, 'Books'],
      [2, 'Party 🎉'],
    ] as const)
      expect(
        lines.some(line => line.startsWith(`${level} `) && line.endsWith(title)),
        `${level} ${title}`,
      ).toBe(true)
  })

  it('nothing wrong in a PDF (qpdf), which has its language and is tagged (pdfinfo)', async () => {
    for (const as of ['pdf', 'sheet']) {
      const bytes = await out({ as, with: [...TAKEN] })
      expect(told('qpdf', ['--check'], bytes, 'handed.pdf')).toContain('No syntax or stream encoding errors found')
      expect(pdfText(bytes)).toContain('Fit-out')
    }
    expect(told('pdfinfo', [], await out({ as: 'pdf', with: [...TAKEN] }), 'handed.pdf')).toMatch(/Tagged:\s+yes/)
  })

  it('nothing wrong in a packed folder (unzip)', async () => {
    expect(told('unzip', ['-t'], await out({ as: 'markdown', with: [...TAKEN] }), 'handed.zip')).toContain(
      'No errors detected',
    )
  })
})
