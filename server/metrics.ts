import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client'
import { connections } from './database/connect'
import { openLines } from './live/count'

/* What is measured, in the text format that Prometheus reads. Labels are words of ours, never what people typed. */

export const registry = new Registry()
// Memory, processor, and the event loop's lag come with the library.
collectDefaultMetrics({ register: registry })

export const requests = new Histogram({
  name: 'sunporch_request_seconds',
  help: 'Time to answer a request by REST.',
  labelNames: ['operation', 'status'] as const,
  buckets: [0.005, 0.02, 0.05, 0.1, 0.3, 1, 3, 10],
  registers: [registry],
})
export const editsStored = new Counter({
  name: 'sunporch_edits_stored_total',
  help: 'Edits that were stored.',
  registers: [registry],
})
export const sayingsStored = new Counter({
  name: 'sunporch_sayings_stored_total',
  help: 'Comments and lines of talk, and what became of them, that were stored.',
  registers: [registry],
})
export const editsRefused = new Counter({
  name: 'sunporch_edits_refused_total',
  help: 'Edits that were refused.',
  labelNames: ['code'] as const,
  registers: [registry],
})
new Gauge({
  name: 'sunporch_live_lines',
  help: 'Live lines that are open.',
  registers: [registry],
  collect() {
    this.set(openLines())
  },
})
new Gauge({
  name: 'sunporch_database_connections',
  help: 'Connections to the database: in use, idle, and requests that wait for one.',
  labelNames: ['state'] as const,
  registers: [registry],
  collect() {
    const pool = connections().pool as unknown as Record<
      '_allConnections' | '_freeConnections' | '_connectionQueue',
      { length: number }
    >
    const [all, free] = [pool._allConnections.length, pool._freeConnections.length]
    this.set({ state: 'used' }, all - free)
    this.set({ state: 'free' }, free)
    this.set({ state: 'waiting' }, pool._connectionQueue.length)
  },
})
