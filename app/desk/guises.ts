import type { ShownTopic } from '#core/contract'
import {
  allTopics,
  isLive,
  markersOf,
  numberPart,
  schemeNumbers,
  type Topic,
  type TopicId,
  type Tree,
} from '#core/tree'

/** What stands between a reference and what it shows. */
export type ReferenceState = 'shown' | 'closed' | 'trashed' | 'gone' | 'loop' | 'asking'

/** A topic as it's shown: its own words, or those of the topic it refers to; with its number. */
export interface Guise {
  readonly topic: Topic
  readonly number: string
  readonly reference: ReferenceState | null
  /** Names of people of another tree, who have no place among the people of this one. */
  readonly names: readonly string[]
  /** Where the original is: a topic here, or one in another tree. */
  readonly original: { readonly tree: string | null; readonly topic: TopicId } | null
}

const STATE_WORDS: Record<Exclude<ReferenceState, 'shown'>, string> = {
  closed: 'You have no role in the tree this is shown from.',
  trashed: 'The original is in the trash.',
  gone: 'The original isn’t there any more.',
  loop: 'These references lead round in a circle.',
  asking: 'Looking up the original …',
}

export function stateInWords(state: ReferenceState | null): string {
  return state === null || state === 'shown' ? '' : STATE_WORDS[state]
}

/** References one after the other that are followed at most. */
const MOST_STEPS = 8

/** The numbers of an open tree and what its references show, kept up to date as both sides change. */
export class Guises {
  private numbers = new Map<TopicId, string>()
  private readonly referring = new Set<TopicId>()
  private readonly numbering = new Set<TopicId>()
  private shown = new Map<string, ShownTopic>()

  constructor(private readonly tree: () => Tree) {}

  /** Looks at the whole tree anew. */
  refresh(): void {
    this.referring.clear()
    this.numbering.clear()
    for (const topic of this.tree().topics.values()) this.note(topic)
    this.numbers = this.numbering.size > 0 ? schemeNumbers(this.tree()) : new Map()
  }

  private note(topic: Topic): void {
    if (topic.reference) this.referring.add(topic.id)
    else this.referring.delete(topic.id)
    if (topic.numbering && !topic.removed) this.numbering.add(topic.id)
    else this.numbering.delete(topic.id)
  }

  /** Other trees that are referred to. */
  get trees(): string[] {
    return [...new Set([...this.referring].flatMap(id => this.tree().topics.get(id)?.reference?.tree ?? []))]
  }

  /** What the server says that the references to other trees show. */
  take(shown: readonly ShownTopic[]): TopicId[] {
    this.shown = new Map(shown.map(one => [`${one.tree}/${one.topic}`, one]))
    return [...this.referring]
  }

  /**
   * After topics changed: which others look different for it, since their number is another or they show one of these.
   * `moved`: whether any of them may stand somewhere else than before.
   */
  changed(touched: Iterable<TopicId | null>, moved: boolean): TopicId[] {
    const tree = this.tree()
    const ids = new Set<TopicId>()
    const counted = this.numbering.size
    for (const id of touched) {
      if (id === null) continue
      ids.add(id)
      const topic = tree.topics.get(id)
      if (topic) this.note(topic)
    }
    const others: TopicId[] = []
    for (const id of this.referring) if (!ids.has(id) && this.leadsThrough(id, ids, moved)) others.push(id)
    if (
      counted + this.numbering.size > 0 &&
      (moved || counted !== this.numbering.size || [...ids].some(id => this.numbering.has(id)))
    ) {
      const now = this.numbering.size > 0 ? schemeNumbers(tree) : new Map<TopicId, string>()
      for (const id of new Set([...now.keys(), ...this.numbers.keys()]))
        if (now.get(id) !== this.numbers.get(id) && tree.topics.has(id)) others.push(id)
      this.numbers = now
    }
    return others
  }

  /**
   * Whether a reference shows one of these topics; or, when some went or came with their branches, one that lies below
   * them.
   */
  private leadsThrough(id: TopicId, ids: ReadonlySet<TopicId>, moved: boolean): boolean {
    let at = this.tree().topics.get(id)?.reference ?? null
    for (let step = 0; at !== null && at.tree === null && step < MOST_STEPS; step++) {
      for (
        let up: TopicId | null = at.topic;
        up !== null;
        up = moved ? (this.tree().topics.get(up)?.parent ?? null) : null
      )
        if (ids.has(up)) return true
      at = this.tree().topics.get(at.topic)?.reference ?? null
    }
    return false
  }

  /** Whether another topic of this tree shows this one. */
  isShownElsewhere(id: TopicId): boolean {
    for (const other of this.referring) {
      const topic = this.tree().topics.get(other)
      if (topic?.reference?.tree === null && topic.reference.topic === id && !topic.removed) return true
    }
    return false
  }

  /** Whether anything here is numbered by a scheme. */
  get isNumbered(): boolean {
    return this.numbering.size > 0
  }

  numberOf(id: TopicId): string {
    return this.numbers.get(id) ?? ''
  }

  of(topic: Topic): Guise {
    const number = this.numberOf(topic.id)
    if (!topic.reference) return { topic, number, reference: null, names: [], original: null }
    const tree = this.tree()
    let at = topic.reference
    for (let step = 0; step < MOST_STEPS; step++) {
      if (at.tree !== null) return this.fromElsewhere(topic, number, at.tree, at.topic)
      const original = tree.topics.get(at.topic)
      const where = { tree: null, topic: at.topic }
      if (!original) return { topic, number, reference: 'gone', names: [], original: null }
      if (!isLive(tree, original.id)) return { topic, number, reference: 'trashed', names: [], original: null }
      if (!original.reference)
        return { topic: { ...topic, ...wordsOf(original) }, number, reference: 'shown', names: [], original: where }
      at = original.reference
    }
    return { topic, number, reference: 'loop', names: [], original: null }
  }

  private fromElsewhere(topic: Topic, number: string, tree: string, id: TopicId): Guise {
    const original = { tree, topic: id }
    const shown = this.shown.get(`${tree}/${id}`)
    if (!shown) return { topic, number, reference: 'asking', names: [], original }
    if (shown.state !== 'shown') return { topic, number, reference: shown.state, names: [], original: null }
    const known = new Set(markersOf(this.tree().fields).map(marker => marker.id))
    const { title, due, done, markers, people } = shown
    return {
      topic: {
        ...topic,
        title,
        due,
        done,
        people: [],
        markers: markers.map(marker => marker.id).filter(marker => known.has(marker)),
      },
      number,
      reference: 'shown',
      names: people,
      original,
    }
  }

  /** Where the original stands, in words. */
  treeTitle(tree: string): string {
    for (const one of this.shown.values()) if (one.tree === tree && one.treeTitle) return one.treeTitle
    return 'another tree'
  }
}

/** What of an original a reference shows; how it's dressed and what hangs on it here is its own. */
function wordsOf({ title, start, due, duration, done, priority, people, markers }: Topic): Partial<Topic> {
  return { title, start, due, duration, done, priority, people, markers }
}

/** Every topic of the tree that refers to this one. */
export function referencesTo(tree: Tree, id: TopicId): TopicId[] {
  return [...allTopics(tree)]
    .filter(topic => topic.reference?.tree === null && topic.reference.topic === id)
    .map(topic => topic.id)
}

/** A sample of a scheme: how the first numbers of a few levels look. */
export function sampleOf(scheme: Parameters<typeof numberPart>[0]): string {
  return [1, 2, 1].map((place, level) => numberPart(scheme, level, place)).join('.')
}
