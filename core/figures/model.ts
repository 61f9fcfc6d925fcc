import type { Figure, Measure, NamedValue } from '../tree/figure'
import type { Topic, TopicId } from '../tree/topic'
import { childrenOf, isLive, type Tree } from '../tree/tree'
import { isWithinLimit, numeralOf } from './fixed'
import type { Place } from './formula'
import { seriesSum } from './series'
import { PLAIN, readUnit, type Unit } from './units'
import type { Cell } from './values'

/** What a series is that has no sum: a formula that says so. */
const TOO_LARGE = '=10 ^ 400'

/** What of a tree figures are worked out from: measures, named values, and what somebody gave; under a what-if, what it assumes. */
export class Model {
  measures = new Map<string, Measure & { readonly canonical: Unit }>()
  values = new Map<string, NamedValue>()
  /** The measures that are weighted by another. */
  weightOf = new Map<string, string[]>()

  constructor(
    readonly tree: () => Tree,
    readonly whatIf: string | null,
  ) {}

  /** Reads the tree's own fields anew. */
  begin(): void {
    const { fields } = this.tree()
    this.measures = new Map(fields.measures.map(one => [one.id, { ...one, canonical: readUnit(one.unit) ?? PLAIN }]))
    this.values = new Map(fields.namedValues.map(one => [one.id, one]))
    this.weightOf = new Map()
    for (const one of fields.measures)
      if (one.rollUp === 'weighted' && one.by !== null)
        this.weightOf.set(one.by, [...(this.weightOf.get(one.by) ?? []), one.id])
  }

  figureOf(topic: Topic, measure: string): Figure | undefined {
    let plain: Figure | undefined
    for (const one of topic.figures) {
      if (one.measure !== measure) continue
      if (one.whatIf === this.whatIf) return one
      if (one.whatIf === null) plain = one
    }
    return plain
  }
  /** What somebody gave; null for nothing. A topic that shows another has no figures: they'd count twice. */
  textOf({ topic, measure }: Cell): string | null {
    return topic === null ? this.values.get(measure)?.text || null : this.textAt(topic, measure)
  }
  textAt(topic: TopicId, measure: string): string | null {
    const it = this.tree().topics.get(topic)
    if (!it || it.reference) return null
    const found = this.figureOf(it, measure)
    if (!found?.series) return found?.text || null
    const sum = seriesSum(found.series)
    return sum !== null && isWithinLimit(sum) ? numeralOf(sum) : TOO_LARGE
  }
  unitOf({ topic, measure }: Cell): Unit {
    return topic === null
      ? (readUnit(this.values.get(measure)?.unit ?? '') ?? PLAIN)
      : (this.measures.get(measure)?.canonical ?? PLAIN)
  }
  rollsUp = (topic: TopicId, measure: string): boolean =>
    this.measures.get(measure)!.rollUp !== 'none' &&
    this.children(topic).length > 0 &&
    !this.tree().topics.get(topic)?.reference
  children(topic: TopicId): readonly TopicId[] {
    return childrenOf(this.tree(), topic)
  }
  isChild(child: TopicId, parent: TopicId): boolean {
    const topic = this.tree().topics.get(child)
    return topic !== undefined && !topic.removed && topic.parent === parent && topic.id !== this.tree().centre
  }
  /** Whether a topic is in a branch, and nothing between them in the trash; the branch itself may be. */
  hangsBelow(id: TopicId, top: TopicId): boolean {
    const { topics } = this.tree()
    for (let at = topics.get(id); at && !at.removed && at.parent !== null; at = topics.get(at.parent))
      if (at.parent === top) return true
    return false
  }
  place(from: TopicId | null, place: Place): TopicId | null {
    const tree = this.tree()
    const id =
      place.kind === 'centre'
        ? tree.centre
        : place.kind === 'topic'
          ? place.id
          : from === null
            ? null
            : (tree.topics.get(from)?.parent ?? null)
    return id !== null && isLive(tree, id) ? id : null
  }
}
