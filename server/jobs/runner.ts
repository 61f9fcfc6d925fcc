import { existsSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { Worker } from 'node:worker_threads'
import { Ambiguous } from '#core/formats/csv'
import { Unreadable } from '#core/capture/nested'
import { Fault } from '../access/fault'
import { log } from '../log'
import { settings } from '../settings'
import type { Answer, Input, Kind, Result, Told } from './work'

/*
 * One runner for work that takes long or may be made to: in a thread apart, with limits on time and memory, so that
 * nothing anybody sends holds up the others. Jobs of one person follow one another; a few persons' run side by side.
 * What parses a file that somebody sent has a thread that reads nobody else's.
 */

/** What is made here of one's own tree may take longer than what a stranger's file makes a parser do. */
const LONGER: Readonly<Partial<Record<Kind, number>>> = { handOut: 4, warmUp: 4 }
/** What works on trees that are here. Its thread, with all that has been read into it, is kept for the next. */
const OWN: ReadonlySet<Kind> = new Set<Kind>([
  'plan',
  'planDates',
  'planSince',
  'chances',
  'figures',
  'compare',
  'merge',
  'export',
  'handOut',
  'warmUp',
  'shelf',
  'shelfPicture',
  // A stranger's, but nothing runs in it: bytes are joined, and it has to be quick.
  'notes',
])
/** Milliseconds that a thread may take until it stands: many times what a busy machine needs. */
const START_MS = 60_000
/** What a thread that is ready for documents is left to, where there is another. */
const DOCUMENTS: ReadonlySet<Kind> = new Set<Kind>(['handOut'])
/**
 * Milliseconds that a thread is kept with nothing to do: for everybody's own trees (as long as one thinks about what to
 * hand out), or for one person's files.
 */
const IDLE_MS = 120_000
const IDLE_FOR_ONE_MS = 5000
/** Jobs that one thread does: what libraries keep for themselves doesn't grow for ever. */
const MOST_JOBS = 40
/** Milliseconds that a job may take once it runs. */
export const mostMs = (kind: Kind): number => settings().JOB_SECONDS * 1000 * (LONGER[kind] ?? 1)
/** Megabytes of memory that a job may use. */
const MOST_MB = 512
/** Megabytes of it for what is made and forgotten, which documents are full of: less of the time goes into clearing it. */
const YOUNG_MB = 96
const SIDE_BY_SIDE = 2
/** Jobs of one person that may wait. */
const MOST_WAITING = 5
/** Edits that wait for it don't stand in line behind documents that are made. */
const EDITS: ReadonlySet<Kind> = new Set<Kind>(['notes'])

/** What is being done, where somebody has to be told that it's too much. */
const DOING: Readonly<Record<Kind, string>> = {
  import: 'Reading this',
  replies: 'Reading this',
  closedDays: 'Reading this',
  tables: 'Reading this',
  contents: 'Reading this',
  pageHead: 'Reading this page',
  shelf: 'Looking through the shelf',
  shelfPicture: 'Drawing this',
  template: 'Reading this',
  minutes: 'Making this',
  compare: 'Comparing these',
  merge: 'Merging these',
  handOut: 'Making this',
  warmUp: 'Getting ready',
  export: 'Making this',
  notes: 'Reading this note',
  chances: 'Working this out',
  plan: 'Working this out',
  planDates: 'Working this out',
  planSince: 'Working this out',
  figures: 'Working this out',
}

interface Asking {
  readonly person: string
  readonly signal?: AbortSignal
  /** Fetches what the work asks for in the middle of it. */
  readonly need?: (what: unknown) => Promise<unknown>
  /** Hears how far the work is, 0 to 1, some times a second, where it says so. */
  readonly soFar?: (part: number) => void
}
interface Waiting {
  readonly person: string
  readonly start: () => void
}
/** Jobs that wait for one another. */
class Lane {
  readonly queue: Waiting[] = []
  private readonly running = new Set<string>()

  /** Whether nobody's work is under way. */
  get isIdle(): boolean {
    return this.running.size === 0
  }

  startNext(): void {
    while (this.running.size < SIDE_BY_SIDE) {
      const at = this.queue.findIndex(({ person }) => !this.running.has(person))
      if (at < 0) return
      const [next] = this.queue.splice(at, 1)
      this.running.add(next!.person)
      next!.start()
    }
  }

  ended(person: string): void {
    this.running.delete(person)
    this.startNext()
  }
}
const jobs = new Lane()
const ofEdits = new Lane()

/** In a build the worker lies beside the server's entry; in development, in the last build. */
function workerFile(): string {
  const built = join(dirname(resolve(process.argv[1] ?? '.')), 'workers', 'jobs.mjs')
  return existsSync(built) ? built : resolve('.output/server/workers/jobs.mjs')
}

/** A thread with nothing to do: whom it's kept for (null: everybody), and what ends it. */
interface Kept {
  readonly only: string | null
  readonly late: NodeJS.Timeout
}
const idle = new Map<Worker, Kept>()
const jobsDone = new WeakMap<Worker, number>()
/** Those that have read, and run in, what all the slow kinds of documents are made with. */
const warm = new WeakSet<Worker>()

/** By name: without one, what the worker itself listens to goes too, and it answers no more. */
function stopListening(worker: Worker): void {
  for (const event of ['message', 'error', 'exit']) worker.removeAllListeners(event)
}

/** Whose files a thread for this kind reads, and nobody else's; null where it's trees that are here. */
const onlyFor = (kind: Kind, person: string): string | null => (OWN.has(kind) ? null : person)

function threadFor(kind: Kind, person: string): { worker: Worker; standing: boolean } {
  const fitting = [...idle.keys()].filter(worker => idle.get(worker)!.only === onlyFor(kind, person))
  const kept = fitting.find(worker => warm.has(worker) === DOCUMENTS.has(kind)) ?? fitting[0]
  if (!kept) {
    const worker = new Worker(workerFile(), {
      resourceLimits: { maxOldGenerationSizeMb: MOST_MB, maxYoungGenerationSizeMb: YOUNG_MB },
      stderr: true,
    })
    return { worker, standing: false }
  }
  clearTimeout(idle.get(kept)!.late)
  idle.delete(kept)
  stopListening(kept)
  kept.ref()
  return { worker: kept, standing: true }
}

/** A thread whose job ended well: kept for the next that it may do, or ended. */
function putBack(worker: Worker, only: string | null): void {
  const jobs = (jobsDone.get(worker) ?? 0) + 1
  jobsDone.set(worker, jobs)
  const likeIt = [...idle.values()].filter(kept => (kept.only === null) === (only === null))
  if (jobs >= MOST_JOBS || likeIt.length >= SIDE_BY_SIDE) {
    void worker.terminate()
    return
  }
  stopListening(worker)
  const goes = (): void => {
    clearTimeout(idle.get(worker)?.late)
    idle.delete(worker)
  }
  const late = setTimeout(
    () => {
      goes()
      void worker.terminate()
    },
    only === null ? IDLE_MS : IDLE_FOR_ONE_MS,
  )
  late.unref()
  worker.on('error', goes)
  worker.on('exit', goes)
  worker.unref()
  idle.set(worker, { only, late })
}

function inThread(kind: Kind, input: unknown, asking: Asking): Promise<Answer> {
  const { person, signal, need } = asking
  return new Promise((done, reject) => {
    if (signal?.aborted) {
      reject(stopped())
      return
    }
    const { worker, standing } = threadFor(kind, person)
    const tell = (told: Told): void => worker.postMessage(told)
    let ended = false
    let timer: NodeJS.Timeout | undefined
    const end = (then: () => void, well = false): void => {
      if (ended) return
      ended = true
      clearTimeout(timer)
      signal?.removeEventListener('abort', cancel)
      if (well) putBack(worker, onlyFor(kind, person))
      else void worker.terminate()
      then()
    }
    const cancel = (): void => end(() => reject(stopped()))
    // What the job before left behind in a kept thread may end it: that says nothing of this one, which begins anew.
    const broke = (error: Error): void =>
      end(() => (standing ? inThread(kind, input, asking).then(done, reject) : reject(error)))
    // What the work may take counts from when it begins: how long a thread takes to start says nothing of the file.
    const begin = (): void => {
      clearTimeout(timer)
      timer = setTimeout(
        () =>
          end(() =>
            reject(tooHeavy(`${DOING[kind]} takes longer than ${mostMs(kind) / 1000} seconds, so it was stopped.`)),
          ),
        mostMs(kind),
      )
      tell({ say: 'job', kind, input })
    }
    signal?.addEventListener('abort', cancel)
    worker.on('message', (answer: Answer) => {
      if (answer.kind === 'ready') begin()
      else if (answer.kind === 'so-far') asking.soFar?.(answer.part)
      else if (answer.kind !== 'need') {
        if (kind === 'warmUp' && answer.kind === 'done') warm.add(worker)
        end(() => done(answer), true)
      } else if (need)
        need(answer.what).then(
          found => tell({ say: 'found', found }),
          (error: Error) => end(() => reject(error)),
        )
      else end(() => reject(new Error(`a job of the kind ${kind} needs more than it was given`)))
    })
    worker.on('error', (error: Error & { code?: string }) =>
      error.code === 'ERR_WORKER_OUT_OF_MEMORY'
        ? end(() => reject(tooHeavy(`${DOING[kind]} needs more memory than one file may have.`)))
        : broke(error),
    )
    worker.on('exit', code => broke(new Error(`a worker ended by itself with code ${code}`)))
    if (standing) begin()
    else timer = setTimeout(() => end(() => reject(new Error('a thread for a job didn’t start'))), START_MS)
  })
}
const stopped = (): Fault => new Fault(499, 'cancelled', 'It was stopped. Nothing was changed.')
const tooHeavy = (why: string): Fault => new Fault(422, 'too-heavy', `${why} Nothing was changed.`)

/**
 * Somebody is about to hand something out: a thread is got ready for it, unless one is or the house has other work.
 * Their document waits for it, and is made the quicker.
 */
export function getReady(person: string): void {
  if (!jobs.isIdle || [...idle.keys()].some(worker => warm.has(worker))) return
  runJob('warmUp', undefined, { person }).catch((error: unknown) => log.warn({ error }, 'no thread could be got ready'))
}

/**
 * Runs a job for somebody and answers with its result. Throws `Unreadable` for input that can't be read, and a `Fault`
 * when it takes too long or too much (`too-heavy`), when it's stopped by `signal` (`cancelled`), or when too many of
 * theirs wait already (`slowed`).
 */
export async function runJob<K extends Kind>(kind: K, input: Input<K>, asking: Asking): Promise<Result<K>> {
  const { person } = asking
  const lane = EDITS.has(kind) ? ofEdits : jobs
  if (lane.queue.filter(one => one.person === person).length >= MOST_WAITING)
    throw new Fault(429, 'slowed', 'Several of your files are being worked on already. Wait until one is done.')
  await new Promise<void>(start => {
    lane.queue.push({ person, start })
    lane.startNext()
  })
  try {
    const answer = await inThread(kind, input, asking)
    if (answer.kind === 'done') return answer.result as Result<K>
    if (answer.kind === 'refused') throw new Fault(422, answer.code, answer.message)
    if (answer.kind === 'unreadable') throw answer.which ? new Ambiguous(answer.which) : new Unreadable(answer.message)
    throw new Error(`a job of the kind ${kind} failed: ${answer.kind === 'failed' ? answer.name : answer.kind}`)
  } finally {
    lane.ended(person)
  }
}
