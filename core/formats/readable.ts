import { inOrder } from '../tree/substance'
import { linkInWords, targetOf } from '../tree/links'
import { isLive, topicOf, type Tree } from '../tree/tree'
import { schemeNumbers } from '../tree/numbering'
import { type OutlineItem, toOutline } from '../tree/outline'
import type { Topic, TopicId } from '../tree/topic'
import { writeGeo } from './geo'
import { noteFromMarkdown, noteToMarkdown } from './note-text'

/*
 * A branch as somebody reads it on paper, for formats that hold titles and text: numbers stand before titles,
 * references say what the original says, and links, checklists, places, file names and cross-links follow the note.
 */

/** Text that Markdown would take for something else stands as it is. */
function plain(text: string): string {
  return text.replace(/\s+/g, ' ').replace(/([\\`*_[\]<>])/g, '\\$1')
}

/** The original that a reference of the same tree leads to; the topic itself for any other. */
export function originalOf(tree: Tree, topic: Topic): Topic {
  let at = topic
  for (let step = 0; at.reference !== null && at.reference.tree === null && step < 8; step++) {
    const next = tree.topics.get(at.reference.topic)
    if (!next || !isLive(tree, next.id)) return topic
    at = next
  }
  return at.reference === null ? at : topic
}

function substanceInMarkdown(tree: Tree, topic: Topic): string {
  const lines: string[] = []
  for (const { text, done, due } of inOrder(topic.checks))
    lines.push(`- [${done ? 'x' : ' '}] ${plain(text)}${due ? ` (${due})` : ''}`)
  const list: string[] = []
  for (const link of topic.links) {
    const target = targetOf(link.url)
    if (target?.kind === 'web' || target?.kind === 'mail')
      list.push(`[${plain(linkInWords(link))}](<${link.url.replace(/[<>]/g, encodeURIComponent)}>)`)
    else if (target?.kind === 'topic')
      list.push(`See ${plain(tree.topics.get(target.topic)?.title ?? linkInWords(link))}`)
    else list.push(plain(linkInWords(link)))
  }
  for (const { name } of topic.files) list.push(`File: ${plain(name)}`)
  if (topic.place) {
    const { name, lat, lon } = topic.place
    list.push(
      ['Place:', plain(name), lat !== null && lon !== null ? writeGeo({ lat, lon }) : ''].filter(Boolean).join(' '),
    )
  }
  for (const { to, label } of topic.ties)
    if (tree.topics.has(to) && isLive(tree, to))
      list.push(`${label ? plain(label) : 'Tied to'}: ${plain(topicOf(tree, to).title)}`)
  // Another bullet begins another list (CommonMark 0.31, section 5.3).
  return [lines.join('\n'), list.map(line => `* ${line}`).join('\n')].filter(Boolean).join('\n\n')
}

/** `keep`: the topics that are taken. */
export function toReadable(tree: Tree, root: TopicId, keep?: ReadonlySet<TopicId>): OutlineItem {
  const numbers = schemeNumbers(tree)
  return toOutline(tree, root, keep, (topic, details) => {
    const number = numbers.get(topic.id)
    const shown = originalOf(tree, topic)
    const extra = substanceInMarkdown(tree, topic)
    const note =
      extra === '' ? topic.note : noteFromMarkdown([noteToMarkdown(topic.note), extra].filter(Boolean).join('\n\n'))
    const { done, start, due, startTime, dueTime, duration, priority } = shown
    const said = Object.fromEntries(
      Object.entries({ done, start, due, startTime, dueTime, duration, priority }).filter(
        ([, value]) => value !== null,
      ),
    )
    return {
      title: number ? `${number} ${shown.title}` : shown.title,
      details: { ...details, ...said, ...(note === null ? {} : { note }) },
    }
  })
}
