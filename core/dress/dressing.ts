import { chosenHue, wornHues } from '../tree/branch-hue'
import { lookOf, LOOKS } from '../tree/looks'
import { drawnStyle, type Style, styleOf } from '../tree/style'
import type { Topic, TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import { depthOf } from '../tree/walk'
import { colourIn, type Wear, wearOf } from './wear'

/**
 * How one open tree is dressed in the theme of the moment: its look's colours, each branch's hue, each topic's style.
 */
export class Dressing {
  wear: Wear = wearOf(LOOKS[0]!, false)
  /** Whether levels have a style, so that a topic's style depends on how deep it stands. */
  levelled = false
  private worn: ReadonlyMap<TopicId, number> = new Map()

  constructor(
    private readonly tree: () => Tree,
    private readonly isDusk: () => boolean,
  ) {}

  /** After the theme, the look or the main branches changed. */
  refresh(): void {
    const { fields } = this.tree()
    const look = lookOf(fields)
    this.wear = wearOf(look, this.isDusk())
    this.levelled = fields.levels.length > 0 || look.levels.length > 0 || look.typeface !== undefined
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
    const look = lookOf(fields)
    const style = drawnStyle(topic, depthOf(this.tree(), topic.id), fields.levels, look.levels)
    return style.typeface === null && look.typeface ? { ...styleOf(style), typeface: look.typeface } : style
  }
}
