import fc from 'fast-check'
import { expect, it } from 'vitest'
import { maySay } from '#core/access/may-say'
import type { Role, ServerMessage } from '#core/contract'
import { bodyOf } from '#core/talk/body'
import { BENCH, type Saying, type Told } from '#core/talk/saying'
import { hear, signOf, type Thread, topicSign } from '#core/talk/thread'
import type { KeptWords } from './kept-words'
import { Talk } from './talk'

/** A server as the door has it, in memory: who may say what, numbers, and once each. */
class Door {
  readonly told: Told[] = []
  readonly threads = new Map<string, Thread>()
  readonly roles = new Map<string, Role>()

  say(by: string, saying: Saying): Told | string {
    const again = this.told.find(({ id }) => id === saying.id)
    if (again) return again
    const of = 'comment' in saying ? saying.comment : null
    const [holder, comment] = [...this.threads.values()]
      .flatMap(one => one.comments.map(each => [one, each] as const))
      .find(([, each]) => each.id === of) ?? [null, null]
    const id = 'thread' in saying ? saying.thread : (holder?.id ?? '')
    const thread = this.threads.get(id)
    const why = maySay({ kind: 'account', id: by }, this.roles.get(by)!, saying, {
      thread: thread ? { size: thread.comments.length } : null,
      comment: comment ?? null,
    })
    if (why) return why
    const told: Told = { ...saying, thread: id, number: this.told.length + 1, by, at: '2027-04-01T09:00:00.000Z' }
    this.told.push(told)
    this.threads.set(id, hear(thread, told)!)
    return told
  }

  answer(path: string): unknown {
    const query = new URL(path, 'http://x').searchParams
    const all = [...this.threads.values()]
    const plain = all.filter(({ id }) => id !== BENCH)
    if (path.startsWith('/news'))
      return { told: this.told.filter(({ number }) => number > Number(query.get('since'))), more: false }
    if (path.startsWith('/threads'))
      return {
        threads: plain.filter(
          ({ id, place }) =>
            (!query.has('thread') || id === query.get('thread')) &&
            (!query.has('topic') || (place.on !== 'tree' && place.topic === query.get('topic'))),
        ),
        names: {},
        next: null,
      }
    if (path.startsWith('/bench')) return { names: {}, comments: this.threads.get(BENCH)?.comments ?? [], next: null }
    return { number: this.told.length, signs: plain.map(signOf), unread: 0, seen: this.told.length }
  }
}

/** One browser: a talk, a line that may be down, and what is on its way on it. */
class Browser {
  readonly talk: Talk
  readonly shelf = new Map<string, Saying>()
  words: KeptWords | undefined
  up = false
  /** Turns that an answer is on its way. */
  late = 0
  private out: Saying[] = []
  private in: ServerMessage[] = []

  constructor(
    readonly me: string,
    private readonly door: Door,
    private readonly all: readonly Browser[],
  ) {
    this.talk = new Talk({
      me,
      ask: async path => {
        if (!this.up) throw new Error('no line')
        const answer = door.answer(path)
        // What was read may be on its way for a while; other things are told meanwhile.
        for (let i = 0; i < this.late; i++) await Promise.resolve()
        return answer as never
      },
      send: saying => this.up && this.out.push(saying) > 0,
      keep: saying => void this.shelf.set(saying.id, saying),
      drop: id => void this.shelf.delete(id),
      kept: () => Promise.resolve([...this.shelf.values()]),
      keepWords: words => void (this.words = structuredClone(words)),
      keptWords: () => Promise.resolve(this.words),
      knows: () => true,
      isNamed: () => true,
      changed: () => {},
      said: () => {},
      epoch: () => '',
      now: () => 0,
    })
  }

  connect(): void {
    if (this.up) return
    this.up = true
    this.in.push({
      type: 'welcome',
      client: '',
      version: 0,
      epoch: '',
      role: 'editor',
      present: [],
      at: 0,
      talk: this.door.told.length,
    })
  }

  /** What was on its way is lost, either way. */
  cut(): void {
    this.up = false
    this.out = []
    this.in = []
  }

  tell(message: ServerMessage): void {
    if (this.up) this.in.push(message)
  }

  /** One message goes each way. */
  step(): void {
    const saying = this.out.shift()
    if (saying) {
      const before = this.door.told.length
      const told = this.door.say(this.me, saying)
      if (typeof told === 'string') this.tell({ type: 'unsaid', saying: saying.id, code: told, message: told })
      else if (this.door.told.length > before) for (const each of this.all) each.tell({ type: 'said', told: [told] })
      else this.tell({ type: 'said', told: [told] })
    }
    const message = this.in.shift()
    if (message) this.talk.hear(message)
  }

  get idle(): boolean {
    return this.out.length === 0 && this.in.length === 0
  }
}

const settle = async (): Promise<void> => {
  for (let i = 0; i < 4; i++) await Promise.resolve()
}
const TOPICS = ['lift', 'ramp']
const act = fc.record({
  who: fc.nat(2),
  what: fc.constantFrom(
    'begin',
    'answer',
    'bench',
    'settle',
    'withdraw',
    'reword',
    'cut',
    'connect',
    'role',
    'step',
    'step',
    'step',
    'read',
  ),
  pick: fc.nat(20),
})

it('browsers agree with the server, whatever is said by whom while lines break and roles change, and nothing allowed is lost or said twice', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(act, { maxLength: 60 }), async acts => {
      const door = new Door()
      const all: Browser[] = []
      for (const me of ['ines', 'rana', 'carl']) {
        door.roles.set(me, 'editor')
        all.push(new Browser(me, door, all))
      }
      for (const one of all) {
        one.connect()
        await one.talk.begin()
      }
      let refusable = false
      const said: string[] = []
      for (const { who, what, pick } of acts) {
        const one = all[who]!
        const topic = TOPICS[pick % 2]!
        const threads = one.talk.threadsAt(topic)
        const thread = threads[pick % Math.max(1, threads.length)]
        const comment = thread?.comments[pick % Math.max(1, thread.comments.length)]
        if (what === 'begin') said.push(one.talk.begins({ on: 'topic', topic }, bodyOf(`${pick}`)))
        else if (what === 'bench') one.talk.goesOn(BENCH, bodyOf(`line ${pick}`))
        else if (what === 'answer' && thread) one.talk.goesOn(thread.id, bodyOf(`answer ${pick}`))
        else if (what === 'settle' && thread) one.talk.settle(thread.id, pick % 2 === 0)
        else if (what === 'withdraw' && comment) one.talk.withdraw(comment.id)
        else if (what === 'reword' && comment) one.talk.reword(comment.id, bodyOf(`reworded ${pick}`))
        else if (what === 'cut') one.cut()
        else if (what === 'connect') one.connect()
        else if (what === 'read' && one.up) {
          one.late = pick
          void one.talk.readTopic(topic).catch(() => {})
          if (pick % 3 === 0) void one.talk.readBench().catch(() => {})
        } else if (what === 'role') {
          refusable = true
          door.roles.set(one.me, pick % 2 === 0 ? 'viewer' : 'editor')
        } else if (what === 'step') one.step()
        await settle()
      }
      // Everybody comes back, and all that is on its way arrives.
      for (const one of all) {
        one.late = 0
        one.connect()
      }
      for (let i = 0; i < 400 && !all.every(one => one.idle); i++) {
        for (const one of all) one.step()
        await settle()
      }
      for (const one of all) {
        for (const topic of TOPICS) await one.talk.readTopic(topic)
        await one.talk.readBench()
      }
      for (const one of all) {
        // What was refused for good stays with whoever said it, and nowhere else.
        const mine = [...one.shelf.values()].filter(saying => 'body' in saying)
        for (const saying of mine) one.talk.letGo(one.talk.pendingOf('comment' in saying ? saying.comment : '')!)
        for (const topic of TOPICS) {
          const kept = [...door.threads.values()].filter(({ place }) => place.on !== 'tree' && place.topic === topic)
          const byId = (list: readonly Thread[]) => [...list].sort((a, b) => (a.id < b.id ? -1 : 1))
          expect(byId(one.talk.threadsAt(topic))).toEqual(byId(kept))
          const sign = topicSign(kept.map(signOf))
          expect(one.talk.signAt(topic)).toEqual(sign)
        }
        expect(one.talk.bench()?.comments ?? []).toEqual(door.threads.get(BENCH)?.comments ?? [])
        expect(one.talk.waitingCount).toBe(0)
        // Opened again without a line, all that was read is there.
        one.talk.close()
        const away = new Browser(one.me, door, all)
        away.words = one.words
        await away.talk.begin()
        for (const topic of TOPICS) {
          expect(away.talk.threadsAt(topic)).toEqual(one.talk.threadsAt(topic))
          expect(away.talk.signAt(topic)).toEqual(one.talk.signAt(topic))
          expect(away.talk.hasMore(topic)).toBe(false)
        }
        expect(away.talk.bench()?.comments).toEqual(one.talk.bench()?.comments)
        const query = 'settled=false'
        expect(new Set((await away.talk.search(query)).ids)).toEqual(
          new Set(
            [...door.threads.values()].flatMap(({ id, settled, comments }) =>
              id !== BENCH && settled === null && comments.some(({ body }) => body) ? [id] : [],
            ),
          ),
        )
      }
      if (!refusable)
        for (const comment of said)
          expect(door.told.filter(told => told.op === 'say' && told.comment === comment)).toHaveLength(1)
    }),
    { numRuns: Number(process.env.TALKS ?? 1500) },
  )
})
