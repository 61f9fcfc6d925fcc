import { nanoid } from 'nanoid'
import type { BenchPage, ServerMessage, TalkNews, TalkOverview, ThreadPage } from '#core/contract'
import type { Body } from '#core/talk/body'
import { mentionsIn } from '#core/talk/body'
import { BENCH, type BecameKind, type Place, type Saying, type Told, topicOfPlace } from '#core/talk/saying'
import { type Comment, hear, signOf, type Thread, type ThreadSign, type TopicSign, topicSign } from '#core/talk/thread'
import type { TopicId } from '#core/tree'

/** What a talk needs of the house around it. */
export interface TalkHouse {
  /** One's own account. */
  readonly me: string
  /** Asks the server; `path` continues the address of the tree's talk. */
  ask<T>(path: string): Promise<T>
  /** Sends over the line; false when none stands. */
  send(saying: Saying): boolean
  /** Keeps what was said in this browser until it's acknowledged. */
  keep(saying: Saying): void
  drop(id: string): void
  kept(): Promise<readonly Saying[]>
  /** Whether the server knows a topic: one that was made without a line comes first. */
  knows(topic: TopicId): boolean
  /** Something on these topics, or in the talk of the tree (null), is other now. */
  changed(topics: ReadonlySet<TopicId | null>): void
  /** Something that went wrong, in words. */
  said(message: string): void
  /** The present as the server has it, ms since 1970 UTC. */
  now(): number
}

/** What was said and isn't stored: it waits, or was refused with a reason. */
export interface Pending {
  readonly saying: Saying
  readonly at: string
  readonly why: string | null
}

/** Refusals that pass: what was said is kept and sent again. */
const PASSING = ['slowed', 'unavailable', 'stopping', 'disk-full', 'unforeseen']
const AGAIN_MS = 2000
/** Numbers of what isn't stored yet: after all that is. */
const NOT_YET = 2 ** 40

/** Hears what may have been heard already: an answer opens its thread once more, as it did. */
function hearAgain(thread: Thread, told: Told): Thread {
  const heard = hear(thread, told) ?? thread
  return told.op === 'say' ? { ...heard, settled: null } : heard
}

/**
 * What is said in one tree, as one browser has it: signs of all threads, the words of those that were looked at, and what was
 * said here and waits. What is told comes in order by number; a gap is filled by asking.
 */
export class Talk {
  /** Lines of the talk of the tree that weren't read. */
  unread = 0
  /** Names of those who said something that was read; those too who have left. */
  readonly names: Record<string, string> = {}
  /** Whether there are older lines of it than those that are here. */
  benchMore = false
  private number = 0
  private seen = 0
  private signs = new Map<string, ThreadSign>()
  /** Threads by what they hang on. */
  private at = new Map<TopicId, Set<string>>()
  private threads = new Map<string, Thread>()
  private lines: Thread | null = null
  /** Where the next page of threads on a topic begins; null when all are here. */
  private next = new Map<TopicId, number | null>()
  private pending: Pending[] = []
  private sent = new Set<string>()
  private ready = false
  private early: Told[] = []
  private asking = false
  private looking: Promise<void> | null = null
  /** Askings that are on their way, and what was told meanwhile. */
  private flying = 0
  private meanwhile: Told[] = []
  private epoch: string | undefined

  constructor(private readonly house: TalkHouse) {}

  async begin(): Promise<void> {
    for (const saying of await this.house.kept())
      this.pending.push({ saying, at: new Date(this.house.now()).toISOString(), why: null })
    await this.look()
    this.flush()
  }

  /** Takes the signs anew, and forgets words that may be old. */
  private look(): Promise<void> {
    this.looking ??= this.lookNow().finally(() => {
      this.looking = null
    })
    return this.looking
  }

  private async lookNow(): Promise<void> {
    let found: TalkOverview
    try {
      found = await this.house.ask<TalkOverview>('')
    } catch {
      // Without a line nothing is known; the next welcome asks again.
      this.tellAll()
      return
    }
    const before = [...this.at.keys()]
    this.number = found.number
    this.unread = found.unread
    this.seen = found.seen
    this.signs = new Map(found.signs.map(sign => [sign.id, sign]))
    this.at = new Map()
    for (const sign of found.signs) this.place(sign.id, sign.place)
    this.threads.clear()
    this.next.clear()
    this.lines = null
    this.ready = true
    for (const told of this.early.splice(0)) this.take(told)
    this.tellAll(before)
  }

  private tellAll(more: readonly TopicId[] = []): void {
    this.house.changed(
      new Set([null, ...this.at.keys(), ...more, ...this.pending.map(one => this.topicOf(one.saying))]),
    )
  }

  private place(id: string, place: Place): void {
    const topic = topicOfPlace(place)
    if (topic === null) return
    const there = this.at.get(topic)
    if (there) there.add(id)
    else this.at.set(topic, new Set([id]))
  }

  hear(message: ServerMessage): void {
    if (message.type === 'said') {
      if (this.ready) for (const told of message.told) this.take(told)
      else this.early.push(...message.told)
    } else if (message.type === 'welcome') {
      this.sent.clear()
      // Under another epoch what was said may read otherwise.
      const another = this.epoch !== undefined && this.epoch !== message.epoch
      this.epoch = message.epoch
      if (!this.ready || another) void this.look().then(() => this.flush())
      else if (message.talk !== this.number) void this.catchUp()
      else this.flush()
    } else if (message.type === 'unsaid') this.refused(message)
  }

  private refused({ saying: id, code, message }: Extract<ServerMessage, { type: 'unsaid' }>): void {
    this.sent.delete(id)
    if (PASSING.includes(code)) {
      setTimeout(() => this.flush(), AGAIN_MS)
      return
    }
    const index = this.pending.findIndex(({ saying }) => saying.id === id)
    if (index < 0) return
    const one = this.pending[index]!
    // Words stay where they were said, with the reason; what else was asked just isn't so.
    if ('body' in one.saying) this.pending[index] = { ...one, why: message }
    else {
      this.pending.splice(index, 1)
      this.house.drop(id)
      this.house.said(message)
    }
    this.house.changed(new Set([this.topicOf(one.saying)]))
  }

  private async catchUp(): Promise<void> {
    if (this.asking) return
    this.asking = true
    try {
      const { told, more } = await this.house.ask<TalkNews>(`/news?since=${this.number}`)
      // Restored from a backup, or away for long: what is known may be another's.
      if (more || told.some((one, i) => one.number !== this.number + 1 + i)) await this.look()
      else for (const one of told) this.take(one)
    } catch {
      /* the next welcome asks again */
    } finally {
      this.asking = false
    }
    this.flush()
  }

  private take(told: Told): void {
    if (told.number <= this.number) {
      this.acknowledge(told)
      return
    }
    if (told.number > this.number + 1) {
      void this.catchUp()
      return
    }
    this.number = told.number
    if (this.flying > 0) this.meanwhile.push(told)
    this.acknowledge(told)
    if (told.thread === BENCH) {
      if (this.lines) this.lines = hear(this.lines, told) ?? null
      if (told.op === 'say' && told.by === this.house.me) this.seen = told.number
      else if (told.op === 'say' && told.number > this.seen) this.unread++
      this.house.changed(new Set([null]))
      return
    }
    const known = this.threads.get(told.thread)
    const begins = told.op === 'say' && told.comment === told.thread
    if (known || begins) {
      const thread = hear(known, told)
      if (thread) {
        this.threads.set(thread.id, thread)
        this.signs.set(thread.id, signOf(thread))
        this.place(thread.id, thread.place)
      }
    } else this.heardOfUnread(told)
    this.house.changed(new Set([this.topicOf(told), null]))
  }

  /** Of a thread whose words aren't here: what follows for its sign, or else its words are asked for. */
  private heardOfUnread(told: Told): void {
    const sign = this.signs.get(told.thread)
    if (!sign) return
    if (told.op === 'settle') this.signs.set(sign.id, { ...sign, settled: told.settled })
    else if (told.op === 'say' && told.body)
      this.signs.set(sign.id, {
        ...sign,
        settled: false,
        count: sign.count + 1,
        by: [...new Set([...sign.by, told.by])],
        mentions: [...new Set([...sign.mentions, ...mentionsIn(told.body).people])],
      })
    else if (told.op !== 'became') void this.read(`thread=${told.thread}`)
  }

  private acknowledge({ id }: Told): void {
    const index = this.pending.findIndex(({ saying }) => saying.id === id)
    if (index < 0) return
    this.pending.splice(index, 1)
    this.sent.delete(id)
    this.house.drop(id)
  }

  // — Reading

  /** Asks for words. What is told while they are on their way may not be in them, and is heard again over them. */
  private async askFor<T>(path: string, take: (found: T, heard: (thread: Thread) => Thread) => void): Promise<T> {
    this.flying++
    try {
      const found = await this.house.ask<T>(path)
      take(found, thread =>
        this.meanwhile.reduce((now, told) => (told.thread === now.id ? hearAgain(now, told) : now), thread),
      )
      return found
    } finally {
      if (--this.flying === 0) this.meanwhile = []
    }
  }

  private read(query: string): Promise<ThreadPage> {
    return this.askFor<ThreadPage>(`/threads?${query}`, (page, heard) => {
      Object.assign(this.names, page.names)
      for (const found of page.threads) {
        const thread = heard(found)
        this.threads.set(thread.id, thread)
        this.signs.set(thread.id, signOf(thread))
        this.place(thread.id, thread.place)
      }
      this.house.changed(new Set([null, ...page.threads.map(({ place }) => topicOfPlace(place))]))
    })
  }

  /** Reads what hangs on a topic, the next page of it; does nothing when all is here. Rejects without a line. */
  async readTopic(topic: TopicId): Promise<void> {
    const before = this.next.get(topic)
    if (before === null || !this.at.has(topic)) return
    const { next } = await this.read(`topic=${topic}${before === undefined ? '' : `&before=${before}`}`)
    this.next.set(topic, next)
    this.house.changed(new Set([topic]))
  }

  /** Threads of the tree by a query (`settled=false&text=…`), the next page from `before`. */
  async search(query: string): Promise<{ ids: string[]; next: number | null }> {
    const { threads, next } = await this.read(query)
    return { ids: threads.map(({ id }) => id), next }
  }

  /** The newest lines of the talk of the tree, or the page before those that are here. Rejects without a line. */
  async readBench(): Promise<void> {
    const first = this.lines?.comments[0]
    await this.askFor<BenchPage>(`/bench${first ? `?before=${first.number}` : ''}`, (page, heard) => {
      Object.assign(this.names, page.names)
      const known = new Set(page.comments.map(({ id }) => id))
      this.lines = heard({
        id: BENCH,
        place: { on: 'tree' },
        settled: null,
        comments: [...page.comments, ...(this.lines?.comments ?? []).filter(({ id }) => !known.has(id))],
      })
      this.benchMore = page.next !== null
      this.house.changed(new Set([null]))
    })
  }

  /** Lines of the talk of the tree with these words, newest last. */
  async searchBench(text: string): Promise<readonly Comment[]> {
    const { comments, names } = await this.house.ask<BenchPage>(`/bench?text=${encodeURIComponent(text)}`)
    Object.assign(this.names, names)
    return comments
  }

  /** All of the talk of the tree has been read. */
  sawBench(): number | null {
    if (this.unread === 0 && this.seen >= this.number) return null
    this.unread = 0
    this.seen = this.number
    this.house.changed(new Set([null]))
    return this.number
  }

  // — As it's shown: with what was said here and isn't stored yet

  private topicOf(saying: Saying | Told): TopicId | null {
    if ('place' in saying && saying.place) return topicOfPlace(saying.place)
    const thread = 'thread' in saying ? saying.thread : this.threadOf(saying.comment)
    const place = thread === undefined ? undefined : (this.threads.get(thread)?.place ?? this.signs.get(thread)?.place)
    if (place) return topicOfPlace(place)
    const begins = this.pending.find(
      one => one.saying.op === 'say' && one.saying.comment === thread && one.saying.place,
    )?.saying
    return begins?.op === 'say' && begins.place ? topicOfPlace(begins.place) : null
  }

  private threadOf(comment: string): string | undefined {
    for (const thread of this.threads.values()) if (thread.comments.some(({ id }) => id === comment)) return thread.id
    if (this.lines?.comments.some(({ id }) => id === comment)) return BENCH
    return this.pending.flatMap(({ saying }) =>
      saying.op === 'say' && saying.comment === comment ? [saying.thread] : [],
    )[0]
  }

  private withPending(id: string, thread: Thread | undefined): Thread | undefined {
    let shown = thread
    for (const [i, { saying, at }] of this.pending.entries()) {
      const of = 'thread' in saying ? saying.thread : this.threadOf(saying.comment)
      if (of === id) shown = hear(shown, { ...saying, thread: id, number: NOT_YET + i, by: this.house.me, at })
    }
    return shown
  }

  thread(id: string): Thread | undefined {
    return this.withPending(id, this.threads.get(id))
  }

  /** Threads on a topic whose words are here, those that aren't settled first, each the oldest first. */
  threadsAt(topic: TopicId): Thread[] {
    const ids = new Set(this.at.get(topic))
    for (const { saying } of this.pending)
      if (saying.op === 'say' && saying.place && topicOfPlace(saying.place) === topic) ids.add(saying.thread)
    return [...ids]
      .flatMap(id => this.thread(id) ?? [])
      .sort(
        (a, b) =>
          Number(a.settled !== null) - Number(b.settled !== null) ||
          (a.comments[0]?.number ?? 0) - (b.comments[0]?.number ?? 0),
      )
  }

  /** Whether something hangs on a topic whose words aren't here. */
  hasMore(topic: TopicId): boolean {
    return this.at.has(topic) && this.next.get(topic) !== null
  }

  bench(): Thread | undefined {
    return this.lines ? this.withPending(BENCH, this.lines) : undefined
  }

  /** The sign of a topic; null when nothing hangs on it. */
  signAt(topic: TopicId): TopicSign | null {
    const ids = this.at.get(topic)
    const fresh = this.pending.some(
      ({ saying }) => saying.op === 'say' && saying.place && topicOfPlace(saying.place) === topic,
    )
    if (!ids && !fresh) return null
    if (fresh) return topicSign([...this.threadsAt(topic).map(signOf), ...this.unreadSigns(topic)])
    return topicSign(
      [...ids!].flatMap(id => {
        const words = this.pending.length > 0 ? this.thread(id) : undefined
        return words ? [signOf(words)] : (this.signs.get(id) ?? [])
      }),
    )
  }

  private unreadSigns(topic: TopicId): ThreadSign[] {
    return [...(this.at.get(topic) ?? [])].flatMap(id => (this.threads.has(id) ? [] : (this.signs.get(id) ?? [])))
  }

  /** How many threads of the tree aren't settled. */
  get open(): number {
    let count = 0
    for (const sign of this.signs.values()) if (!sign.settled && sign.count > 0) count++
    return count
  }

  /** Why a comment isn't stored: '' while it waits; null when it is. */
  pendingOf(comment: string): Pending | null {
    return (
      this.pending.find(({ saying }) => 'comment' in saying && saying.comment === comment && 'body' in saying) ?? null
    )
  }

  get waitingCount(): number {
    return this.pending.filter(({ why }) => why === null).length
  }

  // — Saying

  private say(saying: Saying): void {
    this.pending.push({ saying, at: new Date(this.house.now()).toISOString(), why: null })
    this.house.keep(saying)
    this.house.changed(new Set([this.topicOf(saying), null]))
    this.flush()
  }

  /** Sends what waits, in the order in which it was said; what is about a topic that the server doesn't know yet stays. */
  flush(): void {
    for (const { saying, why } of this.pending) {
      if (why !== null || this.sent.has(saying.id)) continue
      const topic = this.topicOf(saying)
      if (topic !== null && !this.house.knows(topic)) continue
      if (!this.house.send(saying)) return
      this.sent.add(saying.id)
    }
  }

  begins(place: Place, body: Body): string {
    const comment = nanoid(12)
    this.say({ id: nanoid(16), op: 'say', comment, thread: comment, place, body })
    return comment
  }

  goesOn(thread: string, body: Body): void {
    this.say({ id: nanoid(16), op: 'say', comment: nanoid(12), thread, body })
  }

  reword(comment: string, body: Body): void {
    this.say({ id: nanoid(16), op: 'reword', comment, body })
  }

  withdraw(comment: string): void {
    this.say({ id: nanoid(16), op: 'withdraw', comment })
  }

  settle(thread: string, settled: boolean): void {
    this.say({ id: nanoid(16), op: 'settle', thread, settled })
  }

  became(comment: string, became: { as: BecameKind; topic: TopicId } | null): void {
    this.say({ id: nanoid(16), op: 'became', comment, became })
  }

  /** Says once more what was refused, or lets it go. */
  again({ saying }: Pending): void {
    const index = this.pending.findIndex(one => one.saying.id === saying.id)
    if (index < 0) return
    this.pending[index] = { ...this.pending[index]!, why: null }
    this.house.changed(new Set([this.topicOf(saying), null]))
    this.flush()
  }

  letGo({ saying }: Pending): void {
    const topic = this.topicOf(saying)
    this.pending = this.pending.filter(one => one.saying.id !== saying.id)
    this.house.drop(saying.id)
    this.house.changed(new Set([topic, null]))
  }
}
