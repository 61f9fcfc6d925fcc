import { childrenOf, isLive, topicOf, type TopicId } from '#core/tree'
import type { Desk } from './desk'

export type Direction = 'up' | 'down' | 'left' | 'right'

/** What is selected and which topic has the focus, and going from one to the next. */
export class Selection {
  readonly ids = shallowRef<ReadonlySet<TopicId>>(new Set())
  readonly focus = ref<TopicId>('')
  private anchor: TopicId = ''

  constructor(private readonly desk: Desk) {}

  /** One topic, before anything is shown. */
  begin(id: TopicId): void {
    this.focus.value = this.anchor = id
    this.ids.value = new Set([id])
  }

  selected(): TopicId[] {
    return [...this.ids.value].filter(id => this.desk.tree.topics.has(id))
  }

  select(id: TopicId, how: { add?: boolean; range?: boolean; quiet?: boolean } = {}): void {
    if (how.range) {
      this.ids.value = new Set([
        ...(how.add ? this.ids.value : []),
        ...this.between(this.anchor || this.focus.value, id),
      ])
    } else if (how.add) {
      const next = new Set(this.ids.value)
      if (next.has(id) && next.size > 1) next.delete(id)
      else next.add(id)
      this.ids.value = next
      this.anchor = id
    } else {
      this.ids.value = new Set([id])
      this.anchor = id
    }
    this.focus.value = id
    if (!how.quiet) this.desk.reveal(id)
  }

  selectAll(ids: readonly TopicId[]): void {
    if (ids.length === 0) return
    this.ids.value = new Set(ids)
    this.focus.value = this.anchor = ids[0]!
    this.desk.reveal(ids[0]!)
  }

  selectSiblings(): void {
    const { tree } = this.desk
    const at = this.focus.value
    if (at !== tree.centre) this.ids.value = new Set(childrenOf(tree, topicOf(tree, at).parent))
  }

  /** Siblings from one to the other, or the two alone when they have different parents. */
  private between(from: TopicId, to: TopicId): TopicId[] {
    const { tree } = this.desk
    const parent = tree.topics.get(from)?.parent
    if (parent === undefined || parent !== topicOf(tree, to).parent || from === tree.centre)
      return [...this.ids.value, to]
    const siblings = childrenOf(tree, parent)
    const [a, b] = [siblings.indexOf(from), siblings.indexOf(to)].sort((x, y) => x - y)
    return siblings.slice(a, b! + 1)
  }

  go(direction: Direction, extend = false): void {
    const next = this.desk.neighbour(this.focus.value, direction)
    if (next) this.select(next, extend ? { range: true } : {})
  }

  goEnd(end: 'first' | 'last'): void {
    const { tree } = this.desk
    const { parent } = topicOf(tree, this.focus.value)
    const siblings = this.focus.value === tree.centre ? [] : childrenOf(tree, parent)
    const target = end === 'first' ? siblings[0] : siblings.at(-1)
    if (target) this.select(target)
  }

  /** A selection never holds what isn't there any more. */
  mend(): void {
    const { tree } = this.desk
    if (!this.focus.value) return
    const left = [...this.ids.value].filter(id => isLive(tree, id))
    if (left.length === this.ids.value.size && isLive(tree, this.focus.value)) return
    if (!isLive(tree, this.focus.value)) {
      let at: TopicId | null = tree.topics.get(this.focus.value)?.parent ?? null
      while (at !== null && !isLive(tree, at)) at = tree.topics.get(at)?.parent ?? null
      this.focus.value = at ?? tree.centre
    }
    this.ids.value = new Set(left.length > 0 ? left : [this.focus.value])
  }
}
