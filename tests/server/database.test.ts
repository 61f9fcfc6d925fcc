import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, inject, it, vi } from 'vitest'
import { closeDatabase, CONNECTIONS, database } from '../../server/database/connect'
import { inTransaction } from '../../server/database/transaction'
import { newId, signUp } from '../caller'

/* Many at once at the database: nobody waits for ever, and whoever is sent back because two met goes again. */

const url = inject('url')

beforeAll(() => {
  vi.stubEnv('NUXT_DATABASE_URL', inject('databaseUrl'))
})
afterAll(closeDatabase)

describe('transactions', () => {
  it('are never so many that a statement within one finds no connection', async () => {
    let most = 0
    let now = 0
    await Promise.all(
      Array.from({ length: 5 * CONNECTIONS }, () =>
        inTransaction(async tx => {
          most = Math.max(most, ++now)
          await tx.execute(sql`select 1`)
          await database().execute(sql`select sleep(0.02)`)
          now--
        }),
      ),
    )
    expect(most).toBeGreaterThan(1)
    expect(most).toBeLessThan(CONNECTIONS)
  })

  it('within one another are one: all of it is there, or nothing', async () => {
    const table = sql.identifier(`t_${newId().replaceAll('-', '_')}`)
    await database().execute(sql`create table ${table} (id int primary key)`)
    const within = (fails: boolean): Promise<void> =>
      inTransaction(async outer => {
        await outer.execute(sql`insert into ${table} values (1)`)
        await inTransaction(inner => inner.execute(sql`insert into ${table} values (2)`))
        if (fails) throw new Error('no')
      })
    const rows = async (): Promise<number> =>
      ((await database().execute(sql`select * from ${table}`)) as unknown as [unknown[]])[0].length
    await expect(within(true)).rejects.toThrow('no')
    expect(await rows()).toBe(0)
    await within(false)
    expect(await rows()).toBe(2)
    await database().execute(sql`drop table ${table}`)
  })

  it('and statements that lock each other out are made again', async () => {
    const table = sql.identifier(`t_${newId().replaceAll('-', '_')}`)
    await database().execute(sql`create table ${table} (id int primary key, n int not null)`)
    await database().execute(sql`insert into ${table} values (1, 0), (2, 0)`)
    let tries = 0
    const inOrder = (ids: number[]): Promise<void> =>
      inTransaction(async tx => {
        tries++
        for (const id of ids) {
          await tx.execute(sql`update ${table} set n = n + 1 where id = ${id}`)
          await new Promise(done => setTimeout(done, 100))
        }
      })
    await Promise.all([inOrder([1, 2]), inOrder([2, 1])])
    expect(tries).toBeGreaterThan(2)
    const [rows] = (await database().execute(sql`select n from ${table}`)) as unknown as [{ n: number }[]]
    expect(rows).toEqual([{ n: 2 }, { n: 2 }])
    await database().execute(sql`drop table ${table}`)
  })
})

it('100 who are let in at the same moment are let in, and nobody waits for ever', async () => {
  const owner = await signUp(url)
  const tree = await owner.makeTree()
  const others = await Promise.all(Array.from({ length: 4 }, () => signUp(url)))
  const at = performance.now()
  const answers = await Promise.all(
    Array.from({ length: 100 }, (_, i) =>
      owner.call('POST', `/api/trees/${tree}/invitations`, {
        email: i < others.length ? others[i]!.email : `guest-${i}-${newId()}@example.org`,
        role: 'editor',
      }),
    ),
  )
  expect(new Set(answers.map(({ status }) => status))).toEqual(new Set([200]))
  expect(performance.now() - at).toBeLessThan(30_000)
})
