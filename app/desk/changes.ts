import type { NewsEdit } from '#core/contract'
import type { LastChange } from '#core/find/evaluate'
import { isTreeChange, type TopicId } from '#core/tree'

const NOTHING: readonly LastChange[] = []

/**
 * When each person last changed each topic. Asked for when somebody first wants to know, then kept up to date by the
 * news.
 */
export class Changes {
  private known: Map<TopicId, LastChange[]> | null = null
  private asking: Promise<void> | null = null
  /** News that came while the answer was on its way. */
  private early: NewsEdit[] = []

  constructor(private readonly treeId: string) {}

  get ready(): boolean {
    return this.known !== null
  }

  /** Resolves when the answer is there. */
  load(): Promise<void> {
    return (this.asking ??= callApi<{ topic: TopicId; user: string; at: string }[]>(
      `/api/trees/${this.treeId}/changes`,
    ).then(
      list => {
        this.known = new Map()
        for (const { topic, user, at } of list) this.put(topic, { user, at })
        this.hear(this.early)
        this.early = []
      },
      (error: unknown) => {
        this.asking = null
        throw error
      },
    ))
  }

  hear(edits: readonly NewsEdit[]): void {
    if (!this.known) {
      if (this.asking) this.early.push(...edits)
      return
    }
    for (const { user, at, changes } of edits)
      for (const change of changes) if (!isTreeChange(change)) this.put(change.topic, { user, at })
  }

  private put(topic: TopicId, change: LastChange): void {
    const list = this.known!.get(topic) ?? []
    this.known!.set(topic, [...list.filter(one => one.user !== change.user), change])
  }

  of = (id: TopicId): readonly LastChange[] => this.known?.get(id) ?? NOTHING

  /** The last change of a topic by anybody. */
  last(id: TopicId): LastChange | null {
    return this.of(id).reduce<LastChange | null>((last, one) => (last === null || one.at > last.at ? one : last), null)
  }
}
