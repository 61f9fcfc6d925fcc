import mysql from 'mysql2/promise'
import { openHouse } from '../../tests/house'
import { signUp } from '../../tests/caller'
import { shelves } from './shelves'
import { ms, print, quantile, random } from './table'

/*
 * A tree with 100,000 edits of 500 sittings: any moment of it is opened, and the first page of its history, against opening the
 * tree as it is now in the same run.
 */

const EDITS = Number(process.env.EDITS ?? 100_000)
const TOPICS = 2_000
/** Edits that are on their way at once. */
const AT_ONCE = 32
const house = await openHouse({ env: { WRITES_A_MINUTE: '1000000' } })
const ines = await signUp(house.url)
const id = await shelves(ines, 'Move to the tannery', TOPICS)
const dice = random(5)
let sent = 1
const began = performance.now()
async function make(): Promise<void> {
  while (sent < EDITS) {
    const n = sent++
    const topic = `t${Math.floor(dice() * TOPICS)}`
    await ines.edit(id, [{ op: 'set', topic, field: 'title', value: `Shelf ${n}, counted` }])
  }
}
await Promise.all(Array.from({ length: AT_ONCE }, make))
process.stdout.write(`${EDITS} edits made in ${Math.round((performance.now() - began) / 1000)} s\n`)

const pool = mysql.createPool({ uri: house.databaseUrl })
await pool.query('update edits set at = date_add("2026-01-01", interval floor(number / 200) hour) where tree_id = ?', [
  id,
])
await pool.end()

const time = async (runs: number, work: (i: number) => Promise<unknown>): Promise<number[]> => {
  const times: number[] = []
  for (let i = 0; i < runs; i++) {
    const at = performance.now()
    await work(i)
    times.push(performance.now() - at)
  }
  return times
}
const half = (times: readonly number[]): number => quantile(times, 0.5)
const now = half(await time(20, () => ines.open(id)))
const moments = await time(40, () => ines.call('GET', `/api/trees/${id}/moments/${Math.floor(dice() * EDITS)}`))
print({
  what: `a moment of ${EDITS.toLocaleString('en')} edits, 95 %`,
  ours: ms(quantile(moments, 0.95)),
  reference: `${ms(now)} for now`,
  ratio: quantile(moments, 0.95) / now,
  goal: '< 1000 ms',
  met: quantile(moments, 0.95) < 1000,
})
const first = half(await time(20, () => ines.call('GET', `/api/trees/${id}/history`)))
print({
  what: 'the first page of its history',
  ours: ms(first),
  reference: `${ms(now)} for now`,
  ratio: first / now,
  goal: '< 100 ms',
  met: first < 100,
})
const page = async (query: string): Promise<number> =>
  half(await time(10, () => ines.call('GET', `/api/trees/${id}/history?${query}`)))
const branch = await page('branch=t3')
print({
  what: 'the same of one branch',
  ours: ms(branch),
  reference: `${ms(now)} for now`,
  ratio: branch / now,
  goal: 'none',
  met: true,
})
const told = half(
  await time(20, () => {
    const from = 1 + Math.floor(dice() * (EDITS - 300))
    return ines.call('GET', `/api/trees/${id}/history/${from}/${from + 199}`)
  }),
)
print({
  what: 'a sitting of 200 edits in words',
  ours: ms(told),
  reference: `${ms(now)} for now`,
  ratio: told / now,
  goal: 'none',
  met: true,
})
await house.close()
