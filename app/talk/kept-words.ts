import { fold } from '#core/find/text'
import { mentionsIn, textOf } from '#core/talk/body'
import type { Thread, ThreadSign } from '#core/talk/thread'

/** What was said in a tree, as far as this browser had it when it was last there: to be read without a line. */
export interface KeptWords {
  readonly number: number
  readonly seen: number
  readonly unread: number
  readonly signs: readonly ThreadSign[]
  readonly threads: readonly Thread[]
  /** The newest lines of the talk of the tree; null when they weren't looked at. */
  readonly lines: Thread | null
  readonly names: Readonly<Record<string, string>>
}

/** Threads and lines that are kept at most, the newest. */
const MOST_THREADS = 300
const MOST_LINES = 200

const newest = ({ comments }: Thread): number => comments.at(-1)?.number ?? 0

/** What of this is worth keeping. */
export function worthKeeping(words: KeptWords): KeptWords {
  const { lines } = words
  return {
    ...words,
    threads: [...words.threads].sort((a, b) => newest(b) - newest(a)).slice(0, MOST_THREADS),
    lines: lines && { ...lines, comments: lines.comments.slice(-MOST_LINES) },
  }
}

/** Which of these threads the server would find by a query, the one in which something was said last first. */
export function searched(threads: readonly Thread[], query: URLSearchParams): string[] {
  const [settled, by, mentions] = ['settled', 'by', 'mentions'].map(name => query.get(name))
  const words = fold(query.get('text') ?? '')
  return [...threads]
    .sort((a, b) => newest(b) - newest(a))
    .filter(thread => {
      const said = thread.comments.flatMap(one => (one.body ? [{ by: one.by, body: one.body }] : []))
      return (
        said.length > 0 &&
        (!settled || String(thread.settled !== null) === settled) &&
        (!by || said.some(one => one.by === by)) &&
        (!mentions || said.some(({ body }) => mentionsIn(body).people.includes(mentions))) &&
        (!words || said.some(({ body }) => fold(textOf(body)).includes(words)))
      )
    })
    .map(({ id }) => id)
}

const KEEP_MS = 1500

/** Keeps words soon after they became other; many changes at once are one. */
export class WordKeeper {
  private timer: ReturnType<typeof setTimeout> | undefined

  constructor(private readonly keep: () => void) {}

  touch(): void {
    this.timer ??= setTimeout(() => this.now(), KEEP_MS)
  }

  /** What isn't kept yet is kept at once. */
  now(): void {
    if (this.timer === undefined) return
    clearTimeout(this.timer)
    this.timer = undefined
    this.keep()
  }
}
