import { type Place, type Told, topicOfPlace } from '#core/talk/saying'
import { hear, hearSign, signOf, type Thread, type ThreadSign } from '#core/talk/thread'
import type { TopicId } from '#core/tree'

/** What of a tree's comments is known: a sign of every thread, and the words of those that were read. */
export class KnownThreads {
  private signs = new Map<string, ThreadSign>()
  /** Threads by what they hang on. */
  private readonly at = new Map<TopicId, Set<string>>()
  private readonly threads = new Map<string, Thread>()
  /** The thread of each comment whose words are known. */
  private readonly holders = new Map<string, string>()

  get topics(): TopicId[] {
    return [...this.at.keys()]
  }

  /** Begins anew with signs alone: words that are known may be old. */
  begin(signs: readonly ThreadSign[]): void {
    this.at.clear()
    this.threads.clear()
    this.holders.clear()
    this.signs = new Map(signs.map(sign => [sign.id, sign]))
    for (const { id, place } of signs) this.hang(id, place)
  }

  private hang(id: string, place: Place): void {
    const topic = topicOfPlace(place)
    if (topic === null) return
    const there = this.at.get(topic)
    if (there) there.add(id)
    else this.at.set(topic, new Set([id]))
  }

  put(thread: Thread): void {
    this.threads.set(thread.id, thread)
    this.signs.set(thread.id, signOf(thread))
    this.hang(thread.id, thread.place)
    for (const { id } of thread.comments) this.holders.set(id, thread.id)
  }

  /** Hears something of a thread. False when its words have to be asked for, since only they can tell what it is now. */
  hear(told: Told): boolean {
    const known = this.threads.get(told.thread)
    if (known || (told.op === 'say' && told.comment === told.thread)) {
      const thread = hear(known, told)
      if (thread) this.put(thread)
      return true
    }
    const sign = this.signs.get(told.thread)
    const now = sign && hearSign(sign, told)
    if (now) this.signs.set(now.id, now)
    return now !== null
  }

  get all(): { signs: ThreadSign[]; threads: Thread[] } {
    return { signs: [...this.signs.values()], threads: [...this.threads.values()] }
  }

  idsAt(topic: TopicId): ReadonlySet<string> | undefined {
    return this.at.get(topic)
  }

  thread(id: string): Thread | undefined {
    return this.threads.get(id)
  }

  sign(id: string): ThreadSign | undefined {
    return this.signs.get(id)
  }

  threadOf(comment: string): string | undefined {
    return this.holders.get(comment)
  }
}

/** Threads that aren't settled first, each the oldest first. */
export const openFirst = (a: Thread, b: Thread): number =>
  Number(a.settled !== null) - Number(b.settled !== null) || (a.comments[0]?.number ?? 0) - (b.comments[0]?.number ?? 0)
