import { parentPort, workerData } from 'node:worker_threads'
import { type Kind, work } from './work'

/* The thread that one job runs in. It's bundled by itself at build time (nuxt.config.ts). */

const { kind, input } = workerData as { kind: Kind; input: unknown }
parentPort!.postMessage(work(kind, input))
