import { parentPort } from 'node:worker_threads'
import { type Answer, type Told, work } from './work'

/* The thread that jobs run in, one at a time. It's bundled by itself at build time (nuxt.config.ts). */

const say = (answer: Answer): void => parentPort!.postMessage(answer)
let found: (what: unknown) => void = () => {}

parentPort!.on('message', (told: Told) => {
  if (told.say === 'found') found(told.found)
  else
    void work(told.kind, told.input, what => {
      say({ kind: 'need', what })
      return new Promise(done => {
        found = done
      })
    }).then(say)
})
say({ kind: 'ready' })
