import { nanoid } from 'nanoid'
import type { BenchPage, ServerMessage, TalkNews, TalkOverview, ThreadPage } from '#core/contract'
import type { Body } from '#core/talk/body'
import { BENCH, type BecameKind, type Place, type Saying, type Told, topicOfPlace } from '#core/talk/saying'
import { type Comment, hear, signOf, type Thread, type TopicSign, topicSign } from '#core/talk/thread'
import type { TopicId } from '#core/tree'
import { searched, WordKeeper, worthKeeping } from './kept-words'
import { KnownThreads, openFirst } from './known-threads'
import { Meanwhile } from './meanwhile'
import { AGAIN_MS, passes, type Pending, PendingSayings } from './pending'
import type { TalkHouse } from './talk-house'

/**
 * What is said in one tree, as one browser has it: what is known of it, with what was said here and waits over it. What is told comes
 * in order by number; a gap is filled by asking.
 */
export class Talk {
  /** Lines of the talk of the tree that weren't read. */
  unread = 0
  /** Names of those who said something that was read; those too who have left. */
  readonly names: Record<string, string> = {}
  /** Whether there are older lines of the talk of the tree than those that are here. */
  benchMore = false
  private readonly known = new KnownThreads()
  private readonly pending: PendingSayings
  private readonly keeper = new WordKeeper(() => this.keepWords())
  private lines: Thread | null = null
  /** The number of the newest saying that is known; null before the first look. */
  private number: number | null = null
  private seen = 0
  private tookKept = false
  private epoch: string | undefined
  /** Where the next page of threads on a topic begins; null when all are here. */
  private next = new Map<TopicId, number | null>()
  private looking: Promise<void> | null = null
  private catching: Promise<void> | null = null
  /** What was told while one looked: it may be in what is found, or not. */
  private early: Told[] = []
  private readonly meanwhile = new Meanwhile()

  constructor(private readonly house: TalkHouse) {
    this.pending = new PendingSayings(house)
  }

  async begin(): Promise<void> {
    await this.pending.begin()
    await this.look()
    this.flush()
  }

  /** The number of the newest saying that was heard; 0 before the first. */
  get heard(): number {
    return this.number ?? 0
  }

  /** Takes the signs anew, and forgets words that may be old. */
  private look(): Promise<void> {
    this.looking ??= this.lookNow().finally(() => {
      this.looking = null
      if (this.number !== null) for (const told of this.early.splice(0)) this.take(told)
    })
    return this.looking
  }

  private async lookNow(): Promise<void> {
    const before = this.known.topics
    const epoch = this.house.epoch()
    try {
      const found = await this.house.ask<TalkOverview>('')
      this.known.begin(found.signs)
      this.number = found.number
      this.unread = found.unread
      this.seen = found.seen
      this.epoch = epoch
      this.next.clear()
      this.lines = null
      this.keeper.touch()
    } catch {
      // Without a line only that is known which this browser kept; the next welcome asks again.
      if (this.number === null) await this.takeKept()
    }
    this.house.changed(
      new Set([null, ...before, ...this.known.topics, ...this.pending.topics(saying => this.topicOf(saying))]),
    )
  }

  // — Without a line

  private async takeKept(): Promise<void> {
    const kept = await this.house.keptWords()
    if (!kept || this.number !== null) return
    this.tookKept = true
    this.known.begin(kept.signs)
    for (const thread of kept.threads) this.known.put(thread)
    this.lines = kept.lines
    this.unread = kept.unread
    this.seen = kept.seen
    Object.assign(this.names, kept.names)
  }

  /** Whether all that is known is what this browser kept from before. */
  private get hasOnlyKept(): boolean {
    return this.number === null && this.tookKept
  }

  private keepWords(): void {
    // What can't be told from what was kept before isn't kept over it.
    if (this.number === null) return
    const { signs, threads } = this.known.all
    const { number, seen, unread, lines, names } = this
    this.house.keepWords(worthKeeping({ number, seen, unread, signs, threads, lines, names }))
  }

  /** So that they can be read without a line: words of what is still open, the newest. */
  async readAhead(): Promise<void> {
    if (this.number === null || !this.known.all.signs.some(({ settled }) => !settled)) return
    await this.search('settled=false').catch(() => {
      /* then they can't be */
    })
  }

  /** The talk is left: what isn't kept yet is. */
  close(): void {
    this.keeper.now()
  }

  hear(message: ServerMessage): void {
    if (message.type === 'said') {
      if (this.number === null || this.looking) {
        this.early.push(...message.told)
        void this.look()
      } else for (const told of message.told) this.take(told)
    } else if (message.type === 'welcome') {
      this.pending.unsent()
      // Under another epoch what was said may read otherwise.
      if (this.number === null || this.epoch !== message.epoch) void this.look().then(() => this.flush())
      else if (message.talk !== this.number) this.catchUp()
      else this.flush()
    } else if (message.type === 'unsaid') this.refused(message)
  }

  private refused({ saying: id, code, message }: Extract<ServerMessage, { type: 'unsaid' }>): void {
    const saying = this.pending.saying(id)
    if (!saying) return
    if (passes(code)) {
      this.pending.unsent(id)
      setTimeout(() => this.flush(), AGAIN_MS)
      return
    }
    const topic = this.topicOf(saying)
    // Words stay where they were said, with the reason; what else was asked just isn't so.
    if ('body' in saying) this.pending.mark(id, message)
    else {
      this.pending.end(id)
      this.house.said(message)
    }
    this.house.changed(new Set([topic, null]))
  }

  private catchUp(): void {
    this.catching ??= this.catchUpNow().finally(() => {
      this.catching = null
      this.flush()
    })
  }

  private async catchUpNow(): Promise<void> {
    try {
      const { told, more } = await this.house.ask<TalkNews>(`/news?since=${this.heard}`)
      // Away for long: what is known is too little to go on from.
      if (more) await this.look()
      else for (const one of told) this.take(one)
    } catch {
      /* the next welcome asks again */
    }
  }

  private take(told: Told): void {
    const next = this.heard + 1
    if (told.number > next) {
      this.catchUp()
      return
    }
    const topic = this.topicOf(told)
    this.pending.end(told.id)
    if (told.number < next) return
    this.number = told.number
    this.keeper.touch()
    this.meanwhile.hear(told)
    if (told.thread === BENCH) this.takeLine(told)
    // A guest's name comes with their words alone.
    else if (!this.known.hear(told) || (told.op === 'say' && !(told.by in this.names) && !this.house.isNamed(told.by)))
      this.read(`thread=${told.thread}`).catch(() => {
        /* without a line; the next look has it */
      })
    this.house.changed(new Set([topic, null]))
  }

  private takeLine(told: Told): void {
    if (this.lines) this.lines = hear(this.lines, told) ?? null
    if (told.op !== 'say') return
    if (told.by === this.house.me) this.seen = told.number
    else if (told.number > this.seen) this.unread++
  }

  // — Reading

  private askFor<T>(path: string, take: (found: T, heard: (thread: Thread) => Thread) => void): Promise<T> {
    return this.meanwhile.over(
      () => this.house.ask<T>(path),
      (found, heard) => {
        this.keeper.touch()
        take(found, heard)
      },
    )
  }

  private read(query: string): Promise<ThreadPage> {
    return this.askFor<ThreadPage>(`/threads?${query}`, (page, heard) => {
      Object.assign(this.names, page.names)
      for (const found of page.threads) this.known.put(heard(found))
      this.house.changed(new Set([null, ...page.threads.map(({ place }) => topicOfPlace(place))]))
    })
  }

  /** Reads what hangs on a topic, the next page of it; does nothing when all is here. Rejects without a line. */
  async readTopic(topic: TopicId): Promise<void> {
    if (!this.hasMore(topic)) return
    const before = this.next.get(topic)
    const { next } = await this.read(`topic=${topic}${before ? `&before=${before}` : ''}`)
    this.next.set(topic, next)
    this.house.changed(new Set([topic]))
  }

  /**
   * Threads of the tree by a query (`settled=false&text=…`), the next page from `before`. Where only what this browser kept is known,
   * that is looked through. Rejects without a line.
   */
  async search(query: string): Promise<{ ids: string[]; next: number | null }> {
    try {
      const { threads, next } = await this.read(query)
      return { ids: threads.map(({ id }) => id), next }
    } catch (error) {
      if (!this.hasOnlyKept) throw error
      return { ids: searched(this.known.all.threads, new URLSearchParams(query)), next: null }
    }
  }

  /** The newest lines of the talk of the tree, or the page before those that are here. Rejects without a line. */
  async readBench(): Promise<void> {
    const first = this.lines?.comments[0]
    await this.askFor<BenchPage>(`/bench${first ? `?before=${first.number}` : ''}`, (page, heard) => {
      Object.assign(this.names, page.names)
      const found = new Set(page.comments.map(({ id }) => id))
      this.lines = heard({
        id: BENCH,
        place: { on: 'tree' },
        settled: null,
        comments: [...page.comments, ...(this.lines?.comments ?? []).filter(({ id }) => !found.has(id))],
      })
      this.benchMore = page.next !== null
      this.house.changed(new Set([null]))
    })
  }

  /** Lines of the talk of the tree with these words, newest last. Rejects without a line. */
  async searchBench(text: string): Promise<readonly Comment[]> {
    const { comments, names } = await this.house.ask<BenchPage>(`/bench?text=${encodeURIComponent(text)}`)
    Object.assign(this.names, names)
    return comments
  }

  /** All of the talk of the tree has been read: up to where; null when that was known. */
  sawBench(): number | null {
    if (this.unread === 0 && this.seen >= this.heard) return null
    this.unread = 0
    this.seen = this.heard
    this.keeper.touch()
    this.house.changed(new Set([null]))
    return this.seen
  }

  // — As it's shown: with what was said here and isn't stored yet

  private topicOf(saying: Saying | Told): TopicId | null {
    if ('place' in saying && saying.place) return topicOfPlace(saying.place)
    const thread = 'thread' in saying ? saying.thread : this.threadOf(saying.comment)
    if (thread === undefined || thread === BENCH) return null
    const place = this.known.sign(thread)?.place ?? this.pending.placeOf(thread)
    return place ? topicOfPlace(place) : null
  }

  private readonly threadOf = (comment: string): string | undefined =>
    this.known.threadOf(comment) ??
    this.pending.threadOf(comment) ??
    (this.lines?.comments.some(({ id }) => id === comment) ? BENCH : undefined)

  thread(id: string): Thread | undefined {
    return this.pending.over(id, this.known.thread(id), this.threadOf)
  }

  private idsAt(topic: TopicId): Set<string> {
    return new Set([...(this.known.idsAt(topic) ?? []), ...this.pending.begunAt(topic)])
  }

  /** Threads on a topic whose words are here, those that aren't settled first, each the oldest first. */
  threadsAt(topic: TopicId): Thread[] {
    return [...this.idsAt(topic)].flatMap(id => this.thread(id) ?? []).sort(openFirst)
  }

  /** Whether something hangs on a topic whose words aren't here. */
  hasMore(topic: TopicId): boolean {
    const ids = this.known.idsAt(topic)
    if (ids === undefined || this.next.get(topic) === null) return false
    // Without a line there is no more than what was kept, and that all of it was is known by the signs.
    return this.number !== null || ![...ids].every(id => this.known.thread(id))
  }

  bench(): Thread | undefined {
    return this.lines ? this.pending.over(BENCH, this.lines, this.threadOf) : undefined
  }

  /** The sign of a topic, or of some of what hangs on it; null when nothing does. */
  signAt(topic: TopicId, which?: (place: Place) => boolean): TopicSign | null {
    const stored = this.known.idsAt(topic)
    if (this.pending.isEmpty && !stored) return null
    const signs = this.pending.isEmpty
      ? [...stored!].flatMap(id => this.known.sign(id) ?? [])
      : [...this.idsAt(topic)].flatMap(id => {
          const words = this.thread(id)
          return words ? signOf(words) : (this.known.sign(id) ?? [])
        })
    return topicSign(which ? signs.filter(({ place }) => which(place)) : signs)
  }

  /** Why a comment's words aren't stored; null when they are. */
  pendingOf(comment: string): Pending | null {
    return this.pending.ofComment(comment)
  }

  get waitingCount(): number {
    return this.pending.waitingCount
  }

  // — Saying

  private say(saying: Saying): void {
    this.pending.add(saying)
    this.house.changed(new Set([this.topicOf(saying), null]))
    this.flush()
  }

  /** Sends what waits; what is about a topic that the server doesn't know yet stays. */
  flush(): void {
    this.pending.flush(saying => {
      const topic = this.topicOf(saying)
      return topic === null || this.house.knows(topic)
    })
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

  /** Says once more what was refused. */
  again({ saying }: Pending): void {
    this.pending.mark(saying.id, null)
    this.house.changed(new Set([this.topicOf(saying), null]))
    this.flush()
  }

  /** Lets go of what was refused. */
  letGo({ saying }: Pending): void {
    const topic = this.topicOf(saying)
    this.pending.end(saying.id)
    this.house.changed(new Set([topic, null]))
  }
}
