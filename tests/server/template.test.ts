import { Header, Paragraph, Table, TableCell, TableRow } from 'docx'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import mammoth from 'mammoth'
import { SaxesParser } from 'saxes'
import { afterEach, beforeAll, describe, expect, inject, it } from 'vitest'
import { noteFromMarkdown } from '../../core/formats/note-text'
import type { TemplateSaid } from '../../core/handing/template'
import { bringIn, type Caller, newId, signUp } from '../caller'
import { letter } from './town-letter'

/* A firm's own Word document as a template (ISO/IEC 29500): what it has stays, what its fields name is written into it. */

const url = inject('url')
let ines: Caller
let tree: string
let centre: string

/** What a test keeps it forgets: a tree has twenty at most. */
const kept: [tree: string, id: string][] = []
afterEach(async () => {
  for (const [from, member] of kept.splice(0)) await ines.edit(from, [{ op: 'tree-take', set: 'templates', member }])
})

async function keep(bytes: Uint8Array, name = 'letter.docx'): Promise<{ file: string; id: string }> {
  const response = await fetch(`${url}/api/trees/${tree}/attachments?name=${name}`, {
    method: 'POST',
    headers: { cookie: ines.cookie, 'content-type': 'application/octet-stream' },
    body: Buffer.from(bytes),
  })
  const { file } = (await response.json()) as { file: string }
  const id = newId()
  await ines.edit(tree, [{ op: 'tree-put', set: 'templates', member: { id, name, file } }])
  kept.push([tree, id])
  return { file, id }
}
const said = (file: string, caller = ines) =>
  caller.call<TemplateSaid & { error?: { message: string } }>('GET', `/api/trees/${tree}/templates/${file}`)

async function handed(path: string, body?: object): Promise<{ status: number; bytes: Buffer }> {
  const response = await fetch(`${url}/api/trees/${tree}${path}`, {
    method: body ? 'POST' : 'GET',
    headers: { cookie: ines.cookie, 'content-type': 'application/json' },
    ...(body ? { body: JSON.stringify(body) } : {}),
  })
  return { status: response.status, bytes: Buffer.from(await response.arrayBuffer()) }
}
/** Its XML parts; each is well-formed (XML 1.0), or this throws. */
function partsOf(bytes: Buffer): Record<string, string> {
  const parts: Record<string, string> = {}
  for (const [name, data] of Object.entries(unzipSync(bytes)))
    if (/\.(?:xml|rels)$/.test(name)) {
      parts[name] = strFromU8(data)
      const parser = new SaxesParser()
      parser.on('error', error => {
        throw new Error(`${name}: ${error.message}`)
      })
      parser.write(parts[name]).close()
    }
  return parts
}
const words = (xml: string): string =>
  xml
    .replace(/<\/w:p>/g, '\n')
    .replace(/<[^>]+>/g, '')
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&amp;', '&')

beforeAll(async () => {
  ines = await signUp(url)
  tree = await ines.makeTree('Move <to> the tannery')
  centre = (await ines.open(tree)).snapshot.centre
  await ines.edit(tree, [
    { op: 'add', topic: 'fit', parent: centre, order: 'a0', with: { title: 'Fit-out {{author}} & {{tree}}' } },
    { op: 'add', topic: 'lift', parent: 'fit', order: 'a0', with: { title: 'Lift', people: [ines.id], done: 50 } },
    { op: 'add', topic: 'deep', parent: 'lift', order: 'a0', with: { title: 'Doors' } },
    { op: 'add', topic: 'bolt', parent: 'deep', order: 'a0', with: { title: 'Bolts' } },
    { op: 'add', topic: 'books', parent: centre, order: 'a1', with: { title: 'Books' } },
    { op: 'put', topic: 'lift', set: 'links', member: { id: 'l', url: 'https://liftwerk.example', title: 'Liftwerk' } },
  ])
})
const WANTED = { as: 'docx', headings: 2, with: ['tasks', 'links', 'numbers'], today: '2027-03-01' }

describe('a Word document of one’s own as a template', () => {
  it('keeps paper, header, footer, logo and styles, and has what its fields name', async () => {
    const { id, file } = await keep(
      await letter(['Minute of {{title}}', 'by {{author}}', '{{contents}}', 'Before', '{{tree}}', 'After', '{{ref}}']),
    )
    const { data } = await said(file)
    expect(data).toEqual({
      fields: ['title', 'author', 'contents', 'tree', 'date'],
      unknown: ['ref'],
      tree: true,
      headings: [2, 3, 4, 5, 6],
      styles: ['List Paragraph', 'Hyperlink'],
    })
    const { status, bytes } = await handed('/hand-out', { ...WANTED, template: id })
    expect(status).toBe(200)
    const parts = partsOf(bytes)
    const text = words(parts['word/document.xml']!)
    expect(text).toContain('Minute of Move <to> the tannery')
    expect(text).toContain('by Ines Brandt')
    // Somebody's own words in braces are words.
    expect(text.match(/Fit-out \{\{author\}\} & \{\{tree\}\}/g)?.length).toBeGreaterThanOrEqual(1)
    expect(text.indexOf('Before')).toBeLessThan(text.indexOf('Lift'))
    expect(text.indexOf('Bolts')).toBeLessThan(text.indexOf('After'))
    expect(text).toContain('{{ref}}')
    // No mark of ours is left.
    expect(JSON.stringify(parts)).not.toMatch(/[\da-f]{8}-(?:[\da-f]{4}-){3}[\da-f]{12} [a-z]+\}/)
    const headers = Object.keys(parts).filter(name => /^word\/header/.test(name))
    expect(headers.map(name => words(parts[name]!)).join()).toContain('Town of Alder: Move <to> the tannery')
    const footers = Object.keys(parts).filter(name => /^word\/footer/.test(name))
    expect(footers.map(name => words(parts[name]!)).join()).toContain('Confidential, 1 Mar 2027')
    // The firm's heading, by whatever id it has; ours where it has none.
    expect(parts['word/document.xml']).toMatch(/<w:pStyle w:val="berschrift1"\/>/)
    expect(parts['word/document.xml']).not.toMatch(/<w:pStyle w:val="Heading1"\/>/)
    expect(parts['word/styles.xml']).toMatch(/w:styleId="Heading2"/)
    expect(parts['word/document.xml']).toMatch(/w:w="9000"/)
    // The table of tasks is as wide as the paper's text.
    expect(parts['word/document.xml']).toMatch(/<w:tblW [^>]*w:w="7000"/)
    const { value } = await mammoth.convertToHtml({ buffer: bytes })
    expect(value).toContain('<a href="https://liftwerk.example">')
    expect(value).toMatch(/<h1>.*1 Fit-out/)
  })

  it('names one place by one bookmark, though the title stands there twice', async () => {
    const { id } = await keep(await letter(['{{title}}', 'Again: {{title}}', '{{tree}}']))
    const { bytes } = await handed('/hand-out', { ...WANTED, template: id })
    const xml = partsOf(bytes)['word/document.xml']!
    for (const attribute of ['name', 'id']) {
      const said = [...xml.matchAll(new RegExp(`<w:bookmarkStart[^>]* w:${attribute}="([^"]+)"`, 'g'))].map(
        ([, one]) => one,
      )
      expect(said.length).toBeGreaterThan(3)
      expect(new Set(said).size).toBe(said.length)
    }
  })

  it('takes braces in somebody’s own words for words: in titles, the words of links, comments and notes', async () => {
    const own = await ines.makeTree('Own {{author}} {{tree}}')
    const centre = (await ines.open(own)).snapshot.centre
    await ines.edit(own, [
      {
        op: 'add',
        topic: 'a',
        parent: centre,
        order: 'a0',
        with: {
          title: 'A {{title}}',
          people: [ines.id],
          note: noteFromMarkdown('Note {{tree}} and [here {{key}}](https://tannery.example)'),
          links: [{ id: 'l', url: 'https://liftwerk.example', title: 'Link {{tree}} {{ date }}' }],
          place: { name: 'Place {{contents}}', lat: 1, lon: 2 },
        },
      },
    ])
    const before = tree
    tree = own
    try {
      const { id } = await keep(await letter(['{{title}}', 'by {{author}}', '{{tree}}', '{{people}}']))
      const { status, bytes } = await handed('/hand-out', { ...WANTED, with: [...WANTED.with, 'notes'], template: id })
      expect(status).toBe(200)
      const text = words(partsOf(bytes)['word/document.xml']!)
      for (const said of [
        'Own {{author}} {{tree}}',
        'A {{title}}',
        'Note {{tree}} and here {{key}}',
        'Link {{tree}} {{ date }}',
        'Place {{contents}}',
      ])
        expect(text).toContain(said)
      expect(text.match(/by Ines Brandt/g)).toHaveLength(1)
    } finally {
      tree = before
    }
  })

  it('without a place for the tree has it behind its last line, and one with nothing but a header too', async () => {
    for (const fields of [['Dear town'], []]) {
      const { id, file } = await keep(await letter(fields))
      expect((await said(file)).data.tree).toBe(false)
      const { bytes } = await handed('/hand-out', { ...WANTED, template: id })
      const text = words(partsOf(bytes)['word/document.xml']!)
      expect(text.indexOf('Dear town')).toBeLessThan(text.indexOf('Lift'))
      // The paper is still the last thing said of it.
      expect(partsOf(bytes)['word/document.xml']).toMatch(/<\/w:sectPr><\/w:body>/)
    }
  })

  it('has its fields filled wherever a word processor puts them', async () => {
    const parts = unzipSync(await letter(['{{title}}', '{{tree}}']))
    const document = strFromU8(parts['word/document.xml']!)
    const paragraph = /<w:p><w:r><w:t[^>]*>\{\{tree\}\}<\/w:t><\/w:r><\/w:p>/
    const places: Readonly<Record<string, string>> = {
      'a text box': document.replace(
        paragraph,
        '<w:p><w:r><w:pict><v:shape xmlns:v="urn:schemas-microsoft-com:vml"><v:textbox><w:txbxContent>$&</w:txbxContent></v:textbox></v:shape></w:pict></w:r></w:p>',
      ),
      'a content control': document.replace(paragraph, '<w:sdt><w:sdtContent>$&</w:sdtContent></w:sdt>'),
      'a cell': document.replace(paragraph, '<w:tbl><w:tr><w:tc>$&</w:tc></w:tr></w:tbl>'),
      'a field cut by a link': document.replace(
        '{{title}}',
        '{{</w:t></w:r><w:hyperlink w:anchor="a"><w:r><w:t>title</w:t></w:r></w:hyperlink><w:r><w:t>}}',
      ),
      'beside words that were struck out': document.replace(
        '{{title}}',
        'a</w:t></w:r><w:del w:id="9" w:author="x"><w:r><w:delText>{{author}}</w:delText></w:r></w:del><w:r><w:t>{{ title }}',
      ),
    }
    for (const [where, xml] of Object.entries(places)) {
      expect([where, xml === document]).toEqual([where, false])
      const { id } = await keep(zipSync({ ...parts, 'word/document.xml': strToU8(xml) }))
      const { status, bytes } = await handed('/hand-out', { ...WANTED, template: id })
      expect([where, status]).toEqual([where, 200])
      const text = words(partsOf(bytes)['word/document.xml']!)
      expect(text, where).toContain('Move <to> the tannery')
      expect(text, where).toContain('Bolts')
      // A cell ends with a paragraph (ISO/IEC 29500-1, 17.4.65, from memory).
      if (where === 'a cell') expect(partsOf(bytes)['word/document.xml']).toContain('</w:p></w:tc>')
    }
  })

  it('that counts its headings doesn’t count those that have the tree’s numbers', async () => {
    const bytes = await letter(['{{tree}}'])
    const parts = unzipSync(bytes)
    const counted = strFromU8(parts['word/styles.xml']!).replace(
      /(<w:name w:val="heading 1"\/>.*?)(<w:rPr>)/s,
      '$1<w:pPr><w:numPr><w:numId w:val="7"/></w:numPr></w:pPr>$2',
    )
    const { id } = await keep(zipSync({ ...parts, 'word/styles.xml': strToU8(counted) }))
    const heading = async (along: string[]) => {
      const made = await handed('/hand-out', { ...WANTED, with: along, template: id })
      return /<w:pPr>(?:(?!<\/w:pPr>).)*berschrift1(?:(?!<\/w:pPr>).)*<\/w:pPr>/s.exec(
        partsOf(made.bytes)['word/document.xml']!,
      )![0]
    }
    expect(await heading(['numbers'])).toContain('<w:numId w:val="0"/>')
    expect(await heading([])).not.toContain('w:numId')
  })

  it('has the minutes too', async () => {
    const { id } = await keep(await letter(['{{title}}', '{{minutes}}', '{{actions}}']))
    await ines.edit(tree, [
      { op: 'put', topic: 'fit', set: 'meeting', member: { id: 'why', kind: 'why', text: 'Settle the lift.' } },
    ])
    const { status, bytes } = await handed(`/meetings/fit/minutes/docx?template=${id}`)
    expect(status).toBe(200)
    const parts = partsOf(bytes)
    expect(words(parts['word/document.xml']!)).toContain('Settle the lift.')
    expect(Object.keys(parts).some(name => /^word\/header/.test(name))).toBe(true)
    const gone = await handed('/meetings/fit/minutes/docx?template=gone')
    expect([gone.status, JSON.parse(gone.bytes.toString()).error.message]).toEqual([
      422,
      expect.stringContaining('isn’t there any more'),
    ])
  })

  it('goes along in a copy with files, and stays behind in one without', async () => {
    const { id } = await keep(await letter(['{{tree}}']))
    for (const files of [true, false]) {
      const { data } = await ines.call<{ id: string }>('POST', `/api/trees/${tree}/duplicate`, {
        notes: true,
        people: true,
        dates: true,
        progress: true,
        files,
        shift: 0,
      })
      const response = await fetch(`${url}/api/trees/${data.id}/hand-out`, {
        method: 'POST',
        headers: { cookie: ines.cookie, 'content-type': 'application/json' },
        body: JSON.stringify({ ...WANTED, template: id }),
      })
      expect(response.status).toBe(files ? 200 : 422)
    }
  })

  it('is refused with words where it holds macros, declares entities, is no document, unfolds too far or says a place twice', async () => {
    const good = unzipSync(await letter(['{{tree}}']))
    const types = strFromU8(good['[Content_Types].xml']!)
    const cases: readonly (readonly [string, Uint8Array, RegExp])[] = [
      ['macros', zipSync({ ...good, 'word/vbaProject.bin': new Uint8Array(4) }), /macros/],
      [
        'a macro document by its type',
        zipSync({
          ...good,
          '[Content_Types].xml': strToU8(
            types.replace(
              'vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml',
              'vnd.ms-word.document.macroEnabled.main+xml',
            ),
          ),
        }),
        /macros/,
      ],
      [
        'entities',
        zipSync({
          ...good,
          'word/document.xml': strToU8(
            `<!DOCTYPE a [<!ENTITY a "${'a'.repeat(99)}">]>${strFromU8(good['word/document.xml']!)}`,
          ),
        }),
        /isn’t a Word document/,
      ],
      ['no document', strToU8('Dear town'), /isn’t a Word document/],
      ['a sheet', zipSync({ 'xl/workbook.xml': strToU8('<a/>') }), /isn’t a Word document/],
      ['broken', zipSync({ ...good, 'word/document.xml': strToU8('<w:document><w:body>') }), /isn’t a Word document/],
      ['a bomb', zipSync({ ...good, 'word/media/a.bin': new Uint8Array(60_000_000) }), /too large/],
      ['twice', await letter(['{{tree}}', '{{tree}}']), /2 times/],
      ['words beside', await letter(['See {{tree}}']), /words beside it/],
      ['a deep one', zipSync({ ...good, 'word/document.xml': deep() }), /nests too deeply|isn’t a Word document/],
    ]
    for (const [what, bytes, why] of cases) {
      const { id, file } = await keep(bytes, `${what.replaceAll(' ', '-')}.docx`)
      const answer = await said(file)
      const made = await handed('/hand-out', { ...WANTED, template: id })
      // A tree of elements is only built when it's filled.
      if (what !== 'a deep one') expect([what, answer.status]).toEqual([what, 422])
      expect([what, made.status]).toEqual([what, 422])
      expect(JSON.parse(made.bytes.toString()).error.message, what).toMatch(why)
      if (what !== 'a deep one') expect(answer.data.error?.message, what).toMatch(why)
    }
  }, 240_000)

  it('a header has no room for a tree; an attached template elsewhere is let go of; a .dotx comes out as a document', async () => {
    const good = unzipSync(
      await letter([], {
        sections: [
          {
            headers: { default: new Header({ children: [new Paragraph('{{tree}}')] }) },
            children: [
              new Table({
                rows: [new TableRow({ children: [new TableCell({ children: [new Paragraph('{{key}}')] })] })],
              }),
            ],
          },
        ],
      }),
    )
    const types = strFromU8(good['[Content_Types].xml']!)
    const settings = strFromU8(good['word/settings.xml']!)
    const { id, file } = await keep(
      zipSync({
        ...good,
        '[Content_Types].xml': strToU8(types.replace('document.main+xml', 'template.main+xml')),
        'word/settings.xml': strToU8(
          settings.replace('</w:settings>', '<w:attachedTemplate r:id="rId9"/></w:settings>'),
        ),
        'word/_rels/settings.xml.rels': strToU8(
          '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId9" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/attachedTemplate" Target="https://elsewhere.example/a.dotm" TargetMode="External"/></Relationships>',
        ),
      }),
    )
    expect((await said(file)).data).toMatchObject({ unknown: ['tree'], tree: false, fields: ['key'] })
    const { bytes } = await handed('/hand-out', { ...WANTED, template: id })
    const all = JSON.stringify(partsOf(bytes))
    expect(all).not.toContain('elsewhere.example')
    expect(all).not.toContain('attachedTemplate')
    expect(partsOf(bytes)['[Content_Types].xml']).toContain('wordprocessingml.document.main+xml')
    // As it stands: there is no room for a tree there.
    const header = Object.keys(partsOf(bytes)).find(name => /^word\/header/.test(name))!
    expect(words(partsOf(bytes)[header]!).trim()).toBe('{{tree}}')
    expect(words(partsOf(bytes)['word/document.xml']!)).toContain('Lift')
  })

  it('is read by whoever is in the tree, and nobody else; a file of another tree is none of this one', async () => {
    const { file } = await keep(await letter(['{{tree}}']))
    const rana = await signUp(url, 'Rana')
    expect((await said(file, rana)).status).toBe(404)
    await bringIn(ines, tree, rana, 'viewer')
    expect((await said(file, rana)).status).toBe(200)
    const own = await rana.makeTree()
    expect((await rana.call('GET', `/api/trees/${own}/templates/${file}`)).status).toBe(404)
    const put = await rana.tryEdit(tree, [{ op: 'tree-put', set: 'templates', member: { id: 'x', name: 'X', file } }])
    expect(put.status).toBe(403)
  })
})

/** Elements in one another, farther than a recursion goes. */
function deep(): Uint8Array {
  const ns = 'http://schemas.openxmlformats.org/wordprocessingml/2006/main'
  const n = 60_000
  return strToU8(
    `<w:document xmlns:w="${ns}"><w:body><w:p>${'<w:r>'.repeat(n)}${'</w:r>'.repeat(n)}</w:p></w:body></w:document>`,
  )
}
