import { parentPort } from 'node:worker_threads'
import { type Answer, type Told, work } from './work'

/* The thread that jobs run in, one at a time. It's bundled by itself at build time (nuxt.config.ts). */

const say = (answer: Answer): void => parentPort!.postMessage(answer)
let found: (what: unknown) => void = () => {}
/** How often is told how far the work is, ms: whoever hears it has other things to do. */
const EVERY_MS = 150
let toldAt = 0
function soFar(part: number): void {
  const now = performance.now()
  if (now - toldAt < EVERY_MS) return
  toldAt = now
  say({ kind: 'so-far', part: Math.max(0, Math.min(1, part)) })
}

parentPort!.on('message', (told: Told) => {
  if (told.say === 'found') found(told.found)
  else
    void work(
      told.kind,
      told.input,
      what => {
        say({ kind: 'need', what })
        return new Promise(done => {
          found = done
        })
      },
      soFar,
    ).then(say)
})
say({ kind: 'ready' })
