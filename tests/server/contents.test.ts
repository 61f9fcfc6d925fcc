import { strToU8, zipSync } from 'fflate'
import { describe, expect, inject, it } from 'vitest'
import { type FileContents, wordsOf } from '../../core/formats/contents'
import { bringIn, type Caller, signUp } from '../caller'
import { picture, slideDeck, wordDocument, workbook } from '../office-files'

/* What documents hold, shown in place. They're made by libraries that write these formats (docx, exceljs, pptxgenjs), not by ours. */

const url = inject('url')
async function attach(
  caller: Caller,
  tree: string,
  name: string,
  body: Uint8Array,
): Promise<{ file: string; type: string; preview: unknown }> {
  const response = await fetch(`${url}/api/trees/${tree}/attachments?name=${encodeURIComponent(name)}`, {
    method: 'POST',
    headers: { cookie: caller.cookie, 'content-type': 'application/octet-stream' },
    body: Buffer.from(body),
  })
  expect([name, response.status]).toEqual([name, 200])
  return (await response.json()) as { file: string; type: string; preview: unknown }
}
const contentsOf = (caller: Caller, tree: string, file: string, name: string) =>
  caller.call<FileContents>('GET', `/api/trees/${tree}/files/${file}/contents?name=${encodeURIComponent(name)}`)

describe('what a file holds', () => {
  it('comes as words, tables and pictures of a document', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const { file } = await attach(ines, tree, 'plan.docx', await wordDocument())
    const { status, data } = await contentsOf(ines, tree, file, 'plan.docx')
    expect(status).toBe(200)
    if (data.kind !== 'document') throw new Error(data.kind)
    expect(
      data.blocks.map(block =>
        block.kind === 'picture'
          ? block.src.slice(0, 23)
          : block.kind === 'table'
            ? block.rows
            : [block.kind, wordsOf(block.runs)],
      ),
    ).toEqual([
      ['heading', 'The move'],
      ['paragraph', 'Shelves come first'],
      ['item', 'Pack'],
      'data:image/webp;base64,',
      [['Lift', 'June']],
    ])
    expect(data.left).toEqual([])
  })

  it('comes as rows of each sheet, and of text with separators', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const { file } = await attach(ines, tree, 'costs.xlsx', await workbook())
    const { data } = await contentsOf(ines, tree, file, 'costs.xlsx')
    expect(data).toMatchObject({
      kind: 'sheets',
      sheets: [
        {
          name: 'Costs',
          rows: [
            [{ text: 'Item' }, { text: 'Cost' }],
            [{ text: 'Shelves' }, { text: '1250.5', number: '1250.5' }],
          ],
        },
        { name: 'Dates', rows: [[{ text: '2027-03-15' }]] },
      ],
    })
    const rows = await attach(ines, tree, 'a.csv', Buffer.from('Item;Cost\nLamps;1.250,50'))
    expect((await contentsOf(ines, tree, rows.file, 'a.csv')).data).toMatchObject({
      kind: 'sheets',
      sheets: [
        {
          rows: [
            [{ text: 'Item' }, {}],
            [{ text: 'Lamps' }, { text: '1.250,50' }],
          ],
        },
      ],
    })
  })

  it('comes as slides in their order, with pictures and what is said with them', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const { file } = await attach(ines, tree, 'day.pptx', await slideDeck())
    const { data } = await contentsOf(ines, tree, file, 'day.pptx')
    if (data.kind !== 'slides') throw new Error(data.kind)
    expect(data.slides).toHaveLength(2)
    expect(data.slides[0]!.title + data.slides[0]!.lines.map(({ text }) => `/${text}`).join('')).toMatch(
      /Opening day.*Doors at ten.*Cake/,
    )
    expect(data.slides[0]!.notes).toBe('Thank the firms first.')
    expect(data.slides[1]!.pictures).toMatchObject([
      { words: 'The hall from the gallery', src: expect.stringMatching(/^data:image\/webp/) },
    ])
  })

  it('is refused with words where it’s broken, too much, or nothing that is shown; nobody else sees it', async () => {
    const [ines, lev, rana] = [await signUp(url), await signUp(url, 'Lev'), await signUp(url, 'Rana')]
    const tree = await ines.makeTree()
    await bringIn(ines, tree, lev, 'viewer')
    const docx = (document: string, more: Record<string, Uint8Array> = {}): Uint8Array =>
      zipSync({
        '[Content_Types].xml': strToU8(
          '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
        ),
        '_rels/.rels': strToU8(
          '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>',
        ),
        'word/document.xml': strToU8(document),
        ...more,
      })
    const entities = `<!DOCTYPE lolz [<!ENTITY a "aaaaaaaaaa">${Array.from({ length: 9 }, (_, i) => `<!ENTITY ${'bcdefghij'[i]} "${`&${'abcdefghi'[i]};`.repeat(10)}">`).join('')}]>`
    const bomb = docx('<w:document/>', { 'word/styles.xml': new Uint8Array(60 * 1024 * 1024) })
    for (const [name, body, refusal] of [
      ['broken.docx', docx('<w:document').subarray(0, 700), /422 unreadable|415 not-shown/],
      ['open.docx', docx('<w:document'), /422 unreadable/],
      ['entities.docx', docx(`${entities}<w:document>&j;</w:document>`), /422/],
      ['bomb.docx', bomb, /422 unreadable/],
      ['words.txt', Buffer.from('Just words'), /415 not-shown/],
      ['zeroes.csv', Buffer.from('a,b\n'.repeat(10)), /^200/],
    ] as const) {
      const { file } = await attach(ines, tree, name, body)
      expect([name, await lev.refusal('GET', `/api/trees/${tree}/files/${file}/contents?name=${name}`)]).toEqual([
        name,
        expect.stringMatching(refusal),
      ])
      expect(await rana.refusal('GET', `/api/trees/${tree}/files/${file}/contents?name=${name}`)).toBe('404 no-tree')
    }
    expect(await lev.refusal('GET', `/api/trees/${tree}/files/${'0'.repeat(64)}/contents?name=a.csv`)).toBe(
      '404 no-file',
    )
  })

  it('sound says what it is, so that it can be played from any place; a page never does', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const wav = Buffer.concat([Buffer.from('RIFF\u0024\u0008\u0000\u0000WAVEfmt ', 'latin1'), Buffer.alloc(3000)])
    const { file, type } = await attach(ines, tree, 'call.wav', wav)
    expect(type).toMatch(/^audio\//)
    const get = (id: string, range: string): Promise<Response> =>
      fetch(`${url}/api/trees/${tree}/files/${id}`, { headers: { cookie: ines.cookie, range } })
    const part = await get(file, 'bytes=100-199')
    expect([part.status, part.headers.get('content-type'), part.headers.get('content-length')]).toEqual([
      206,
      type,
      '100',
    ])
    expect(part.headers.get('content-security-policy')).toContain('sandbox')
    const page = await attach(ines, tree, 'call.html', Buffer.from('<script>alert(1)</script>'))
    expect((await get(page.file, 'bytes=0-9')).headers.get('content-type')).toBe('application/octet-stream')
  })

  it('pictures are taken as TIFF too, and shown as what was drawn anew', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const { type, preview } = await attach(ines, tree, 'scan.tiff', await picture().tiff().toBuffer())
    expect([type, preview]).toEqual(['image/tiff', { file: expect.stringMatching(/^[0-9a-f]{64}$/), ratio: 40 / 60 }])
  })
})
