import { colourIn, type Wear, wearOf } from '#core/dress/wear'
import {
  childrenOf,
  depthOf,
  drawnStyle,
  HUES,
  lookOf,
  LOOKS,
  type Style,
  type Topic,
  topicOf,
  type TopicId,
  type Tree,
} from '#core/tree'

/**
 * How one open tree is dressed in the theme of the moment: its look's colours, each branch's hue, each topic's style.
 */
export class Dressing {
  wear: Wear = wearOf(LOOKS[0]!, false)
  /** Whether levels have a style, so that a topic's style depends on how deep it stands. */
  levelled = false
  private mains = new Map<TopicId, number>()

  constructor(private readonly tree: () => Tree) {}

  /** After the theme, the look or the order of main branches changed. */
  refresh(): void {
    const { fields, centre } = this.tree()
    const look = lookOf(fields)
    this.wear = wearOf(look, document.documentElement.dataset.theme === 'dusk')
    this.levelled = fields.levels.length > 0 || look.levels.length > 0
    this.mains = new Map(childrenOf(this.tree(), centre).map((id, i) => [id, i]))
  }

  /** The branch colour a topic has: its own, or the nearest above it, or the one its main branch was given. */
  hueOf(id: TopicId): string {
    const tree = this.tree()
    let at = tree.topics.get(id)
    while (at) {
      if (at.hue !== null) return colourIn(this.wear, at.hue)
      if (at.id === tree.centre) return this.wear.centre
      if (at.parent === null || at.parent === tree.centre)
        return this.wear.hues[at.branchHue ?? (this.mains.get(at.id) ?? 0) % HUES]!
      at = tree.topics.get(at.parent)
    }
    return this.wear.centre
  }

  /** The hue as it's written down, so that a branch can keep it elsewhere. */
  chosenHueOf(id: TopicId): string | null {
    const tree = this.tree()
    for (let at = topicOf(tree, id); ; at = topicOf(tree, at.parent)) {
      if (at.hue !== null) return at.hue
      if (at.id === tree.centre) return null
      if (at.parent === null || at.parent === tree.centre)
        return String(at.branchHue ?? (this.mains.get(at.id) ?? 0) % HUES)
    }
  }

  styleOf(topic: Topic): Style {
    if (!this.levelled) return topic
    const { fields } = this.tree()
    return drawnStyle(topic, depthOf(this.tree(), topic.id), fields.levels, lookOf(fields).levels)
  }
}
