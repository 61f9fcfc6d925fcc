import { readFileSync } from 'node:fs'
import { createConnection, type RowDataPacket } from 'mysql2/promise'
import { expect, inject, it } from 'vitest'

/** Runs one step of the migrations again, over rows as they were before it. */
it('main branches that had a side each get one split, as many on the right as before', async () => {
  const database = await createConnection(inject('databaseUrl'))
  const put = (table: string, row: object) => database.query('INSERT INTO ?? SET ?', [table, row])
  const tree = { id: 'sided', centre: 'c', title: 'Move', fields: '{}', version: 0, topic_count: 5, changed_by: 'x' }
  await put('trees', { ...tree, created_at: new Date(), changed_at: new Date() })
  for (const [id, parent, order_key, rest] of [
    ['c', null, 'a0', {}],
    ['a', 'c', 'a0', { side: 'left' }],
    ['b', 'c', 'a1', { side: 'right', z: 2 }],
    ['d', 'c', 'Zz', { side: 'left' }],
    ['e', 'c', 'a2', {}],
  ] as const) {
    const row = { tree_id: 'sided', id, parent, order_key, removed: false, title: id, links: '[]' }
    await put('topics', { ...row, rest: JSON.stringify(rest) })
  }
  const script = readFileSync('server/database/migrations/0007_split.sql', 'utf8')
  for (const statement of script.split('--> statement-breakpoint')) await database.query(statement)
  const [rows] = await database.query<RowDataPacket[]>(
    "SELECT id, rest FROM topics WHERE tree_id = 'sided' ORDER BY id",
  )
  // In their order d, a, b, e; the first two stand right.
  expect(Object.fromEntries(rows.map(({ id, rest }) => [id as string, rest as object]))).toEqual({
    a: {},
    b: { z: 2 },
    c: { split: 'a1' },
    d: {},
    e: {},
  })
  await database.query("DELETE FROM topics WHERE tree_id = 'sided'")
  await database.query("DELETE FROM trees WHERE id = 'sided'")
  await database.end()
})
