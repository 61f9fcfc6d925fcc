import { createServer, type Server } from 'node:net'
import { afterAll, describe, expect, inject, it } from 'vitest'
import { freePort } from '../../scripts/machine.mjs'
import { endRuns, folder, start } from './run'

/* `npm start` as somebody runs it, on the build that is there. */

afterAll(endRuns)

describe('npm start', () => {
  it('serves with its own database, says where and who, refuses a second on the same folder, and stops cleanly', async () => {
    const data = folder()
    const port = String(await freePort())
    const first = start({ PORT: port, DATA_DIR: data })
    await first.until(/Sun Porch {3}http:\/\/127\.0\.0\.1:\d+[\s\S]*ines@porch\.example[\s\S]*Ctrl\+C/)
    expect((await fetch(`http://127.0.0.1:${port}/api/health`)).status).toBe(200)
    const second = start({ PORT: String(await freePort()), DATA_DIR: data })
    expect(await second.ended).toBe(1)
    expect(second.said()).toMatch(/data folder .* is in use by another Sun Porch/)
    first.child.kill('SIGINT')
    expect(await first.ended).toBe(0)
    expect(first.said()).toContain('Stopped.')
    await expect(fetch(`http://127.0.0.1:${port}/api/health`)).rejects.toThrow()

    const began = Date.now()
    const again = start({ PORT: port, DATA_DIR: data })
    await again.until(/Ready in/)
    expect(Date.now() - began).toBeLessThan(10_000)
    expect(again.said()).not.toMatch(/Building|Installing|Setting up/)
    again.child.kill('SIGTERM')
    expect(await again.ended).toBe(0)
  })

  it('starts no database when DATABASE_URL names one', async () => {
    const port = String(await freePort())
    const run = start({ PORT: port, DATA_DIR: folder(), DATABASE_URL: inject('databaseUrl') })
    await run.until(/Ready in/)
    expect(run.said()).not.toMatch(/database/i)
    expect((await fetch(`http://127.0.0.1:${port}/api/health`)).status).toBe(200)
    run.child.kill('SIGINT')
    expect(await run.ended).toBe(0)
  })

  it('says in one line what is wrong: a taken port, a port that is none, a folder that can’t be', async () => {
    const taken = await new Promise<Server>(done => {
      const server = createServer().listen(0, '127.0.0.1', () => {
        done(server)
      })
    })
    const { port } = taken.address() as { port: number }
    for (const [env, words] of [
      [{ PORT: String(port), DATA_DIR: folder() }, /^Port \d+ on 127\.0\.0\.1 is taken\. .*PORT=3001 npm start\n$/],
      [{ PORT: 'door' }, /^PORT is “door”, which is no port number\.\n$/],
      [
        { PORT: String(await freePort()), DATA_DIR: '/proc/nothing-here' },
        /^\/proc\/nothing-here can't be written .*\n$/,
      ],
    ] as const) {
      const run = start(env)
      expect(await run.ended).toBe(1)
      expect(run.said()).toMatch(words)
    }
    taken.close()
  })
})
