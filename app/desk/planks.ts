import type { Tick } from '#core/arrange/place'
import type { Known } from '#core/capture/quick-details'
import { type Plank, plankOf } from '#core/arrange/plank'
import type { BetweenMarks } from '#core/figures/on-axis'
import type { Derived, Stale } from '#core/derive/derived'
import type { Circumstances } from '#core/find/evaluate'
import type { Guise } from '#core/derive/guises'
import type { TopicSign } from '#core/talk/thread'
import { branch, depthOf, languageOf, type Style, type Topic, topicOf, type TopicId, type Touched } from '#core/tree'
import { loadSyllables } from '#core/arrange/syllables'
import type { Desk } from './desk'
import { contentOf, type SmallPrint, smallPrintOf } from '#core/scene/face'
import { browserRuler } from './ruler'

export interface Drawn {
  readonly topic: Topic
  /** What is shown: the topic's own words, or those of the one it refers to. */
  readonly guise: Guise
  readonly level: number
  readonly style: Style
  readonly plank: Plank
  readonly smallPrint: readonly SmallPrint[]
  /** What was said on it. */
  readonly talk: TopicSign | null
}

/** Topics as they're drawn, each measured once until it changes. */
export class Planks {
  private readonly drawn = new Map<TopicId, Drawn>()
  private readonly wanted = new Set<string>()
  /** The one that is being typed in, with what is typed. */
  private draft: { readonly id: TopicId; readonly drawn: Drawn } | null = null

  /** What figures stand on planks, and what tells of those that are others; null while none are to stand there. */
  figures: {
    of(id: TopicId): readonly SmallPrint[]
    readonly from: Derived
    /** What comes again under the marks of a time axis. */
    onAxis(of: TopicId, ticks: readonly Tick[]): BetweenMarks | null
    /** What words after `//` mean in the tree's measures, for the title that is being typed. */
    readonly read: Known['figureIn']
    readonly meets: NonNullable<Circumstances['figureMeets']>
  } | null = null

  /** What the plan says of tasks; null while planks don't say it. */
  plan: (Derived & { of(id: TopicId): readonly SmallPrint[] }) | null = null

  constructor(private readonly desk: Desk) {}

  of(id: TopicId): Drawn {
    if (this.draft?.id === id && this.desk.editing.value?.id === id) return this.draft.drawn
    const topic = topicOf(this.desk.tree, id)
    const known = this.drawn.get(id)
    if (known?.topic === topic) return known
    const made = this.measure(topic, topic.title)
    this.drawn.set(id, made)
    return made
  }

  /** `widest`: how wide its text may run while that is pulled. */
  setDraft(id: TopicId, words: string, widest?: number): void {
    this.draft = { id, drawn: this.measure(topicOf(this.desk.tree, id), words, widest) }
  }

  endDraft(): void {
    this.draft = null
  }

  clear(): void {
    this.drawn.clear()
  }

  forget(ids: Iterable<TopicId>): void {
    for (const id of ids) this.drawn.delete(id)
  }

  /**
   * Forgets what changed, and what is shown otherwise because of it (`shown`); returns the latter. A main branch's rank
   * shows in its plank, so topics that moved are measured anew; those below keep theirs, unless levels have a style.
   */
  changed(touched: Touched, shown: Stale): TopicId[] {
    const { tree, dressing } = this.desk
    const deeper: TopicId[] = []
    for (const id of touched) {
      if (id === null) continue
      const before = this.drawn.get(id)
      this.drawn.delete(id)
      const topic = tree.topics.get(id)
      if (!dressing.levelled || !before || !topic || before.level === depthOf(tree, topic.id)) continue
      for (const below of branch(tree, id)) {
        this.drawn.delete(below.id)
        deeper.push(below.id)
      }
    }
    if (shown === 'all') this.drawn.clear()
    else
      for (const id of shown)
        if (id !== null && !touched.has(id)) {
          this.drawn.delete(id)
          deeper.push(id)
        }
    return deeper
  }

  /** Long words are parted once the patterns of their language are here; without a line they come another time. */
  private wantSyllables(language: string): void {
    if (this.wanted.has(language)) return
    this.wanted.add(language)
    loadSyllables([language]).then(
      isOther => isOther && this.desk.measureAgain(),
      () => this.wanted.delete(language),
    )
  }

  private measure(topic: Topic, title: string, widest?: number): Drawn {
    const { tree, dressing, guises, nameOf, today, talking } = this.desk
    const guise = guises.of(topic)
    const smallPrint = smallPrintOf(guise, nameOf, today, ownLocale())
    if (this.plan) smallPrint.push(...this.plan.of(topic.id))
    if (this.figures) smallPrint.push(...this.figures.of(topic.id))
    const styled = dressing.styleOf(topic)
    const style = widest === undefined ? styled : { ...styled, width: widest }
    const level = dressing.levelled ? depthOf(tree, topic.id) : 0
    const words = guise.reference === null ? title : guise.topic.title
    const talk = talking.signAt(topic.id)
    const named = guise.number ? `${guise.number} ${words}` : words
    const language = languageOf(tree, guise.topic)
    if (language !== null) this.wantSyllables(language)
    const content = contentOf(tree, guise.topic, style, named, smallPrint, talk)
    return { topic, guise, level, style, smallPrint, talk, plank: plankOf(content, browserRuler) }
  }
}
