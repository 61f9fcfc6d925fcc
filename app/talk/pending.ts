import { type Place, type Saying, type Told, topicOfPlace } from '#core/talk/saying'
import { hear, type Thread } from '#core/talk/thread'
import type { TopicId } from '#core/tree'
import type { TalkHouse } from './talk-house'

/** Refusals that pass: what was said is kept and sent again, after so many milliseconds. */
const PASSING = new Set(['slowed', 'unavailable', 'stopping', 'disk-full', 'unforeseen'])
export const passes = (code: string): boolean => PASSING.has(code)
export const AGAIN_MS = 2000

/** What was said and isn't stored: it waits, or was refused with a reason. */
export interface Pending {
  readonly saying: Saying
  readonly at: string
  readonly why: string | null
}

/** Numbers of what isn't stored yet: after all that is. */
const NOT_YET = 2 ** 40

/** What was said here and isn't stored yet, in the order in which it was said. */
export class PendingSayings {
  private list: Pending[] = []
  /** Those that went out on the line that stands. */
  private readonly sent = new Set<string>()

  constructor(private readonly house: Pick<TalkHouse, 'me' | 'send' | 'keep' | 'drop' | 'kept' | 'now'>) {}

  get isEmpty(): boolean {
    return this.list.length === 0
  }

  get waitingCount(): number {
    return this.list.filter(({ why }) => why === null).length
  }

  /** Takes up what this browser kept. */
  async begin(): Promise<void> {
    for (const saying of await this.house.kept()) this.push(saying)
  }

  private push(saying: Saying): void {
    this.list.push({ saying, at: new Date(this.house.now()).toISOString(), why: null })
  }

  add(saying: Saying): void {
    this.push(saying)
    this.house.keep(saying)
  }

  /** It's stored, or won't be: it waits no more. What it was; undefined when it didn't wait. */
  end(id: string): Saying | undefined {
    const one = this.list.find(({ saying }) => saying.id === id)
    if (!one) return undefined
    this.list = this.list.filter(other => other !== one)
    this.sent.delete(id)
    this.house.drop(id)
    return one.saying
  }

  /** It was refused for good, or (`null`) is tried again. Words stay where they were said. */
  mark(id: string, why: string | null): void {
    this.sent.delete(id)
    this.list = this.list.map(one => (one.saying.id === id ? { ...one, why } : one))
  }

  saying(id: string): Saying | undefined {
    return this.list.find(({ saying }) => saying.id === id)?.saying
  }

  /** Another line stands: nothing is on its way. `id`: that one alone has to go again. */
  unsent(id?: string): void {
    if (id === undefined) this.sent.clear()
    else this.sent.delete(id)
  }

  /** Sends what waits and `may` go; stops where no line stands. */
  flush(may: (saying: Saying) => boolean): void {
    for (const { saying, why } of this.list) {
      if (why !== null || this.sent.has(saying.id) || !may(saying)) continue
      if (!this.house.send(saying)) return
      this.sent.add(saying.id)
    }
  }

  /** Where a thread hangs that was begun here. */
  placeOf(thread: string): Place | undefined {
    for (const { saying } of this.list) if (saying.op === 'say' && saying.comment === thread) return saying.place
    return undefined
  }

  /** The thread of a comment that was said here. */
  threadOf(comment: string): string | undefined {
    for (const { saying } of this.list) if (saying.op === 'say' && saying.comment === comment) return saying.thread
    return undefined
  }

  /** Threads that were begun here on a topic. */
  begunAt(topic: TopicId): string[] {
    return this.list.flatMap(({ saying }) =>
      saying.op === 'say' && saying.place && topicOfPlace(saying.place) === topic ? [saying.thread] : [],
    )
  }

  /** Topics on which something waits. `topicOf`: where a saying is said. */
  topics(topicOf: (saying: Saying) => TopicId | null): (TopicId | null)[] {
    return this.list.map(({ saying }) => topicOf(saying))
  }

  /** A thread with what waits for it over it. `threadOf`: of a comment. */
  over(id: string, thread: Thread | undefined, threadOf: (comment: string) => string | undefined): Thread | undefined {
    return this.list.reduce((shown, { saying, at }, i) => {
      const of = 'thread' in saying ? saying.thread : threadOf(saying.comment)
      if (of !== id) return shown
      return hear(shown, { ...saying, thread: id, number: NOT_YET + i, by: this.house.me, at } satisfies Told)
    }, thread)
  }

  /** The words that wait for a comment; null when they are stored. */
  ofComment(comment: string): Pending | null {
    return this.list.find(({ saying }) => 'body' in saying && saying.comment === comment) ?? null
  }
}
