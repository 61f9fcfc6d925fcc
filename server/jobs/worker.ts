import { parentPort, workerData } from 'node:worker_threads'
import { type Answer, type Kind, work } from './work'

/* The thread that one job runs in. It's bundled by itself at build time (nuxt.config.ts). */

const { kind, input } = workerData as { kind: Kind; input: unknown }
const say = (answer: Answer): void => parentPort!.postMessage(answer)
say(
  await work(kind, input, what => {
    say({ kind: 'need', what })
    return new Promise(done => parentPort!.once('message', done))
  }),
)
