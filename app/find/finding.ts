import { asksFor, countConditions, type Query } from '#core/find/conditions'
import { type Circumstances, compile } from '#core/find/evaluate'
import { foldedText } from '#core/find/text'
import { asksForSomething, neighbourMatch, readingOrder, search } from '#core/find/search'
import type { Topic, TopicId, Tree } from '#core/tree'

/** What one person looks for in an open tree, and the topics that match. */
export class Finding {
  readonly open = ref(false)
  readonly text = ref('')
  readonly marker = ref<string | null>(null)
  readonly query = shallowRef<Query | null>(null)
  /** What becomes of the topics that neither match nor lead to a match. */
  readonly rest = ref<'dim' | 'hide'>('dim')
  readonly matches = shallowRef<readonly TopicId[]>([])
  readonly at = ref(-1)
  /** The matches with everything above them; null when nothing is looked for, and all is shown plainly. */
  private lit: ReadonlySet<TopicId> | null = null
  private hits: ReadonlySet<TopicId> = new Set()
  /** What leads on to a match below it. */
  private leading: ReadonlySet<TopicId> = new Set()

  /** The tree in reading order, until it changes. */
  private order: readonly Topic[] | null = null

  constructor(
    private readonly tree: () => Tree,
    private readonly circumstances: () => Circumstances,
  ) {
    watch(this.open, now => {
      if (now) this.readAhead()
    })
  }

  /** Reads titles and notes in the pauses, so that the first key of a search needn't. */
  private readAhead(): void {
    const left = (this.order ??= readingOrder(this.tree())).values()
    const read = (deadline: IdleDeadline): void => {
      while (deadline.timeRemaining() > 2) {
        const { value, done } = left.next()
        if (done) return
        foldedText(value)
      }
      requestIdleCallback(read)
    }
    requestIdleCallback(read)
  }

  private get wanted(): { text: string; marker: string | null } {
    return { text: this.text.value, marker: this.marker.value }
  }

  get active(): boolean {
    return asksForSomething(this.wanted) || (this.query.value !== null && countConditions(this.query.value) > 0)
  }

  /** Whether the filter asks for what was said. */
  get asksForTalk(): boolean {
    return this.query.value !== null && asksFor(this.query.value, 'talk')
  }

  /** The filter, where it asks for what has to be fetched. */
  get asksBeside(): Query | null {
    const query = this.query.value
    return query && (['changes', 'opened', 'plan', 'groups'] as const).some(what => asksFor(query, what)) ? query : null
  }

  run(): void {
    const { query } = this
    const test =
      query.value && countConditions(query.value) > 0
        ? compile(query.value, this.tree(), this.circumstances())
        : undefined
    const { matches, lit } = this.active
      ? search(this.tree(), this.wanted, (this.order ??= readingOrder(this.tree())), test)
      : { matches: [], lit: null }
    this.matches.value = matches
    this.hits = new Set(matches)
    this.lit = lit
    this.leading = new Set(
      lit && this.rest.value === 'hide' ? Array.from(lit, id => this.tree().topics.get(id)?.parent ?? '') : [],
    )
    if (this.at.value >= matches.length) this.at.value = -1
  }

  /** The tree has changed: what was found is looked for anew. */
  changed(): void {
    this.order = null
    if (this.active) this.run()
  }

  isDim(id: TopicId): boolean {
    return this.lit !== null && this.rest.value === 'dim' && !this.lit.has(id)
  }

  /** Whether a topic is left out of every view just now. */
  isHidden(id: TopicId): boolean {
    return this.lit !== null && this.rest.value === 'hide' && !this.lit.has(id)
  }

  /** Whether a match lies below a topic while the rest is left out: then a fold doesn't hide it. */
  leadsOn(id: TopicId): boolean {
    return this.leading.has(id)
  }

  /** The matches and the path to each; null when everything is shown. */
  get kept(): ReadonlySet<TopicId> | null {
    return this.lit
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
    this.query.value = null
    this.run()
  }
}
