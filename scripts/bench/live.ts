import mysql from 'mysql2/promise'
import WebSocket, { WebSocketServer } from 'ws'
import { freePort } from '../machine.mjs'
import { EDIT_FORMAT } from '../../core/tree'
import { openHouse } from '../../tests/house'
import { type Line, signUp } from '../../tests/caller'
import { ms, print, quantile } from './table'

/*
 * Edit → acknowledged, and → seen by all others, with 2, 20 and 100 people in one tree, each typing an edit about every
 * two seconds. Reference: a bare WebSocket echo to as many sockets plus one committed insert, at the same pace, in the
 * same run.
 */

const EDITS = 150
// One person has all the lines here.
const house = await openHouse({ env: { SOCKETS_PER_PERSON: '10000', SOCKETS_PER_ADDRESS: '10000' } })
const ines = await signUp(house.url)

async function reference(people: number, pause: number): Promise<{ ack: number; seen: number }> {
  const port = await freePort()
  const server = new WebSocketServer({ port, host: '127.0.0.1' })
  server.on('connection', socket =>
    socket.on('message', data => {
      for (const client of server.clients) client.send(data.toString())
    }),
  )
  const sockets = await Promise.all(
    Array.from(
      { length: people },
      () =>
        new Promise<WebSocket>(done => {
          const socket = new WebSocket(`ws://127.0.0.1:${port}`)
          socket.once('open', () => {
            done(socket)
          })
        }),
    ),
  )
  const connection = await mysql.createConnection(house.databaseUrl)
  await connection.query('create table if not exists bare (id int auto_increment primary key, a varchar(400))')
  const ack: number[] = []
  const seen: number[] = []
  for (let i = 0; i < EDITS; i++) {
    await new Promise(done => setTimeout(done, pause))
    const text = `{"type":"edit","edit":{"id":"${i}","changes":[{"op":"set","topic":"abcdefghijkl","field":"title","value":"Shelving ${i}"}]}}`
    const began = performance.now()
    const echoes = sockets.map(
      socket =>
        new Promise<void>(done =>
          socket.once('message', () => {
            done()
          }),
        ),
    )
    await connection.query('insert into bare (a) values (?)', [text])
    sockets[i % people]!.send(text)
    await echoes[i % people]
    ack.push(performance.now() - began)
    await Promise.all(echoes)
    seen.push(performance.now() - began)
  }
  await connection.query('drop table bare')
  await connection.end()
  for (const socket of sockets) socket.terminate()
  server.close()
  return { ack: quantile(ack, 0.95), seen: quantile(seen, 0.95) }
}

async function ours(people: number, pause: number): Promise<{ ack: number; seen: number }> {
  const tree = await ines.makeTree()
  const { snapshot } = await ines.open(tree)
  const lines: Line[] = []
  for (let i = 0; i < people; i++) {
    const line = ines.line(tree)
    await line.hello(0)
    lines.push(line)
  }
  await new Promise(done => setTimeout(done, 300))
  const ack: number[] = []
  const seen: number[] = []
  for (let i = 0; i < EDITS; i++) {
    await new Promise(done => setTimeout(done, pause))
    const began = performance.now()
    const told = lines.map(
      line =>
        new Promise<void>(done => {
          const hear = (data: Buffer): void => {
            if (!data.toString().includes('"news"')) return
            line.socket.off('message', hear)
            done()
          }
          line.socket.on('message', hear)
        }),
    )
    const changes = [{ op: 'set', topic: snapshot.centre, field: 'title', value: `Shelving ${i}` }]
    lines[i % people]!.socket.send(
      JSON.stringify({ type: 'edit', edit: { id: `e${i}`, format: EDIT_FORMAT, changes } }),
    )
    await told[i % people]
    ack.push(performance.now() - began)
    await Promise.all(told)
    seen.push(performance.now() - began)
  }
  await Promise.all(lines.map(line => line.close()))
  return { ack: quantile(ack, 0.95), seen: quantile(seen, 0.95) }
}

for (const people of [2, 20, 100]) {
  const pause = Math.max(5, 2000 / people / 10)
  const bare = await reference(people, pause)
  const got = await ours(people, pause)
  for (const what of ['ack', 'seen'] as const)
    print({
      what: `${what === 'ack' ? 'edit → acknowledged' : 'edit → seen by all'}, ${people} people, p95`,
      ours: ms(got[what]),
      reference: ms(bare[what]),
      ratio: got[what] / bare[what],
      goal: '≤ 1.5 × echo + commit',
      met: got[what] / bare[what] <= 1.5,
    })
}
await house.close()
