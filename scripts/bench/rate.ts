import mysql from 'mysql2/promise'
import { EDIT_FORMAT } from '../../core/tree'
import { openHouse } from '../../tests/house'
import { type Caller, newId, signUp, type Line } from '../../tests/caller'
import { print } from './table'

/*
 * Edits a second over live lines, against bare committed one-row inserts at the same concurrency, on the same
 * database.
 */

const SECONDS = 5
// One person has all the lines here.
const house = await openHouse({ env: { SOCKETS_PER_PERSON: '10000', SOCKETS_PER_ADDRESS: '10000' } })
const ines = await signUp(house.url)

async function bare(concurrency: number): Promise<number> {
  const pool = mysql.createPool({ uri: house.databaseUrl, connectionLimit: Math.min(concurrency, 64) })
  await pool.query('create table if not exists bare (id int auto_increment primary key, a varchar(40), b json)')
  let done = 0
  const end = Date.now() + SECONDS * 1000
  await Promise.all(
    Array.from({ length: Math.min(concurrency, 64) }, async () => {
      while (Date.now() < end) {
        await pool.query('insert into bare (a, b) values (?, ?)', [
          newId(),
          '{"op":"set","topic":"abcdefghijkl","field":"title","value":"Shelving"}',
        ])
        done++
      }
    }),
  )
  await pool.query('drop table bare')
  await pool.end()
  return done / SECONDS
}

async function edits(caller: Caller, trees: number): Promise<number> {
  const lines: { line: Line; centre: string }[] = []
  const made = await Promise.all(Array.from({ length: trees }, () => caller.makeTree()))
  const people = Math.max(64, trees)
  for (let i = 0; i < people; i += 25) {
    lines.push(
      ...(await Promise.all(
        Array.from({ length: Math.min(25, people - i) }, async (_, k) => {
          const tree = made[(i + k) % trees]!
          const { snapshot } = await caller.open(tree)
          const line = caller.line(tree)
          await line.hello(0)
          return { line, centre: snapshot.centre }
        }),
      )),
    )
  }
  let done = 0
  const end = Date.now() + SECONDS * 1000
  // Each line has one edit in hand at a time, as each connection of the reference has one insert; 64 lines in all, or
  // one a tree.
  await Promise.all(
    lines.map(async ({ line, centre }, k) => {
      let sent = 0
      let heard = 0
      line.socket.removeAllListeners('message')
      await new Promise<void>(finish => {
        const send = (): void => {
          if (sent === heard && Date.now() < end)
            line.socket.send(
              JSON.stringify({
                type: 'edit',
                edit: {
                  id: `${k}-${sent++}`,
                  format: EDIT_FORMAT,
                  changes: [{ op: 'set', topic: centre, field: 'title', value: `Shelving ${sent}` }],
                },
              }),
            )
          if (Date.now() >= end && sent === heard) finish()
        }
        line.socket.on('message', (data: Buffer) => {
          const text = data.toString()
          if (!text.includes(`"id":"${k}-${sent - 1}"`) && !text.includes('"refused"')) return
          heard = sent
          if (!text.includes('"refused"') && Date.now() < end) done++
          send()
        })
        send()
      })
      await line.close()
    }),
  )
  return done / SECONDS
}

for (const [trees, goal] of [
  [1, 0.6],
  [50, 0.5],
  [500, 0.4],
] as const) {
  const reference = await bare(trees === 1 ? 64 : trees)
  const ours = await edits(ines, trees)
  print({
    what: `edits a second, ${trees} ${trees === 1 ? 'tree' : 'trees'} at once`,
    ours: `${Math.round(ours)}/s`,
    reference: `${Math.round(reference)}/s`,
    ratio: ours / reference,
    goal: `≥ ${goal} × bare inserts`,
    met: ours / reference >= goal,
  })
}
await house.close()
