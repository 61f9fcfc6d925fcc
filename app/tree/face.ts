import type { PlankContent } from '#core/arrange/plank'
import { isTask, type Topic, type Tree } from '#core/tree'

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

/** What of a topic decides its plank's size. */
export function contentOf(tree: Tree, topic: Topic, title: string, smallPrint: readonly SmallPrint[]): PlankContent {
  return {
    title,
    rank: topic.id === tree.centre ? 'centre' : topic.parent === tree.centre || topic.parent === null ? 'main' : 'plain',
    textSize: topic.textSize, bold: topic.bold, slanted: topic.slanted,
    markers: topic.markers.length,
    signs: (topic.note ? 1 : 0) + (topic.links.length > 0 ? 1 : 0),
    smallPrint: smallPrint.map(piece => piece.text),
  }
}

/** Which of the ten branch colours a topic has: by the place of its main branch. */
export function hueIndexOf(tree: Tree, topic: Topic, placeOfMain: (id: string) => number): number {
  let at = topic
  while (at.parent !== null && at.parent !== tree.centre) at = tree.topics.get(at.parent)!
  return at.id === tree.centre ? -1 : placeOfMain(at.id)
}
