import { childrenOf, type Topic, topicOf, type TopicId, type Tree } from '../tree'
import { escapeHtml } from './clipboard'

/** How a topic looks to somebody who reads it in another program. */
export interface Faces {
  /** #rrggbb, for a white page. */
  colourOf(id: TopicId): string
  /** What its markers, and what kind of line of a meeting it is, say in words. */
  wordsOf(topic: Topic): readonly string[]
}

/** What waits for somebody's decision stays to be seen as such. */
const OPEN: Readonly<Record<string, string>> = { question: 'open question', idea: 'idea', parked: 'parked' }

/** The words of a topic's kind, where it was captured in a meeting; a decision or an action says so too. */
export function kindInWords({ entry, done }: Pick<Topic, 'entry' | 'done'>): string[] {
  if (!entry) return []
  if (entry.kind === 'question' && done === 100) return ['question, answered']
  return [OPEN[entry.kind] ?? entry.kind]
}

/**
 * Branches as a nested HTML list for other programs: each title in its branch's colour, main ones bold, line breaks kept,
 * markers as words behind it. What lies in the trash stays there.
 */
export function writeHtmlBranches(tree: Tree, tops: readonly TopicId[], faces: Faces): string {
  if (tops.length === 0) return ''
  const item = (id: TopicId): string => {
    const topic = topicOf(tree, id)
    const isMain = id === tree.centre || topic.parent === tree.centre
    const style = `color:${faces.colourOf(id)}${isMain ? ';font-weight:600' : ''}`
    const words = faces.wordsOf(topic)
    const said = words.length > 0 ? ` <em>(${words.map(escapeHtml).join(', ')})</em>` : ''
    const title = escapeHtml(topic.title).replace(/\n/g, '<br>')
    return `<li><span style="${style}">${title}</span>${said}${list(childrenOf(tree, id))}</li>`
  }
  const list = (ids: readonly TopicId[]): string => (ids.length > 0 ? `<ul>${ids.map(item).join('')}</ul>` : '')
  return list(tops)
}
