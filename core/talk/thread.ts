import { type Body, mentionsIn } from './body'
import { type BecameKind, BENCH, type Place, type Told } from './saying'

export interface Comment {
  readonly id: string
  readonly thread: string
  /** An account. */
  readonly by: string
  /** ISO 8601 instants. */
  readonly at: string
  readonly edited: string | null
  /** Null for one that was withdrawn: that it stood there is still told. */
  readonly body: Body | null
  readonly became: { readonly as: BecameKind; readonly topic: string } | null
  /** Its number in the tree's talk. */
  readonly number: number
}

export interface Settled {
  readonly by: string
  readonly at: string
}

export interface Thread {
  readonly id: string
  readonly place: Place
  readonly settled: Settled | null
  /** From the first to the last. */
  readonly comments: readonly Comment[]
}

/** What is known of every thread without its words: enough for signs and filters. */
export interface ThreadSign {
  readonly id: string
  readonly place: Place
  readonly settled: boolean
  /** Comments that weren't withdrawn. */
  readonly count: number
  /** Who said something in it, and who is mentioned: accounts, and `ALL`. */
  readonly by: readonly string[]
  readonly mentions: readonly string[]
}

const placeOfBench: Place = { on: 'tree' }

/** What a saying is about, as it is before: null where there's nothing of the kind. */
export interface About {
  /** Comments in the thread. */
  readonly thread: { readonly size: number } | null
  /** The comment that is said, reworded, withdrawn or made into something. */
  readonly comment: Pick<Comment, 'by' | 'body'> | null
}

/** A thread after something was told of it; the same when it says nothing new of it. */
export function hear(thread: Thread | undefined, told: Told): Thread | undefined {
  switch (told.op) {
    case 'say': {
      if (thread?.comments.some(({ id }) => id === told.comment)) return thread
      const place = thread?.place ?? (told.thread === BENCH ? placeOfBench : told.place)
      if (!place) return thread
      const comment: Comment = {
        id: told.comment,
        thread: told.thread,
        by: told.by,
        at: told.at,
        edited: null,
        body: told.body,
        became: null,
        number: told.number,
      }
      // Whoever answers in a settled thread opens it again.
      return {
        id: told.thread,
        place,
        settled: null,
        comments: [...(thread?.comments ?? []), comment].sort((a, b) => a.number - b.number),
      }
    }
    case 'settle':
      if (!thread || (thread.settled !== null) === told.settled) return thread
      return { ...thread, settled: told.settled ? { by: told.by, at: told.at } : null }
    default: {
      const index = thread?.comments.findIndex(({ id }) => id === told.comment) ?? -1
      if (!thread || index < 0) return thread
      const comments = [...thread.comments]
      comments[index] = hearOfOne(comments[index]!, told)
      return { ...thread, comments }
    }
  }
}

function hearOfOne(comment: Comment, told: Exclude<Told, { readonly op: 'say' | 'settle' }>): Comment {
  switch (told.op) {
    case 'reword':
      return comment.body === null ? comment : { ...comment, body: told.body, edited: told.at }
    case 'withdraw':
      return { ...comment, body: null, edited: told.at }
    case 'became':
      return { ...comment, became: told.became }
  }
}

/** The sign of a thread. */
export function signOf({ id, place, settled, comments }: Thread): ThreadSign {
  const by = new Set<string>()
  const mentions = new Set<string>()
  let count = 0
  for (const comment of comments) {
    if (comment.body === null) continue
    count++
    by.add(comment.by)
    for (const person of mentionsIn(comment.body).people) mentions.add(person)
  }
  return { id, place, settled: settled !== null, count, by: [...by], mentions: [...mentions] }
}

/** A sign after something was told of its thread; null when only the thread's words can tell. */
export function hearSign(sign: ThreadSign, told: Told): ThreadSign | null {
  switch (told.op) {
    case 'settle':
      return { ...sign, settled: told.settled }
    case 'say':
      // Withdrawn since: that it was said opened the thread, and nothing else is left of it.
      if (told.body === null) return { ...sign, settled: false }
      return {
        ...sign,
        settled: false,
        count: sign.count + 1,
        by: [...new Set([...sign.by, told.by])],
        mentions: [...new Set([...sign.mentions, ...mentionsIn(told.body).people])],
      }
    case 'became':
      return sign
    default:
      return null
  }
}

/**
 * Hears what may have been heard already, over words that were asked for meanwhile: an answer opens its thread once more, as it did.
 */
export function hearAgain(thread: Thread, told: Told): Thread {
  const heard = hear(thread, told) ?? thread
  return told.op === 'say' ? { ...heard, settled: null } : heard
}

/** What hangs on one topic. */
export interface TopicSign {
  /** Threads, and those that aren't settled. */
  readonly threads: number
  readonly open: number
  /** Comments in all of them. */
  readonly comments: number
  readonly by: ReadonlySet<string>
  readonly mentions: ReadonlySet<string>
}

/** The signs of a topic's threads as one; null when nothing was said, or all of it was withdrawn. */
export function topicSign(signs: Iterable<ThreadSign>): TopicSign | null {
  let [threads, open, comments] = [0, 0, 0]
  const by = new Set<string>()
  const mentions = new Set<string>()
  for (const sign of signs) {
    if (sign.count === 0) continue
    threads++
    comments += sign.count
    if (!sign.settled) open++
    for (const one of sign.by) by.add(one)
    for (const one of sign.mentions) mentions.add(one)
  }
  return threads === 0 ? null : { threads, open, comments, by, mentions }
}
