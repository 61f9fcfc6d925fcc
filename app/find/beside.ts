import { asksFor, type Query } from '#core/find/conditions'
import type { Circumstances, LastChange } from '#core/find/evaluate'
import { planTest } from '#core/find/plan-test'
import type { NewsEdit } from '#core/contract'
import type { KeptMoment } from '#core/history/kept'
import type { Baseline } from '#core/schedule/baseline'
import { isTreeChange, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { inGroup, loadOwnGroups } from '~/share/own-groups'
import { planThen } from '~/schedule/useBaseline'

const NOTHING: readonly LastChange[] = []

/** What a filter may ask that the tree itself doesn't say: fetched when a filter asks for it. */
export class Beside {
  private readonly changes: Changes
  /** The newest baseline, and the files that somebody has opened, as they were when this filter was set. */
  private agreed: Baseline['tasks'] = {}
  private opened: ReadonlySet<string> = new Set()
  private learnt: Query | null = null

  constructor(private readonly desk: Desk) {
    this.changes = new Changes(desk.session.treeId)
  }

  readonly circumstances: Pick<Circumstances, 'changesOf' | 'agreed' | 'isOpened' | 'inGroup' | 'planTest'> = {
    changesOf: id => this.changes.of(id),
    agreed: id => this.agreed[id] ?? null,
    isOpened: file => this.opened.has(file),
    inGroup: id => inGroup(this.desk, id),
    planTest,
  }

  /** Whether what was changed just now may be found by it: the tree itself is looked through anew anyway. */
  hear(edits: readonly NewsEdit[]): boolean {
    this.changes.hear(edits)
    return this.learnt !== null && asksFor(this.learnt, 'changes')
  }

  knows(query: Query): boolean {
    return this.learnt === query
  }

  /** Fetches what a filter asks. Rejects without a line. */
  async learn(query: Query): Promise<void> {
    const base = `/api/trees/${this.desk.session.treeId}`
    await Promise.all([
      asksFor(query, 'changes') ? this.changes.load() : undefined,
      asksFor(query, 'opened')
        ? callApi<string[]>(`${base}/opened`).then(files => {
            this.opened = new Set(files)
          })
        : undefined,
      asksFor(query, 'groups') ? loadOwnGroups() : undefined,
      asksFor(query, 'agreed')
        ? callApi<KeptMoment[]>(`${base}/moments`).then(async moments => {
            const newest = moments.findLast(({ why }) => why === 'baseline')
            this.agreed = newest ? (await planThen(this.desk, newest.number)).tasks : {}
          })
        : undefined,
    ])
    this.learnt = query
  }
}

/** When each person last changed each topic. Asked for when somebody first wants to know, then kept up to date by the news. */
class Changes {
  private known: Map<TopicId, LastChange[]> | null = null
  private asking: Promise<void> | null = null
  /** News that came while the answer was on its way. */
  private early: NewsEdit[] = []

  constructor(private readonly treeId: string) {}

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

  of(id: TopicId): readonly LastChange[] {
    return this.known?.get(id) ?? NOTHING
  }
}
