import { existsSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { Worker } from 'node:worker_threads'
import { Ambiguous } from '#core/formats/csv'
import { Unreadable } from '#core/capture/nested'
import { Fault } from '../access/fault'
import { settings } from '../settings'
import type { Answer, Input, Kind, Result } from './work'

/*
 * One runner for work that takes long or may be made to: a thread of its own for each job, with limits on time and
 * memory, so that nothing anybody sends holds up the others. Jobs of one person follow one another; a few persons' run
 * side by side.
 */

/** What is made here of one's own tree may take longer than what a stranger's file makes a parser do. */
const LONGER: Readonly<Partial<Record<Kind, number>>> = { handOut: 4 }
/** Milliseconds that a job may take once it runs. */
export const mostMs = (kind: Kind): number => settings().JOB_SECONDS * 1000 * (LONGER[kind] ?? 1)
/** Megabytes of memory that a job may use. */
const MOST_MB = 512
const SIDE_BY_SIDE = 2
/** Jobs of one person that may wait. */
const MOST_WAITING = 5

/** What is being done, where somebody has to be told that it's too much. */
const DOING: Readonly<Record<Kind, string>> = {
  import: 'Reading this',
  replies: 'Reading this',
  closedDays: 'Reading this',
  tables: 'Reading this',
  compare: 'Comparing these',
  merge: 'Merging these',
  handOut: 'Making this',
  chances: 'Working this out',
  plan: 'Working this out',
  planDates: 'Working this out',
  figures: 'Working this out',
}

interface Asking {
  readonly person: string
  readonly signal?: AbortSignal
  /** Fetches what the work asks for in the middle of it. */
  readonly need?: (what: unknown) => Promise<unknown>
}
interface Waiting {
  readonly person: string
  readonly start: () => void
}
const queue: Waiting[] = []
const running = new Set<string>()

function startNext(): void {
  while (running.size < SIDE_BY_SIDE) {
    const at = queue.findIndex(({ person }) => !running.has(person))
    if (at < 0) return
    const [next] = queue.splice(at, 1)
    running.add(next!.person)
    next!.start()
  }
}

/** In a build the worker lies beside the server's entry; in development, in the last build. */
function workerFile(): string {
  const built = join(dirname(resolve(process.argv[1] ?? '.')), 'workers', 'jobs.mjs')
  return existsSync(built) ? built : resolve('.output/server/workers/jobs.mjs')
}

function inThread(kind: Kind, input: unknown, { signal, need }: Pick<Asking, 'signal' | 'need'>): Promise<Answer> {
  return new Promise((done, reject) => {
    const worker = new Worker(workerFile(), {
      workerData: { kind, input },
      resourceLimits: { maxOldGenerationSizeMb: MOST_MB },
      stderr: true,
    })
    let ended = false
    const end = (then: () => void): void => {
      if (ended) return
      ended = true
      clearTimeout(timer)
      signal?.removeEventListener('abort', cancel)
      void worker.terminate()
      then()
    }
    const cancel = (): void => end(() => reject(new Fault(499, 'cancelled', 'It was stopped. Nothing was changed.')))
    const timer = setTimeout(
      () =>
        end(() =>
          reject(
            new Fault(
              422,
              'too-heavy',
              `${DOING[kind]} takes longer than ${mostMs(kind) / 1000} seconds, so it was stopped. Nothing was changed.`,
            ),
          ),
        ),
      mostMs(kind),
    )
    if (signal?.aborted) {
      cancel()
      return
    }
    signal?.addEventListener('abort', cancel)
    worker.on('message', (answer: Answer) => {
      if (answer.kind !== 'need') end(() => done(answer))
      else if (need)
        need(answer.what).then(
          found => worker.postMessage(found),
          (error: Error) => end(() => reject(error)),
        )
      else end(() => reject(new Error(`a job of the kind ${kind} needs more than it was given`)))
    })
    worker.on('error', (error: Error & { code?: string }) =>
      end(() => {
        if (error.code === 'ERR_WORKER_OUT_OF_MEMORY')
          reject(
            new Fault(
              422,
              'too-heavy',
              `${DOING[kind]} needs more memory than one file may have. Nothing was changed.`,
            ),
          )
        else reject(error)
      }),
    )
    worker.on('exit', code => end(() => reject(new Error(`a worker ended by itself with code ${code}`))))
  })
}

/**
 * Runs a job for somebody and answers with its result. Throws `Unreadable` for input that can't be read, and a `Fault`
 * when it takes too long or too much (`too-heavy`), when it's stopped by `signal` (`cancelled`), or when too many of
 * theirs wait already (`slowed`).
 */
export async function runJob<K extends Kind>(kind: K, input: Input<K>, asking: Asking): Promise<Result<K>> {
  const { person } = asking
  if (queue.filter(one => one.person === person).length >= MOST_WAITING)
    throw new Fault(429, 'slowed', 'Several of your files are being worked on already. Wait until one is done.')
  await new Promise<void>(start => {
    queue.push({ person, start })
    startNext()
  })
  try {
    const answer = await inThread(kind, input, asking)
    if (answer.kind === 'done') return answer.result as Result<K>
    if (answer.kind === 'refused') throw new Fault(422, answer.code, answer.message)
    if (answer.kind === 'unreadable') throw answer.which ? new Ambiguous(answer.which) : new Unreadable(answer.message)
    throw new Error(`a job of the kind ${kind} failed: ${answer.kind === 'failed' ? answer.name : answer.kind}`)
  } finally {
    running.delete(person)
    startNext()
  }
}
