import type { Arrangement } from '../tree/fields'
import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { type Direction, GAPS } from './place'

export interface Settings {
  readonly arrangement: Arrangement
  /** Multipliers of the usual space between parent and child, and between siblings. */
  readonly along: number
  readonly across: number
  /** The one branch that is shown, or null for the whole tree. */
  readonly only: TopicId | null
  /** The present day, for a time axis. */
  readonly today?: string
}

/** By which arrangement, and with how much space, each part of a tree is laid out. */
export abstract class Arranged {
  protected settings: Settings
  /** The branches along a time axis that run back from their date. */
  protected readonly turned = new Set<TopicId>()

  constructor(
    protected tree: Tree,
    protected override: Partial<Settings>,
  ) {
    this.settings = this.settingsNow()
  }

  protected settingsNow(): Settings {
    const { arrangement, along, across } = this.tree.fields
    return { arrangement, along: along / 100, across: across / 100, only: null, ...this.override }
  }

  /** The topic that the drawing starts from: the centre, or the one branch that is shown. */
  get root(): TopicId {
    const { only } = this.settings
    return only !== null && this.tree.topics.has(only) ? only : this.tree.centre
  }

  /** The arrangement of the branch's own frame; null when it's drawn as its parent's frame says. */
  arrangementOf(id: TopicId): Arrangement | null {
    const topic = topicOf(this.tree, id)
    if (id === this.tree.centre) return this.settings.arrangement
    if (topic.arrangement !== null) return topic.arrangement
    if (id !== this.root) return topic.parent === null ? 'right' : null
    for (let at = topic.parent; at !== null; at = topicOf(this.tree, at).parent) {
      const above = at === this.tree.centre ? this.settings.arrangement : topicOf(this.tree, at).arrangement
      if (above !== null) return above === 'hand' || above === 'time' ? 'right' : above
    }
    return 'right'
  }

  /** The arrangement that a topic's children are placed by. */
  arrangementAround(id: TopicId): Arrangement {
    for (let at: TopicId | null = id; at !== null; at = topicOf(this.tree, at).parent) {
      const own = this.arrangementOf(at)
      if (own !== null) return own
      const { parent } = topicOf(this.tree, at)
      if (parent !== null && this.arrangementOf(parent) === 'time') return this.runsBack(at) ? 'left' : 'right'
    }
    return 'right'
  }

  /**
   * Whether a topic's children on one side are read from the bottom up: on the left of two sides, where reading goes on
   * round the centre.
   */
  readsUp(id: TopicId, direction: Direction): boolean {
    const { leftDown } = this.tree.fields
    return direction === 'left' && !leftDown && ['both', 'around'].includes(this.arrangementOf(id) ?? '')
  }

  /** How far behind a topic's plank the spine of its bracket stands, in canvas units; that of a centre stands further. */
  spineBehind(id: TopicId, direction: Direction): number {
    let owner = id
    while (owner !== this.root && !this.isFramed(owner)) {
      const { parent } = topicOf(this.tree, owner)
      if (parent === null) break
      owner = parent
    }
    return ((direction === 'down' ? GAPS.downAlong : GAPS.along) / 2) * this.spaceOf(owner, 'along')
  }

  protected isFramed(id: TopicId): boolean {
    const arrangement = this.tree.topics.get(id)?.arrangement
    return arrangement !== null && arrangement !== undefined
  }

  /** The share of the usual space in the frame of a topic: its own, else the tree's. */
  protected spaceOf(id: TopicId, way: 'along' | 'across'): number {
    if (id === this.tree.centre) return this.settings[way]
    const topic = topicOf(this.tree, id)
    const own = way === 'along' ? topic.spaceAlong : topic.spaceAcross
    return own === null ? this.settings[way] : own / 100
  }

  /** Whether a branch runs back from its date on a time axis. */
  protected runsBack(id: TopicId): boolean {
    return this.turned.has(id) && !this.isFramed(id)
  }
}
