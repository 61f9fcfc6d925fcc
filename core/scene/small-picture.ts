import { Layout } from '../arrange/layout'
import { colourIn, wearOf } from '../dress/wear'
import { chosenHue, wornHues } from '../tree/branch-hue'
import { lookOf } from '../tree/looks'
import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'

/** Planks beyond this number are left out: they would be smaller than a pixel anyway. */
const MOST_PLANKS = 400
/** About how wide a letter is, in canvas units; a small picture needs no ruler. */
const LETTER = 6.6

/**
 * A tree as a small SVG of bars in its look's colours: enough to know it again in a list. Text is left out, so that the
 * picture of a tree tells nothing that its title doesn't. `width` and `height` in pixels.
 */
export function smallPicture(tree: Tree, width: number, height: number, today: string, dusk = false): string {
  const wear = wearOf(lookOf(tree.fields), dusk)
  const worn = wornHues(tree)
  const hueOf = (id: TopicId): string => {
    const hue = chosenHue(tree, id, worn)
    return hue === null ? wear.centre : colourIn(wear, hue)
  }
  const size = (id: TopicId): { width: number; height: number } => {
    const letters = Math.min(topicOf(tree, id).title.length, 120)
    const lines = Math.max(1, Math.ceil((letters * LETTER) / 280))
    return id === tree.centre
      ? { width: Math.min(240, letters * 9) + 40, height: 48 }
      : { width: Math.min(280, letters * LETTER) + 24, height: 10 + lines * 18 }
  }
  const layout = new Layout(tree, { size, folded: id => topicOf(tree, id).folded }, { today })
  const bounds = layout.bounds()
  const pad = 6
  const scale = Math.min((width - pad * 2) / bounds.width, (height - pad * 2) / bounds.height, 0.5)
  const x0 = (width - bounds.width * scale) / 2 - bounds.x * scale
  const y0 = (height - bounds.height * scale) / 2 - bounds.y * scale
  const n = (value: number): string => String(Math.round(value * 10) / 10)
  const bars: string[] = []
  const lines: string[] = []
  const bar = (id: TopicId, rect: { x: number; y: number; width: number; height: number }): void => {
    if (bars.length < MOST_PLANKS)
      bars.push(
        `<rect x="${n(rect.x * scale + x0)}" y="${n(rect.y * scale + y0)}" width="${n(Math.max(2, rect.width * scale))}" height="${n(Math.max(1.4, rect.height * scale))}" fill="${hueOf(id)}"/>`,
      )
  }
  layout.scan(bounds, 1.5 / scale, {
    plank: placed => bar(placed.id, placed),
    block: (rect, id) => bar(id, rect),
    line(owner, points) {
      if (lines.length >= MOST_PLANKS) return
      const path = points
        .map((value, i) => `${i % 2 === 0 ? (i === 0 ? 'M' : 'L') : ' '}${n(value * scale + (i % 2 === 0 ? x0 : y0))}`)
        .join('')
      lines.push(`<path d="${path}" stroke="${owner === tree.centre ? '#8a9a98' : hueOf(owner)}"/>`)
    },
  })
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}" fill="${wear.page}"/><g fill="none" stroke-width="1" opacity=".7">${lines.join('')}</g>${bars.join('')}</svg>`
}
