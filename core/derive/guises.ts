import type { ShownTopic } from '../contract'
import { markersOf } from '../tree/markers'
import { numberPart } from '../tree/numbering'
import type { Topic, TopicId } from '../tree/topic'
import { isLive, type Tree } from '../tree/tree'
import { allTopics } from '../tree/walk'
import { type Derived, isStale, type Stale } from './derived'
import type { Numbers } from './numbers'

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

/** What each topic is shown as; references kept up to date as what they show changes, here and in other trees. */
export class Guises implements Derived {
  /** Topics that refer to others; null until somebody asks. */
  private found: Set<TopicId> | null = null
  private shown = new Map<string, ShownTopic>()

  constructor(
    private readonly tree: () => Tree,
    private readonly numbers: Numbers,
  ) {}

  /** From the first reference that is shown on, all are known. */
  private get referring(): Set<TopicId> {
    if (this.found) return this.found
    this.found = new Set()
    for (const topic of this.tree().topics.values()) if (topic.reference) this.found.add(topic.id)
    return this.found
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

  changed(touched: Stale): Stale {
    if (!this.found) return touched
    if (touched === 'all') {
      this.found = null
      return 'all'
    }
    const others = new Set(touched)
    for (const id of touched) {
      if (id === null) continue
      if (this.tree().topics.get(id)?.reference) this.found.add(id)
      else this.found.delete(id)
    }
    for (const id of this.found) if (!others.has(id) && this.leadsThrough(id, touched)) others.add(id)
    return others
  }

  /** Whether a reference shows one of these topics, or what lies below one that may have come or gone with its branch. */
  private leadsThrough(id: TopicId, touched: Stale): boolean {
    const tree = this.tree()
    let at = tree.topics.get(id)?.reference ?? null
    for (let step = 0; at !== null && at.tree === null && step < MOST_STEPS; step++) {
      for (let up: TopicId | null = at.topic; up !== null; up = tree.topics.get(up)?.parent ?? null)
        if (isStale(touched, up)) return true
      at = tree.topics.get(at.topic)?.reference ?? null
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

  of(topic: Topic): Guise {
    const number = this.numbers.of(topic.id)
    if (!topic.reference) return { topic, number, reference: null, names: [], original: null }
    this.referring.add(topic.id)
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
function wordsOf({ title, people, markers, ...task }: Topic): Partial<Topic> {
  const { start, due, startTime, dueTime, duration, done, priority } = task
  return { title, start, due, startTime, dueTime, duration, done, priority, people, markers }
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
