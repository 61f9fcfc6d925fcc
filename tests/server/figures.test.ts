import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, inject, it } from 'vitest'
import ExcelJS from 'exceljs'
import type { ReadTable } from '../../core/figures/table'
import { matchingOf, takingOf } from '../../core/figures/taking'
import { figuresAt } from '../../core/figures/told'
import { fromSnapshot, numberOf } from '../../core/tree'
import { parseTyped } from '../../core/figures/parse'
import type { ToldFigures } from '../../core/figures/told'
import { RESERVED } from '../../core/figures/vocabulary'
import { bringIn, type Caller, signUp } from '../caller'

const url = inject('url')
let ines: Caller
let rana: Caller
let stranger: Caller
let tree: string

const measure = (id: string, name: string, unit: string) => ({
  op: 'tree-put',
  set: 'measures',
  member: {
    id,
    order: 'a0',
    name,
    unit,
    decimals: 2,
    rounding: 'half-even',
    rollUp: 'sum',
    by: null,
    hue: null,
    limit: 'most',
    onPlank: false,
  },
})
const give = (topic: string, id: string, text: string) => ({
  op: 'put',
  topic,
  set: 'figures',
  member: { id, measure: id, whatIf: null, text, target: null, range: null },
})
const read = (caller: Caller, query = '') => caller.call<ToldFigures>('GET', `/api/trees/${tree}/figures${query}`)
const valueOf = ({ figures }: ToldFigures, topic: string, of = 'cost') =>
  figures.find(one => one.topic === topic && one.measure === of)

beforeAll(async () => {
  ines = await signUp(url, 'Ines Brandt')
  rana = await signUp(url, 'Rana Tahiri')
  stranger = await signUp(url, 'Lev Stone')
  tree = await ines.makeTree('Move')
  await bringIn(ines, tree, rana, 'viewer')
  const { centre } = (await ines.open(tree)).snapshot
  const add = (topic: string, parent: string, order: string) => ({
    op: 'add',
    topic,
    parent,
    order,
    with: { title: topic },
  })
  await ines.edit(tree, [
    measure('cost', 'Cost', 'EUR'),
    measure('hours', 'Hours', 'h'),
    add('rooms', centre, 'a0'),
    add('lift', 'rooms', 'a0'),
    add('lamps', 'rooms', 'a1'),
    give('lift', 'cost', '0.1'),
    give('lamps', 'cost', '={m:cost} of {t:lift} × 2'),
    give('lamps', 'hours', '=1 ÷ 0'),
  ] as never)
})

describe('figures by the API', () => {
  it('are told as they’re stored, formulas as they’re typed, faults in words; to whoever may look', async () => {
    const { data } = await read(rana)
    expect(valueOf(data, 'rooms')).toMatchObject({ value: '0.3', own: false, formula: null, fault: null })
    expect(valueOf(data, 'lamps')).toMatchObject({ value: '0.2', own: true, formula: '=Cost of "lift" × 2' })
    expect(valueOf(data, 'lamps', 'hours')).toMatchObject({ value: null, fault: 'It’s divided by zero.' })
    expect((await read(stranger)).status).toBe(404)
  })
  it('a formula is tried in anybody’s signs, and changes nothing', async () => {
    const attempt = async (formula: string, more: object = {}): Promise<unknown> =>
      (
        await rana.call('POST', `/api/trees/${tree}/figures/evaluate`, {
          topic: 'lift',
          measure: 'hours',
          formula,
          ...more,
        })
      ).data
    expect(await attempt('=1,5 + 1.000', { locale: 'de-DE' })).toEqual({ value: '1001.5', fault: null, span: null })
    expect(await attempt('Cost × 2')).toMatchObject({ fault: 'It comes out in “EUR”, and is to be in “h”.' })
    expect(await attempt('=2 + Nonsense')).toEqual({
      value: null,
      fault: '“Nonsense” is no measure of this tree.',
      span: { from: 4, to: 12 },
    })
    expect((await read(ines)).data.figures).toHaveLength(7)
    for (const [body, status] of [
      [{ topic: 'nobody', measure: 'cost', formula: '1' }, 404],
      [{ topic: 'lift', measure: 'none', formula: '1' }, 404],
      [{ topic: 'lift', measure: 'cost', formula: '1', whatIf: 'none' }, 404],
      [{ topic: 'lift', measure: 'cost', formula: '9'.repeat(10_000) }, 400],
      [{ topic: 'lift', measure: 'cost', formula: '1', locale: 'x'.repeat(30) }, 400],
    ] as const)
      expect([body, (await ines.call('POST', `/api/trees/${tree}/figures/evaluate`, body)).status]).toEqual([
        body,
        status,
      ])
  })
  it('are told as they were after an edit', async () => {
    const { version } = (await ines.open(tree)) as unknown as { version: number }
    await ines.edit(tree, [give('lift', 'cost', '7')] as never)
    expect(valueOf((await read(ines)).data, 'rooms')!.value).toBe('21')
    expect(valueOf((await read(ines, `?moment=${version}`)).data, 'rooms')!.value).toBe('0.3')
    expect((await read(ines, '?moment=0')).data.measures).toEqual([])
    expect((await read(ines, '?moment=99999')).status).toBe(404)
    await ines.edit(tree, [give('lift', 'cost', '0.1')] as never)
  })
  it('a loop that two people make at once is kept by both, and shown', async () => {
    await bringIn(ines, tree, stranger, 'editor')
    await Promise.all([
      ines.edit(tree, [give('lift', 'hours', '={m:hours} of {t:lamps}')] as never),
      stranger.edit(tree, [give('lamps', 'hours', '={m:hours} of {t:lift}')] as never),
    ])
    const { data } = await read(ines)
    for (const topic of ['lift', 'lamps', 'rooms'])
      expect(valueOf(data, topic, 'hours')!.fault).toBe(
        'These stand on one another: “Hours” of “lift”, “Hours” of “lamps”. Give one of them a number.',
      )
  })
  it('what no figure can be is refused at the door', async () => {
    for (const text of ['1e400', '0x1f', 'ten', '1,250', ' 5', '1'.repeat(16), '0.12345678901', '='.padEnd(5000, '(')])
      expect([text.slice(0, 20), (await ines.tryEdit(tree, [give('lift', 'cost', text)] as never)).status]).toEqual([
        text.slice(0, 20),
        400,
      ])
    // A formula that can't be read says so, and nothing else falls.
    await ines.edit(tree, [give('lamps', 'cost', '=' + '('.repeat(900))] as never)
    const { data } = await read(ines)
    expect(valueOf(data, 'lamps')!.fault).toBe('More than 60 brackets and functions stand in one another.')
    expect(valueOf(data, 'lift')!.value).toBe('0.1')
    expect((await rana.tryEdit(tree, [give('lift', 'cost', '5')] as never)).status).toBe(403)
  })
  it('the formulas in the docs are read, each with the names it uses', () => {
    const text = readFileSync('docs/formulas.md', 'utf8')
    const named = (...names: string[]) => names.map(name => ({ id: name.toLowerCase(), name }))
    const formulas = /```\n(=[\s\S]*?)```/.exec(text)![1]!.trim().split('\n')
    expect(formulas.length).toBeGreaterThan(4)
    for (const formula of formulas)
      expect(
        parseTyped(formula.slice(1), {
          measures: named('Cost', 'Hours', 'Rate'),
          values: named('Spare', 'Wage'),
          markers: named('Decision'),
          people: [],
          spaced: false,
          readNumber: one => one,
          topicsCalled: words => [words.toLowerCase().replace(/\W/g, '')],
        }).stored,
      ).toContain('{')
    for (const word of RESERVED) expect(text).toContain(word)
  })
})

describe('tables that figures are taken from', () => {
  const send = async (caller: Caller, bytes: Uint8Array | string, name = 'costs.xlsx') => {
    const answer = await fetch(`${url}/api/trees/${tree}/figures/tables?name=${name}`, {
      method: 'POST',
      headers: { cookie: caller.cookie, origin: url, 'content-type': 'application/octet-stream' },
      body: bytes as BodyInit,
    })
    return {
      status: answer.status,
      data: (await answer.json()) as ReadTable[] & { error?: { code: string; message: string } },
    }
  }
  const workbook = async (fill: (book: ExcelJS.Workbook) => void): Promise<Uint8Array> => {
    const book = new ExcelJS.Workbook()
    fill(book)
    return new Uint8Array(await book.xlsx.writeBuffer())
  }

  it('are read sheet by sheet: numbers as they stand, formulas as such, merged cells once, days as days', async () => {
    const bytes = await workbook(book => {
      const sheet = book.addWorksheet('Budget')
      sheet.addRow(['Budget'])
      sheet.mergeCells('A1:C1')
      sheet.addRow([])
      sheet.addRow(['Topic', 'Cost, EUR', 'Until'])
      sheet.addRow(['lift', 0.1 + 0.2, new Date('2027-03-01T00:00:00Z')])
      sheet.addRow(['lamps', { richText: [{ text: '1' }, { text: '2' }] }, true])
      sheet.addRow(['rooms', { formula: 'SUM(B4:B5)', result: 12.3 }])
      book.addWorksheet('Empty')
      book.addWorksheet('Other').addRow(['x', 1])
    })
    const { status, data } = await send(ines, bytes)
    expect(status).toBe(200)
    expect(data.map(({ name }) => name)).toEqual(['Budget', 'Other'])
    const said = data[0]!.rows.map(row => row.map(cell => cell && [cell.text, cell.number, cell.formula]))
    expect(said[2]!.slice(0, 2)).toEqual([
      ['Topic', null, false],
      ['Cost, EUR', null, false],
    ])
    expect(said[3]).toEqual([
      ['lift', null, false],
      [String(0.1 + 0.2), '0.3', false],
      ['2027-03-01', null, false],
    ])
    expect(said[4]![1]).toEqual(['12', null, false])
    expect(said[5]![1]).toEqual(['12.3', null, true])
  })
  it('are our own sheet, and it changes nothing when it comes back', async () => {
    const out = await fetch(`${url}/api/trees/${tree}/hand-out`, {
      method: 'POST',
      headers: { cookie: ines.cookie, origin: url, 'content-type': 'application/json' },
      body: JSON.stringify({ as: 'xlsx', with: ['figures'], today: '2027-02-01' }),
    })
    expect(out.status).toBe(200)
    const { data } = await send(ines, new Uint8Array(await out.arrayBuffer()))
    const { snapshot } = await ines.open(tree)
    const whole = fromSnapshot(snapshot)
    const taking = takingOf(
      data[0]!,
      matchingOf(data[0]!, whole),
      whole,
      figuresAt(whole, '2027-02-01'),
      id => numberOf(whole, id) ?? '',
      'en-GB',
    )
    expect(taking.differences).toEqual([])
    expect(taking.without).toEqual([])
    expect(taking.same).toBeGreaterThan(0)
  })
  it('are text with separators too, in the encoding it has', async () => {
    const { data } = await send(
      ines,
      new Uint8Array(Buffer.from('Topic;Cost\nlift;1.250,50\nl\xe4mpen;"2;3"\n', 'latin1')),
      'c.csv',
    )
    expect(data[0]!.rows.map(row => row.map(cell => cell?.text))).toEqual(
      [['Topic', 'Cost'], ['lift', '1.250,50'], ['lämpen', '2;3'], []].map(row => (row.length ? row : [undefined])),
    )
  })
  it('are refused or taken in part, with words, where they are made to choke', async () => {
    for (const [bytes, words] of [
      [new Uint8Array(), 'empty'],
      [new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 1, 2, 3]), 'old kind'],
      [new Uint8Array(Buffer.from('PK\u0003\u0004 not really a workbook')), 'can’t be read'],
      [new Uint8Array([1, 0, 2, 0, 3, 0, 255, 0, 0, 0]), ''],
      ['\n\n\n', 'nothing in this file'],
    ] as const) {
      const { status, data } = await send(ines, bytes)
      expect(status).toBeGreaterThanOrEqual(400)
      expect(status).toBeLessThan(500)
      expect(data.error!.message).toContain(words)
    }
    const { data } = await send(ines, `Topic,Cost\n${'lift,5\n'.repeat(60_000)}`, 'many.csv')
    expect(data[0]!.rows).toHaveLength(20_000)
    expect(data[0]!.left).toEqual(['Only the first 20,000 rows were read.'])
    const wide = await send(
      ines,
      await workbook(book => book.addWorksheet('Wide').addRow(Array.from({ length: 300 }, (_, i) => i))),
    )
    expect(wide.data[0]!.rows[0]).toHaveLength(80)
    expect(wide.data[0]!.left).toEqual(['Only the first 80 columns were read.'])
    // Far down, and nothing in between.
    const far = await send(
      ines,
      await workbook(book => {
        const sheet = book.addWorksheet('Far')
        sheet.getCell('A1').value = 'Topic'
        sheet.getCell('A1048576').value = 'the end'
      }),
    )
    expect(far.data[0]!.rows.length).toBeLessThanOrEqual(20_000)
    expect(far.data[0]!.left).toContain('Only the first 20,000 rows were read.')
  })
  it('are nobody’s business who may not edit', async () => {
    expect((await send(rana, 'Topic,Cost\nlift,5')).status).toBe(403)
    expect((await send(await signUp(url, 'Lev Aalto'), 'Topic,Cost\nlift,5')).status).toBe(404)
  })
})
