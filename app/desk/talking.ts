import type { ServerMessage } from '#core/contract'
import type { Place } from '#core/talk/saying'
import type { TopicSign } from '#core/talk/thread'
import type { TopicId } from '#core/tree'
import type { Talk } from '~/talk/talk'
import type { Desk } from './desk'

/** The bar of a topic, or one of its figures. */
export type Pointed = { readonly on: 'bar' } | { readonly on: 'figure'; readonly measure: string }

/** The talk of an open tree. What it takes is loaded once the tree stands, so that nobody waits for it. */
export class Talking {
  /** Null until it's loaded. */
  readonly talk = shallowRef<Talk | null>(null)
  /** Counts up whenever something was said. */
  readonly tick = ref(0)
  /** A topic whose comments are to be shown beside the tree; counted, so that the same may be asked for again. */
  readonly asked = shallowRef<{ readonly topic: TopicId } | null>(null)
  /** Words of a note that a comment is to hang on. */
  readonly quoting = shallowRef<{ readonly topic: TopicId; readonly words: string } | null>(null)
  /** What of the focused topic a view points at: a place of the kinds `bar` and `figure`. */
  pointsAt: (() => Pointed | null) | null = null
  private coming: Talk | null = null
  private begun = false
  private closed = false

  /** `changed`: told whenever something was said. */
  constructor(
    private readonly desk: Desk,
    private readonly changed: () => void,
  ) {}

  /** Loads it, once. */
  begin(): void {
    if (this.begun) return
    this.begun = true
    requestIdleCallback(
      () =>
        void this.load().catch(() => {
          // The line went before it had come: with the next one it's tried again.
          this.begun = false
        }),
      { timeout: 2000 },
    )
  }

  private async load(): Promise<void> {
    const { openTalk } = await import('~/talk/open-talk')
    if (this.closed) return
    const talk = openTalk(this.desk, topics => this.heard(topics))
    this.coming = talk
    await talk.begin()
    // Only now, so that nobody reads words that the first look would take for old.
    this.talk.value = talk
    this.heard(new Set([null]))
    requestIdleCallback(() => void talk.readAhead(), { timeout: 10_000 })
  }

  private heard(topics: ReadonlySet<TopicId | null>): void {
    this.tick.value++
    this.changed()
    const { desk } = this
    desk.planks.forget([...topics].filter(id => id !== null))
    const shown = [...topics].filter(id => id !== null && desk.tree.topics.has(id))
    if (shown.length > 0) desk.tell(new Set(shown))
  }

  hear(message: ServerMessage): void {
    ;(this.talk.value ?? this.coming)?.hear(message)
  }

  /** What waits may go when something was acknowledged. */
  flush(): void {
    this.talk.value?.flush()
  }

  signAt(topic: TopicId, which?: (place: Place) => boolean): TopicSign | null {
    return (this.talk.value ?? this.coming)?.signAt(topic, which) ?? null
  }

  show(topic: TopicId): void {
    this.asked.value = { topic }
  }

  close(): void {
    this.closed = true
    this.talk.value?.close()
  }
}
