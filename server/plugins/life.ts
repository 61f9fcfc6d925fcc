import type { Server } from 'node:http'
import type { Socket } from 'node:net'
import { LIMITS } from '#core/tree'
import { closeDatabase, migrated } from '../database/connect'
import { sayUnfinished } from '../documents/made-store'
import { startSending, stopSending } from '../letters/queue'
import { closeRooms } from '../live/rooms'
import { log } from '../log'
import { readSettings, settings } from '../settings'
import { startKeeping } from '../trees/kept-moments'
import { closeDoor } from '../trees/door'
import { sweepArriving } from '../files/upload'
import { loadDemoWhenEmpty } from '../trees/demo'
import { startTelling, stopTelling } from '../telling/rounds'
import { startReminding, stopReminding } from '../work/reminders'
import { startLookingAtDisk, stopLookingAtDisk } from '../work/disk'
import { startPruning, stopPruning } from '../work/pruning'

/** EX_CONFIG of sysexits.h: whoever supervises the app needn't start it again. */
const WRONG_SETTINGS = 78
/** EX_UNAVAILABLE of sysexits.h: the port may be free at the next try. */
const CANNOT_LISTEN = 69

/**
 * Milliseconds that a connection is kept with nothing on it: longer than a proxy before the app keeps its own (60 s is usual), so that
 * none is closed just as something is sent on it.
 */
const KEEP_ALIVE_MS = 75_000

/** Starting: the settings are checked, and the schema is brought up to date before the first answer. Stopping: edits in hand are finished. */
export default defineNitroPlugin(nitro => {
  try {
    readSettings(process.env)
    if ((process.env.NUXT_SESSION_PASSWORD ?? '').length < 32)
      throw new Error('The setting NUXT_SESSION_PASSWORD has 32 characters or more. `npm start` makes one.')
  } catch (error) {
    process.stderr.write(`${(error as Error).message}\n`)
    process.exit(WRONG_SETTINGS)
  }
  // An app that nobody can reach would otherwise stay behind, and whoever supervises it wouldn't know.
  nitro.hooks.hook('error', error => {
    if ((error as NodeJS.ErrnoException).syscall !== 'listen') return
    process.stderr.write(`${error.message}\n`)
    process.exit(CANNOT_LISTEN)
  })
  const began = new Date()
  let stopKeeping = (): void => {}
  const ready = migrated().then(() => (settings().DEMO ? loadDemoWhenEmpty() : undefined))
  ready
    .then(() => {
      stopKeeping = startKeeping()
      startReminding()
      startSending()
      startTelling()
      startPruning()
      startLookingAtDisk()
      return Promise.all([sweepArriving(), sayUnfinished(began)])
    })
    .catch((error: unknown) => log.error({ error }, 'the database is not ready'))

  nitro.hooks.hook('request', async event => {
    const { server } = event.node.req.socket as Socket & { server?: Server }
    if (server && server.keepAliveTimeout !== KEEP_ALIVE_MS) server.keepAliveTimeout = KEEP_ALIVE_MS
    if (event.path.startsWith('/api/'))
      await migrated().catch(() => {
        /* the route says so */
      })
  })
  // Only the live path may be upgraded; without this any path would be.
  nitro.h3App.options.websocket = {
    ...nitro.h3App.options.websocket,
    // A message that is longer is cut off while it arrives, before any of it is kept.
    ...({ serverOptions: { maxPayload: LIMITS.message + 1024 } } as object),
    hooks: {
      upgrade(request) {
        if (!/^\/api\/trees\/[\w-]{1,40}\/live$/.test(new URL(request.url, 'http://host').pathname))
          throw new Response('Nothing to upgrade here.', { status: 404 })
      },
    },
  }
  // Whoever started it has been killed: it doesn't stay behind.
  if (process.send) process.once('disconnect', () => process.kill(process.pid, 'SIGTERM'))
  // Before the server cuts its sockets, so that browsers hear that it comes back.
  for (const signal of ['SIGTERM', 'SIGINT']) process.once(signal, closeRooms)
  nitro.hooks.hook('close', async () => {
    closeRooms()
    stopKeeping()
    stopReminding()
    stopPruning()
    stopLookingAtDisk()
    await stopTelling()
    await stopSending()
    await closeDoor()
    await closeDatabase()
  })
})
