import { nanoid } from 'nanoid'
import type { RunningVote } from '#core/contract'
import type { Cast, TopicId, VoteKind } from '#core/tree'
import type { Desk } from './desk'

/** What is asked. */
export interface Asking {
  readonly topic: TopicId
  readonly question: string
  readonly kind: VoteKind
  readonly choices: readonly string[]
  readonly points: number
  readonly secret: boolean
}

/** The votes that run in an open tree. */
export class Voting {
  readonly running = shallowRef<readonly RunningVote[]>([])
  /** What one is about to ask, where something has led to it: what a comment says. */
  wanted: { readonly topic: TopicId; readonly question: string } | null = null
  private asked = 0

  constructor(private readonly desk: Desk) {}

  private get path(): string {
    return `/api/trees/${this.desk.session.treeId}/votes`
  }

  async refresh(): Promise<void> {
    const mine = ++this.asked
    try {
      const found = await callApi<RunningVote[]>(this.path)
      // An answer that was overtaken by a later question is nobody's.
      if (mine === this.asked) this.running.value = found
    } catch {
      // The next word of them, or the next line, asks again.
    }
  }

  hasVoted(vote: RunningVote): boolean {
    return vote.voters.includes(this.desk.userId)
  }

  /** What waits for one's answer. */
  get open(): readonly RunningVote[] {
    return this.desk.session.canComment ? this.running.value.filter(vote => !this.hasVoted(vote)) : []
  }

  /** Asks all. `id` stays the same while one tries again. Rejects with why not. */
  async begin(asking: Asking, id = nanoid(16)): Promise<void> {
    await callApi(this.path, { method: 'POST', body: { id, ...asking } })
    await this.refresh()
  }

  async cast(vote: string, cast: Cast): Promise<void> {
    await callApi(`${this.path}/${vote}`, { method: 'POST', body: { cast } })
    await this.refresh()
  }

  async close(vote: string): Promise<void> {
    await callApi(`${this.path}/${vote}/close`, { method: 'POST' })
    await this.refresh()
  }

  async drop(vote: string): Promise<void> {
    await callApi(`${this.path}/${vote}`, { method: 'DELETE' })
    await this.refresh()
  }
}
