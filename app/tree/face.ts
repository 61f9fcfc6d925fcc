import type { PlankContent } from '#core/arrange/plank'
import { isTask, type Style, type Topic, type Tree } from '#core/tree'

/** One piece of the row under a title. */
export interface SmallPrint {
  readonly text: string
  readonly tone: 'people' | 'late' | 'ok' | 'plain'
}

/** The small print of a task: who, when, how far. */
export function smallPrintOf(topic: Topic, nameOf: (id: string) => string, now: string): SmallPrint[] {
  if (!isTask(topic)) return []
  const print: SmallPrint[] = []
  if (topic.people.length > 0) print.push({ text: topic.people.map(id => initialsOf(nameOf(id))).join(' '), tone: 'people' })
  if (topic.done === 100) print.push({ text: 'done', tone: 'ok' })
  else if (topic.due !== null) {
    const { text, late } = dueInWords(topic.due, now)
    print.push({ text, tone: late ? 'late' : 'plain' })
  }
  if (topic.done !== null && topic.done > 0 && topic.done < 100) print.push({ text: `${topic.done} %`, tone: 'plain' })
  if (topic.priority !== null) print.push({ text: `P${topic.priority}`, tone: 'plain' })
  return print
}

/** How tall the picture of a topic is, with its width. */
export function pictureOf(topic: Topic): PlankContent['picture'] {
  const { picture } = topic
  return picture && { width: picture.width, height: Math.round(picture.width * picture.ratio), place: picture.place }
}

export function rankOf(tree: Tree, topic: Topic): PlankContent['rank'] {
  if (topic.id === tree.centre || (topic.parent === null && topic.arrangement !== null)) return 'centre'
  return topic.parent === tree.centre || topic.parent === null ? 'main' : 'plain'
}

/** What of a topic decides its plank's size. */
export function contentOf(tree: Tree, topic: Topic, style: Style, title: string, smallPrint: readonly SmallPrint[]): PlankContent {
  return {
    title, rank: rankOf(tree, topic),
    textSize: style.textSize, bold: style.bold, slanted: style.slanted, shape: style.shape, widest: style.width,
    picture: pictureOf(topic),
    markers: topic.markers.length,
    signs: (topic.note ? 1 : 0) + (topic.links.length > 0 ? 1 : 0),
    smallPrint: smallPrint.map(piece => piece.text),
  }
}
