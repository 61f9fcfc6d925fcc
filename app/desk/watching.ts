import { isLive, shorten, topicOf, type TopicId } from '#core/tree'
import type { Desk } from './desk'

/** What one watches in this tree: of changes by others there one is told. */
export class Watching {
  readonly topics = shallowRef<ReadonlySet<TopicId>>(new Set())
  /** The one asking of what is watched; empty again when it got no answer, so that the next line asks anew. */
  private asked: Promise<void> | null = null
  /** Presses, one after the other: each knows what the one before came to. */
  private last: Promise<void> = Promise.resolve()

  constructor(private readonly desk: Desk) {}

  /** Asks once what is watched. Rejects with an `ApiError` when there is no answer. */
  private know(): Promise<void> {
    this.asked ??= callApi<TopicId[]>(`/api/trees/${this.desk.session.treeId}/watched`).then(
      topics => {
        this.topics.value = new Set(topics)
      },
      (error: unknown) => {
        this.asked = null
        throw error
      },
    )
    return this.asked
  }

  /** Without an answer nothing looks watched. */
  begin(): Promise<void> {
    return this.know().catch(() => undefined)
  }

  /** Watches the branch that is selected, at the centre the whole tree; or no more. */
  toggle(topic: TopicId): Promise<void> {
    this.last = this.last.then(() => this.turn(topic))
    return this.last
  }

  private async turn(topic: TopicId): Promise<void> {
    const { desk } = this
    if (!isLive(desk.tree, topic)) return
    let watched: boolean
    try {
      // Which way the press turns it is known only with what stands.
      await this.know()
      watched = !this.topics.value.has(topic)
      await callApi(`/api/trees/${desk.session.treeId}/watched/${topic}`, { method: watched ? 'PUT' : 'DELETE' })
    } catch (error) {
      desk.say((error as Error).message)
      return
    }
    this.set(topic, watched)
    if (!isLive(desk.tree, topic)) return
    const what =
      topic === desk.tree.centre
        ? 'this tree'
        : `“${shorten(topicOf(desk.tree, topic).title || 'untitled', 60)}” and below`
    desk.say(watched ? `You are told what others change in ${what}.` : `You watch ${what} no more.`)
  }

  private set(topic: TopicId, watched: boolean): void {
    const now = new Set(this.topics.value)
    if (watched) now.add(topic)
    else now.delete(topic)
    this.topics.value = now
  }
}
