import ExcelJS from 'exceljs'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import Papa from 'papaparse'
import { beforeAll, expect, inject, it } from 'vitest'
import { Caller } from '../caller'
import { converted } from './programs'

/* A workbook that leaves is reckoned by LibreOffice from its formulas alone, to the same numbers. */

const url = inject('url')
let ines: Caller
beforeAll(async () => {
  ines = new Caller(url)
  await ines.call('POST', '/api/sign-in', { email: 'ines@porch.example', password: 'tannery porch 2027' })
})

/** The same workbook without what its formulas came to: whoever opens it has to reckon. */
function withoutValues(bytes: Uint8Array): { bytes: Uint8Array; formulas: number } {
  let formulas = 0
  const parts = Object.entries(unzipSync(bytes)).map(([name, part]) => {
    if (!/^xl\/worksheets\/sheet\d+\.xml$/.test(name)) return [name, part] as const
    const bare = strFromU8(part).replace(/(<f[^>]*>[^<]*<\/f>)<v>[^<]*<\/v>/g, (_, formula: string) => {
      formulas++
      return formula
    })
    return [name, strToU8(bare)] as const
  })
  return { bytes: zipSync(Object.fromEntries(parts)), formulas }
}

it('the demo’s budget is the same in every cell, at each measure’s decimals', async () => {
  const { status, data: trees } = await ines.call<{ id: string; title: string }[]>('GET', '/api/trees')
  expect([status, trees]).toEqual([200, expect.any(Array)])
  const plan = trees.find(({ title }) => /tannery/i.test(title))!
  const response = await fetch(`${url}/api/trees/${plan.id}/hand-out`, {
    method: 'POST',
    headers: { cookie: ines.cookie, 'content-type': 'application/json' },
    body: JSON.stringify({ as: 'xlsx', with: ['figures', 'tasks'], today: new Date().toISOString().slice(0, 10) }),
  })
  expect(response.status).toBe(200)
  const ours = new Uint8Array(await response.arrayBuffer())
  const { bytes, formulas } = withoutValues(ours)
  expect(formulas).toBeGreaterThan(40)
  const book = new ExcelJS.Workbook()
  await book.xlsx.load(Buffer.from(ours) as never)
  const [sheet] = book.worksheets
  // The first sheet, values as they are and not as they're shown.
  const csv = converted(bytes, 'xlsx', 'csv:Text - txt - csv (StarCalc):44,34,76,1,,0,false,false,false,false,false,1')
  const theirs = Papa.parse<string[]>(csv.toString()).data
  let compared = 0
  sheet!.eachRow((row, r) =>
    row.eachCell((cell, c) => {
      const { value } = cell
      if (typeof value !== 'object' || value === null || !('formula' in value)) return
      const decimals = /\.(0+)/.exec(cell.numFmt ?? '')?.[1]!.length ?? 0
      const where = `${cell.address}: =${value.formula}`
      const said = theirs[r - 1]![c - 1]!
      expect([where, typeof value.result, said !== '' && Number.isFinite(Number(said))]).toEqual([
        where,
        'number',
        true,
      ])
      expect([where, Number(said).toFixed(decimals)]).toEqual([where, Number(value.result).toFixed(decimals)])
      compared++
    }),
  )
  expect(compared).toBeGreaterThan(40)
})
