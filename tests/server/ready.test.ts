import { afterAll, beforeEach, expect, it, vi } from 'vitest'
import { getReady, runJob } from '../../server/jobs/runner'

/*
 * Which threads count as ready for documents, seen from outside: what the runner asks which thread to do. The threads are made up, and
 * answer at once.
 */
const { asked, answers, ended } = vi.hoisted(() => ({
  asked: [] as { thread: number; kind: string }[],
  /** What a kind of job is answered with, where it isn't done. */
  answers: new Map<string, object>(),
  ended: [] as (() => void)[],
}))
vi.mock('node:worker_threads', async () => {
  const { EventEmitter: Emitter } = await import('node:events')
  let threads = 0
  return {
    Worker: class extends Emitter {
      private readonly thread = ++threads
      constructor() {
        super()
        queueMicrotask(() => this.emit('message', { kind: 'ready' }))
        ended.push(() => this.emit('exit', 1))
      }
      postMessage({ kind }: { kind: string }): void {
        asked.push({ thread: this.thread, kind })
        queueMicrotask(() => this.emit('message', answers.get(kind) ?? { kind: 'done', result: null }))
      }
      terminate(): Promise<number> {
        return Promise.resolve(0)
      }
      ref(): void {}
      unref(): void {}
    },
  }
})

const takeAlong = (person = 'ines') => runJob('export', {} as never, { person })
const handOut = (person = 'ines') => runJob('handOut', {} as never, { person })
/** Somebody opens Hand out; what is got ready for that has been done. */
async function opens(): Promise<void> {
  getReady('ines')
  await new Promise(done => setTimeout(done, 20))
}
const kinds = (): string[] => asked.map(({ kind }) => kind)

beforeEach(() => {
  // All threads have ended by themselves.
  for (const end of ended.splice(0)) end()
  asked.length = 0
  answers.clear()
})
afterAll(() => vi.restoreAllMocks())

it('one that has made plain text only isn’t ready for documents; one that was got ready is, and once is enough', async () => {
  await takeAlong()
  await opens()
  await opens()
  await handOut()
  await opens()
  expect(kinds()).toEqual(['export', 'warmUp', 'handOut'])
  expect(new Set(asked.map(({ thread }) => thread)).size).toBe(1)
})

it('one that could not be got ready doesn’t count as ready', async () => {
  answers.set('warmUp', { kind: 'failed', name: 'Error' })
  await opens()
  answers.clear()
  await opens()
  await opens()
  expect(kinds()).toEqual(['warmUp', 'warmUp'])
})

it('one that has ended is ready no more', async () => {
  await opens()
  for (const end of ended.splice(0)) end()
  await opens()
  expect(kinds()).toEqual(['warmUp', 'warmUp'])
})

it('one that is ready is left to documents, as long as there is another', async () => {
  await opens()
  // Two at once: the second has a thread of its own, which is kept beside the ready one.
  await Promise.all([takeAlong('ines'), takeAlong('rana')])
  asked.length = 0
  await takeAlong()
  await handOut()
  const [plain, document] = asked
  expect(plain!.thread).not.toBe(document!.thread)
  asked.length = 0
  await opens()
  expect(asked).toEqual([])
})

it('nothing is got ready while somebody’s work is under way', async () => {
  const working = takeAlong()
  getReady('rana')
  await working
  await new Promise(done => setTimeout(done, 20))
  expect(kinds()).toEqual(['export'])
})
