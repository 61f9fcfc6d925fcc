import { wearOf, colourIn } from '#core/dress/wear'
import { kindInWords, writeHtmlBranches } from '#core/formats/html-branches'
import { lookOf, markerOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'

/** Branches for other programs, in the colours that they have by day: paper is white at dusk too. */
export function copiedHtml(desk: Desk, tops: readonly TopicId[]): string {
  const { tree } = desk
  const wear = wearOf({ ...lookOf(tree.fields), plank: '#ffffff' }, false)
  return writeHtmlBranches(tree, tops, {
    colourOf: id => {
      const hue = desk.dressing.chosenHueOf(id)
      return hue === null ? wear.centre : colourIn(wear, hue)
    },
    wordsOf: topic => [
      ...topic.markers.flatMap(id => markerOf(id, tree.fields.markerSets)?.name ?? []),
      ...kindInWords(topic),
    ],
  })
}
