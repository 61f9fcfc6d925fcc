import { readFileSync } from 'node:fs'
import WebSocket from 'ws'
import { expect, it } from 'vitest'
import { newId, signUp } from '../caller'
import { type House, openHouse } from '../house'
import { plainNote } from './plain-note'

/** Memory that the app has, MB. */
const memory = (one: House): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${one.appPid()}/status`, 'utf8'))![1]) / 1024

it('opening the heaviest tree that is allowed takes less than 300 MB on the server', async () => {
  const large = await openHouse({})
  try {
    const ines = await signUp(large.url)
    const tree = await ines.makeTree()
    const text = Array.from({ length: 14_000 }, () => newId().padEnd(64, 'x'))
      .join('')
      .slice(0, 880_000)
    for (let i = 0; i < 38; i++) {
      const note = plainNote(`${i} ${text}`)
      await ines.edit(tree, [{ op: 'add', topic: `t${i}`, parent: null, order: 'a0', with: { note } }])
    }
    await large.killApp('SIGTERM')
    await large.startApp()
    const before = memory(large)
    let most = before
    const watch = setInterval(() => (most = Math.max(most, memory(large))), 20)
    const socket = new WebSocket(`${large.url.replace('http', 'ws')}/api/trees/${tree}/live`, {
      headers: { cookie: ines.cookie },
    })
    let bytes = 0
    await new Promise<void>((done, reject) => {
      socket.on('open', () => {
        socket.send(JSON.stringify({ type: 'hello', since: null }))
      })
      socket.on('message', (data: Buffer) => {
        bytes += data.length
        if (bytes > 40_000_000) done()
      })
      socket.on('error', reject)
    })
    clearInterval(watch)
    socket.close()
    expect(bytes).toBeGreaterThan(44_000_000)
    expect(most - before).toBeLessThan(300)
  } finally {
    await large.close()
  }
}, 120_000)
