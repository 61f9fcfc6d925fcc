import { colourIn, type Wear, wearOf } from '#core/dress/wear'
import {
  chosenHue,
  depthOf,
  drawnStyle,
  lookOf,
  LOOKS,
  type Style,
  type Topic,
  type TopicId,
  type Tree,
  wornHues,
} from '#core/tree'

/**
 * How one open tree is dressed in the theme of the moment: its look's colours, each branch's hue, each topic's style.
 */
export class Dressing {
  wear: Wear = wearOf(LOOKS[0]!, false)
  /** Whether levels have a style, so that a topic's style depends on how deep it stands. */
  levelled = false
  private worn: ReadonlyMap<TopicId, number> = new Map()

  constructor(private readonly tree: () => Tree) {}

  /** After the theme, the look or the main branches changed. */
  refresh(): void {
    const { fields } = this.tree()
    const look = lookOf(fields)
    this.wear = wearOf(look, document.documentElement.dataset.theme === 'dusk')
    this.levelled = fields.levels.length > 0 || look.levels.length > 0
    this.worn = wornHues(this.tree())
  }

  /** The branch colour a topic has: its own, or the nearest above it, or the one its main branch wears. */
  hueOf(id: TopicId): string {
    const hue = this.tree().topics.has(id) ? this.chosenHueOf(id) : null
    return hue === null ? this.wear.centre : colourIn(this.wear, hue)
  }

  /** The hue as it's written down, so that a branch can keep it elsewhere. */
  chosenHueOf(id: TopicId): string | null {
    return chosenHue(this.tree(), id, this.worn)
  }

  styleOf(topic: Topic): Style {
    if (!this.levelled) return topic
    const { fields } = this.tree()
    return drawnStyle(topic, depthOf(this.tree(), topic.id), fields.levels, lookOf(fields).levels)
  }
}
