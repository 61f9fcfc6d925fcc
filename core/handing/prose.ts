import type { List, ListItem, PhrasingContent, Root, RootContent } from 'mdast'
import { noteBlocks, printMarkdown } from '../formats/note-text'
import type { Choice } from './choice'
import { type Handed, type HandedChart, type HandedTopic, peopleIn, tasksIn } from './handed'
import { Telling } from './telling'

/*
 * A part of a tree as Markdown (CommonMark 0.31 with GFM's tables and task lists), in the writer's own way: headings down to a level
 * that one chooses and lists below, or lists all through; markers, dates, people, links and notes as words.
 */

const text = (value: string): PhrasingContent => ({ type: 'text', value })
const paragraph = (...children: PhrasingContent[]): RootContent => ({ type: 'paragraph', children })
const item = (...children: RootContent[]): ListItem => ({
  type: 'listItem',
  spread: false,
  children: children as never[],
})
const list = (items: readonly ListItem[]): List => ({
  type: 'list',
  ordered: false,
  spread: false,
  children: [...items],
})

/** Markdown has six levels of headings. */
const MOST_HEADINGS = 6

/** `file`: where a picture or a file of the tree stands beside the text; null where it doesn't go along. `chart`: the same for a chart. */
export function treeAsProse(
  handed: Handed,
  choice: Choice,
  {
    description,
    file,
    chart = () => null,
  }: {
    readonly description: string
    readonly file: (hash: string, name: string) => string | null
    readonly chart?: (chart: HandedChart) => string | null
  },
): string {
  const telling = new Telling(choice)
  const { words } = telling
  // The first level is the title's.
  const headings = Math.min(choice.headings, MOST_HEADINGS - 1)

  const note = (topic: HandedTopic, inList: boolean): RootContent[] => {
    const blocks = withFiles(noteBlocks(topic.note))
    const quoted = choice.notesAs === 'fitting' ? inList : choice.notesAs === 'quotes'
    // One quote for the whole of a note.
    return quoted && blocks.length > 0 ? [{ type: 'blockquote', children: blocks as never[] }] : blocks
  }
  const withFiles = (blocks: readonly RootContent[]): RootContent[] =>
    blocks.flatMap((block): RootContent[] => {
      if (block.type === 'paragraph' && block.children.length === 1 && block.children[0]!.type === 'image') {
        const [image] = block.children
        const at = file(image.url, image.alt ?? '')
        return at === null ? [] : [paragraph({ ...image, url: at })]
      }
      return [block]
    })
  const charts = (topic: HandedTopic): RootContent[] =>
    topic.charts.flatMap(one => {
      const at = chart(one)
      return at === null ? [] : [paragraph({ type: 'image', url: at, alt: one.words })]
    })
  const lines = (topic: HandedTopic): ListItem[] => [
    ...topic.checks.map(({ text: words_, done, due }): ListItem => ({
      ...item(paragraph(text(`${words_}${due ? ` (${telling.day(due)})` : ''}`))),
      checked: done,
    })),
    ...topic.links.map(({ words: said, url }) =>
      item(paragraph(url === null ? text(said) : { type: 'link', url, children: [text(said)] })),
    ),
    ...(topic.place ? [item(paragraph(text(`${words.place}: ${topic.place}`)))] : []),
    ...topic.files.map(({ name, file: hash }) => {
      const at = file(hash, name)
      return item(
        paragraph(
          text(`${words.file}: `),
          at === null ? text(name) : { type: 'link', url: at, children: [text(name)] },
        ),
      )
    }),
    ...topic.ties.map(tie => item(paragraph(text(telling.tie(tie))))),
    ...topic.comments.map(({ by, at, text: said }) =>
      item(paragraph(text(`${by}, ${telling.day(at.slice(0, 10))}: ${said}`))),
    ),
  ]
  /** What hangs on a topic, as blocks under its heading. */
  const substance = (topic: HandedTopic): RootContent[] => {
    const about = telling.about(topic)
    const hung = lines(topic)
    const shown = topic.picture && file(topic.picture.file, topic.title)
    return [
      ...(about ? [paragraph({ type: 'emphasis', children: [text(about)] })] : []),
      ...(shown ? [paragraph({ type: 'image', url: shown, alt: topic.title })] : []),
      ...charts(topic),
      ...note(topic, false),
      ...(hung.length > 0 ? [list(hung)] : []),
    ]
  }
  const listed = (topic: HandedTopic): ListItem => {
    const about = telling.about(topic)
    const done = topic.task?.done ?? null
    const inner: RootContent[] = [
      paragraph(
        text(telling.titled(topic)),
        ...(about ? [text(' – '), { type: 'emphasis' as const, children: [text(about)] }] : []),
      ),
      ...charts(topic),
      ...note(topic, true),
    ]
    const below = [...lines(topic), ...topic.children.map(listed)]
    if (below.length > 0) inner.push(list(below))
    return { ...item(...inner), checked: done === null ? null : done === 100 }
  }
  const section = (topic: HandedTopic): RootContent[] => [
    { type: 'heading', depth: (topic.level + 1) as 2, children: [text(telling.titled(topic))] },
    ...substance(topic),
    ...below(topic),
  ]
  const below = ({ children, level }: HandedTopic): RootContent[] =>
    children.length === 0 ? [] : level < headings ? children.flatMap(section) : [list(children.map(listed))]

  const { root } = handed
  const tasks = handed.withTasks ? tasksIn(handed) : []
  const people = handed.withTasks ? peopleIn(handed) : []
  const heading = (said: string): RootContent => ({ type: 'heading', depth: 2, children: [text(said)] })
  const row = (cells: readonly string[]) => ({
    type: 'tableRow' as const,
    children: cells.map(cell => ({ type: 'tableCell' as const, children: [text(cell)] })),
  })
  const document: Root = {
    type: 'root',
    children: [
      { type: 'heading', depth: 1, children: [text(telling.titled(root))] },
      ...(description ? [paragraph(text(description))] : []),
      ...(handed.deeper > 0 ? [paragraph({ type: 'emphasis', children: [text(words.deeper(handed.deeper))] })] : []),
      ...substance(root),
      ...below(root),
      ...(tasks.length > 0 && choice.headings > 0
        ? [
            heading(words.tasks),
            {
              type: 'table' as const,
              children: [row(telling.taskHead), ...tasks.map(task => row(telling.taskRow(task)))],
            },
          ]
        : []),
      ...(people.length > 0 && choice.headings > 0
        ? [
            heading(words.people),
            list(
              people.map(({ name, topics }) =>
                item(paragraph(text(name)), list(topics.map(topic => item(paragraph(text(telling.titled(topic))))))),
              ),
            ),
          ]
        : []),
      ...(handed.key.length > 0
        ? [heading(words.key), list(handed.key.map(({ name }) => item(paragraph(text(name)))))]
        : []),
    ],
  }
  return printMarkdown(document)
}
