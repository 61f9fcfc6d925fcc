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

/** Every formula of a tree's workbook, reckoned anew by LibreOffice, is what we say it comes to. Returns how many were compared. */
async function compared(tree: string, asked: object): Promise<number> {
  const response = await fetch(`${url}/api/trees/${tree}/hand-out`, {
    method: 'POST',
    headers: { cookie: ines.cookie, 'content-type': 'application/json' },
    body: JSON.stringify({ as: 'xlsx', ...asked }),
  })
  expect(response.status).toBe(200)
  const ours = new Uint8Array(await response.arrayBuffer())
  const { bytes, formulas } = withoutValues(ours)
  const book = new ExcelJS.Workbook()
  await book.xlsx.load(Buffer.from(ours) as never)
  const [sheet] = book.worksheets
  // The first sheet, values as they are and not as they're shown.
  const csv = converted(bytes, 'xlsx', 'csv:Text - txt - csv (StarCalc):44,34,76,1,,0,false,false,false,false,false,1')
  const theirs = Papa.parse<string[]>(csv.toString()).data
  let count = 0
  sheet!.eachRow((row, r) =>
    row.eachCell((cell, c) => {
      const { value } = cell
      if (typeof value !== 'object' || value === null || !('formula' in value)) return
      const decimals = /\.(0+)/.exec(cell.numFmt ?? '')?.[1]!.length ?? 0
      const where = `${cell.address}: =${value.formula}`
      // `value` leaves out a result of zero.
      const { result } = cell
      const said = theirs[r - 1]![c - 1]!
      expect([where, typeof result, said !== '' && Number.isFinite(Number(said))]).toEqual([where, 'number', true])
      // Doubles differ in their last digit by the order of adding; at a half that would round otherwise.
      if (Math.abs(Number(said) - Number(result)) > 1e-9)
        expect([where, Number(said).toFixed(decimals)]).toEqual([where, Number(result).toFixed(decimals)])
      count++
    }),
  )
  expect(count).toBeLessThanOrEqual(formulas)
  return count
}

it('the demo’s budget is the same in every cell, at each measure’s decimals', async () => {
  const { status, data: trees } = await ines.call<{ id: string; title: string }[]>('GET', '/api/trees')
  expect([status, trees]).toEqual([200, expect.any(Array)])
  const plan = trees.find(({ title }) => /tannery/i.test(title))!
  const today = new Date().toISOString().slice(0, 10)
  expect(await compared(plan.id, { with: ['figures', 'tasks'], today })).toBeGreaterThan(40)
})

/** A linear congruential generator: the same rolls each time (constants of Numerical Recipes, from memory). */
function dice(seed: number): (below: number) => number {
  let state = seed >>> 0
  return below => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return Math.floor((state / 2 ** 32) * below)
  }
}
const ROLL_UPS = ['sum', 'mean', 'min', 'max', 'count', 'weighted'] as const

/** Of what stands in earlier topics, and of numbers: never a division by what may be nothing. */
function expression(roll: (below: number) => number, topics: number, depth: number): string {
  const at = (): string => `{m:${ROLL_UPS[roll(3)]!}} of {t:l${roll(topics)}}`
  if (depth === 0) return topics > 0 && roll(2) === 0 ? at() : `${roll(2000) / 4}`
  const [a, b] = [expression(roll, topics, depth - 1), expression(roll, topics, depth - 1)]
  switch (roll(7)) {
    case 0:
      return `(${a} + ${b})`
    case 1:
      return `(${a} − ${b})`
    case 2:
      return `(${a} × ${roll(30) / 8})`
    case 3:
      return `(${a} ÷ ${1 + roll(7)})`
    case 4:
      return `${roll(2) ? 'min' : 'max'}(${a}; ${b})`
    case 5:
      return `if(${a} < ${b}; ${a}; ${b})`
    default:
      return `round(${a}; ${roll(3)})`
  }
}

it('trees by dice, with every way of rolling up and formulas over one another, come to the same in every cell', async () => {
  let cells = 0
  for (let seed = 1; seed <= 6; seed++) {
    const roll = dice(seed)
    const tree = await ines.makeTree(`By dice ${seed}`)
    const { centre } = (await ines.open(tree)).snapshot
    const changes: object[] = ROLL_UPS.map((rollUp, i) => ({
      op: 'tree-put',
      set: 'measures',
      member: {
        ...{ id: rollUp, order: `a${i}`, name: rollUp, unit: '', decimals: 4, rounding: 'half-even', rollUp },
        ...{ by: rollUp === 'weighted' ? 'sum' : null, hue: null, limit: 'most', onPlank: false },
      },
    }))
    const branches = 4 + roll(4)
    for (let b = 0; b < branches; b++)
      changes.push({ op: 'add', topic: `b${b}`, parent: centre, order: `a${b}`, with: { title: `Branch ${b}` } })
    for (let i = 0; i < 60; i++) {
      changes.push({
        ...{
          op: 'add',
          topic: `l${i}`,
          parent: `b${i % branches}`,
          order: `a${String.fromCharCode(65 + (i >> 3))}${i}V`,
        },
        with: { title: `Line ${i}` },
      })
      for (const [n, measure] of ROLL_UPS.entries()) {
        if (measure !== 'sum' && roll(4) === 0) continue
        // What others weigh by is a plain number above nothing.
        const text =
          measure === 'sum'
            ? `${1 + roll(4000) / 4}`
            : n < 3 && roll(3) === 0
              ? `=${expression(roll, i, 2)}`
              : `${roll(9000) / 8}`
        changes.push({
          ...{ op: 'put', topic: `l${i}`, set: 'figures' },
          member: { id: measure, measure, whatIf: null, text, target: null, range: null },
        })
      }
    }
    await ines.edit(tree, changes as never)
    cells += await compared(tree, { with: ['figures'] })
  }
  expect(cells).toBeGreaterThan(200)
})
