import { fold, foldedTitle } from '#core/find/text'
import { allTopics, type Topic, type TopicId, type Tree } from '#core/tree'

/** What is looked for in a tree, and the topics that match, in reading order. */
export class Finding {
  readonly open = ref(false)
  readonly text = ref('')
  readonly marker = ref<string | null>(null)
  readonly matches = shallowRef<readonly TopicId[]>([])
  readonly at = ref(-1)
  /** The matches with everything above them; null when nothing is looked for, and all is shown plainly. */
  private lit: ReadonlySet<TopicId> | null = null
  private hits: ReadonlySet<TopicId> = new Set()

  constructor(private readonly tree: () => Tree) {}

  get active(): boolean {
    return this.text.value.trim() !== '' || this.marker.value !== null
  }

  run(): void {
    if (!this.active) {
      this.matches.value = []
      this.lit = null
      this.hits = new Set()
      this.at.value = -1
      return
    }
    const tree = this.tree()
    const words = fold(this.text.value).split(/\s+/).filter(Boolean)
    const wanted = this.marker.value
    const matching = (topic: Topic): boolean => (wanted === null || topic.markers.includes(wanted)) && (words.length === 0 || hasAll(foldedTitle(topic), words))
    const found: TopicId[] = []
    for (const topic of allTopics(tree)) if (matching(topic)) found.push(topic.id)
    const lit = new Set<TopicId>()
    for (const id of found) for (let at: TopicId | null = id; at !== null && !lit.has(at); at = tree.topics.get(at)?.parent ?? null) lit.add(at)
    this.matches.value = found
    this.hits = new Set(found)
    this.lit = lit
    if (this.at.value >= found.length) this.at.value = -1
  }

  isDim(id: TopicId): boolean {
    return this.lit !== null && !this.lit.has(id)
  }

  isHit(id: TopicId): boolean {
    return this.hits.has(id)
  }

  /** The next or the previous match, counted from where one is. */
  step(by: 1 | -1, from: TopicId): TopicId | null {
    const { value: found } = this.matches
    if (found.length === 0) return null
    const here = found.indexOf(from)
    const start = here >= 0 ? here : this.at.value >= 0 ? this.at.value : by > 0 ? -1 : 0
    this.at.value = (start + by + found.length) % found.length
    return found[this.at.value]!
  }

  close(): void {
    this.open.value = false
    this.text.value = ''
    this.marker.value = null
    this.run()
  }
}

function hasAll(text: string, words: readonly string[]): boolean {
  return words.every(word => text.includes(word))
}
