import { closeDatabase, migrated } from '../database/connect'
import { closeRooms } from '../live/rooms'
import { closeDoor } from '../trees/door'
import { sweepArriving } from '../files/upload'
import { loadDemoWhenEmpty } from '../trees/demo'
import { startReminding, stopReminding } from '../work/reminders'

/** Starting: the schema is brought up to date before the first answer. Stopping: edits in hand are finished. */
export default defineNitroPlugin(nitro => {
  const config = useRuntimeConfig()
  const password = config.session.password || process.env.NUXT_SESSION_PASSWORD || ''
  if (password.length < 32)
    throw new Error('NUXT_SESSION_PASSWORD must have 32 characters or more. `npm start` makes one.')
  const ready = migrated().then(() => (config.demo === 'off' ? undefined : loadDemoWhenEmpty()))
  ready.then(startReminding, () => {
    /* said above */
  })
  ready.then(sweepArriving).catch(() => {
    /* the next start sweeps */
  })
  ready.catch((error: Error) => console.error('The database is not ready:', error.message.split('\n')[0]))

  nitro.hooks.hook('request', async event => {
    if (event.path.startsWith('/api/'))
      await migrated().catch(() => {
        /* the route says so */
      })
  })
  // Only the live path may be upgraded; without this any path would be.
  nitro.h3App.options.websocket = {
    ...nitro.h3App.options.websocket,
    hooks: {
      upgrade(request) {
        if (!/^\/api\/trees\/[\w-]{1,40}\/live$/.test(new URL(request.url, 'http://host').pathname))
          throw new Response('Nothing to upgrade here.', { status: 404 })
      },
    },
  }
  // Before the server cuts its sockets, so that browsers hear that it comes back.
  for (const signal of ['SIGTERM', 'SIGINT']) process.once(signal, closeRooms)
  nitro.hooks.hook('close', async () => {
    closeRooms()
    stopReminding()
    await closeDoor()
    await closeDatabase()
  })
})
