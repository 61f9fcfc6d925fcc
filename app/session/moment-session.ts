import type { NewsEdit } from '#core/contract'
import { applyChanges, type Patch, touchedBy, unapply } from '#core/tree'
import type { SentTree } from './offline'
import { LookingSession } from './looking-session'

/** Edits that are taken along when a moment is opened, so that its neighbours on both sides are a step away. */
const BEFORE = 250
/** As many as one answer has. */
const MOST = 500

/**
 * A tree as it was, to be looked at. Going to a neighbour makes its edit, or takes it
 * back, on the very tree that is shown; going far opens the moment anew.
 */
export class MomentSession extends LookingSession {
  /** The number of the edit after which the tree is shown. */
  at = 0
  /** The first number that can be gone back to by steps. */
  private base = 0
  /** The edits from there on, and what those that are made replaced. */
  private edits: NewsEdit[] = []
  private patches: Patch[][] = []
  private wanted: number | null = null
  private going: Promise<void> | null = null

  /** The moment to open at. */
  first = 0

  override async open(): Promise<void> {
    await this.load(this.first)
    this.state = 'then'
  }

  override close(): void {
    this.wanted = null
  }

  /** Goes to a moment; asked again on the way, it goes to the last one asked for. */
  async goTo(number: number): Promise<void> {
    this.wanted = number
    this.going ??= this.follow().finally(() => {
      this.going = null
    })
    await this.going
  }

  private async follow(): Promise<void> {
    while (this.wanted !== null && this.wanted !== this.at) {
      const number = this.wanted
      const end = this.base + this.edits.length
      if (number >= this.base && number <= end) this.step(number)
      else if (number > end && number - end < MOST) {
        const before = this.edits.length
        await this.fetch(end)
        if (this.edits.length === before) return
      } else await this.load(number)
    }
  }

  /** Along the edits that are here, forwards or back. */
  private step(number: number): void {
    const touched = new Set<string | null>()
    const collect = (patches: readonly Patch[]): void => {
      for (const id of touchedBy(patches)) touched.add(id)
    }
    while (this.at < number) {
      const patches = applyChanges(this.tree, this.edits[this.at - this.base]!.changes)
      this.patches.push(patches)
      collect(patches)
      this.at++
    }
    while (this.at > number) {
      const patches = this.patches.pop()!
      unapply(this.tree, patches)
      collect(patches)
      this.at--
    }
    this.replica.version = this.at
    this.told.touched(touched)
  }

  private async load(number: number): Promise<void> {
    const base = Math.max(0, number - BEFORE)
    const sent = await callApi<SentTree>(`/api/trees/${this.treeId}/moments/${base}`)
    this.role = 'viewer'
    this.people = sent.people
    this.base = this.at = base
    this.edits = []
    this.patches = []
    const first = this.replica === undefined
    this.sync.open(sent.snapshot, base, undefined, [])
    await this.fetch(base)
    while (this.at < number && this.edits[this.at - base]) {
      this.patches.push(applyChanges(this.tree, this.edits[this.at - base]!.changes))
      this.at++
    }
    this.replica.version = this.at
    if (!first) this.told.replaced()
  }

  private async fetch(since: number): Promise<void> {
    const { edits } = await callApi<{ edits: NewsEdit[] }>(`/api/trees/${this.treeId}/edits`, {
      query: { since: String(since) },
    })
    if (since === this.base + this.edits.length) this.edits.push(...edits)
  }
}
