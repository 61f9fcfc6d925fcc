import { asksForSomething, neighbourMatch, readingOrder, search } from '#core/find/search'
import type { Topic, TopicId, Tree } from '#core/tree'

/** What one person looks for in an open tree, and the topics that match. */
export class Finding {
  readonly open = ref(false)
  readonly text = ref('')
  readonly marker = ref<string | null>(null)
  readonly matches = shallowRef<readonly TopicId[]>([])
  readonly at = ref(-1)
  /** The matches with everything above them; null when nothing is looked for, and all is shown plainly. */
  private lit: ReadonlySet<TopicId> | null = null
  private hits: ReadonlySet<TopicId> = new Set()

  /** The tree in reading order, until it changes. */
  private order: readonly Topic[] | null = null

  constructor(private readonly tree: () => Tree) {}

  private get wanted(): { text: string, marker: string | null } {
    return { text: this.text.value, marker: this.marker.value }
  }

  get active(): boolean {
    return asksForSomething(this.wanted)
  }

  run(): void {
    const { matches, lit } = this.active ? search(this.tree(), this.wanted, this.order ??= readingOrder(this.tree())) : { matches: [], lit: null }
    this.matches.value = matches
    this.hits = new Set(matches)
    this.lit = lit
    if (this.at.value >= matches.length) this.at.value = -1
  }

  /** The tree has changed: what was found is looked for anew. */
  changed(): void {
    this.order = null
    if (this.active) this.run()
  }

  isDim(id: TopicId): boolean {
    return this.lit !== null && !this.lit.has(id)
  }

  isHit(id: TopicId): boolean {
    return this.hits.has(id)
  }

  /** The next or the previous match, counted from where one is. */
  step(by: 1 | -1, from: TopicId): TopicId | null {
    const next = neighbourMatch(this.matches.value, from, this.at.value, by)
    if (next) this.at.value = next.index
    return next?.id ?? null
  }

  close(): void {
    this.open.value = false
    this.text.value = ''
    this.marker.value = null
    this.run()
  }
}
