import { writeGeo } from '../formats/geo'
import type { KeptThread } from '../talk/kept-talk'
import { textOf } from '../talk/body'
import { topicOfPlace } from '../talk/saying'
import { languageOf } from '../tree/language'
import { linkInWords, targetOf } from '../tree/links'
import { markersOf } from '../tree/markers'
import { inOrder } from '../tree/substance'
import { isTask, type Topic, type TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { looseOf } from '../tree/walk'
import { type Choice, taken } from './choice'
import type { Cut } from './cut'

/* A part of a tree as documents tell it: in reading order, with names instead of ids, whatever the document is. */

export interface HandedTask {
  readonly people: readonly string[]
  readonly start: string | null
  readonly due: string | null
  /** Times of those days. */
  readonly startTime: string | null
  readonly dueTime: string | null
  /** Working days. */
  readonly duration: number | null
  readonly done: number | null
  readonly priority: number | null
}
/** A chart of a branch, drawn. */
export interface HandedChart {
  /** What it's of, for those who hear it. */
  readonly words: string
  readonly svg: string
}
export interface HandedTopic {
  readonly id: TopicId
  /** Levels below what is handed out: 1 for its sections, 0 for itself. */
  readonly level: number
  /** As the whole tree counts: "2.4"; '' for none. */
  readonly number: string
  readonly title: string
  /** What its words are written in, BCP 47; null where nobody said. */
  readonly language: string | null
  /** A Yjs update in base64. */
  readonly note: string | null
  readonly task: HandedTask | null
  /** What it has in each measure, in words; '' for nothing, or where figures don't go along. */
  readonly figures: string
  /** Names of markers. */
  readonly markers: readonly string[]
  /** `url` is null where the link leads to something that a reader outside can't open. */
  readonly links: readonly { readonly words: string; readonly url: string | null }[]
  readonly place: string
  readonly files: readonly { readonly name: string; readonly size: number; readonly file: string }[]
  /** A file of the tree, with its width in canvas units and its height over its width. */
  readonly picture: { readonly file: string; readonly width: number; readonly ratio: number } | null
  /** SVG. */
  readonly sketch: string | null
  readonly charts: readonly HandedChart[]
  readonly checks: readonly { readonly text: string; readonly done: boolean; readonly due: string | null }[]
  readonly ties: readonly {
    readonly label: string
    readonly number: string
    readonly title: string
    readonly to: TopicId
  }[]
  readonly comments: readonly { readonly by: string; readonly at: string; readonly text: string }[]
  readonly children: readonly HandedTopic[]
}
export interface Handed {
  /** What is handed out, with its sections below. Loose topics are sections behind the others. */
  readonly root: HandedTopic
  readonly count: number
  /** The meanings of the markers that are in it, where the key goes along. */
  readonly key: readonly { readonly id: string; readonly name: string }[]
  readonly withTasks: boolean
  /** Topics that stay behind, because they stand too deep. */
  readonly deeper: number
}

const titleOf = ({ title }: { readonly title: string }): string => title.replace(/\s*\n\s*/g, ' ').trim()

/** A cut as a document tells it. `nameOf`: the name of a person; `talk`: what was said, of which the choice takes what it wants. */
export function handedOf(
  { tree, numbers, deeper }: Cut,
  choice: Choice,
  nameOf: (person: string) => string,
  talk: readonly KeptThread[] = [],
  figuresIn: (topic: TopicId) => string = () => '',
  chartsIn: (topic: TopicId) => readonly HandedChart[] = () => [],
): Handed {
  const along = taken(choice)
  const said = new Map<TopicId, KeptThread[]>()
  if (along.has('comments'))
    for (const thread of talk) {
      const at = topicOfPlace(thread.place)
      if (at !== null && tree.topics.has(at)) said.set(at, [...(said.get(at) ?? []), thread])
    }
  const known = markersOf(tree.fields)
  const names = new Map(known.map(({ id, name }) => [id, name]))
  const used = new Set<string>()
  const tiesOf = new Map<TopicId, HandedTopic['ties'][number][]>()
  const tie = (at: TopicId, to: TopicId, label: string): void => {
    const list = tiesOf.get(at) ?? []
    list.push({ label, to, number: numbers.get(to) ?? '', title: titleOf(topicOf(tree, to)) })
    tiesOf.set(at, list)
  }
  // A reader at either end hears of the other.
  for (const topic of tree.topics.values())
    for (const { to, label } of topic.ties) {
      tie(topic.id, to, label)
      tie(to, topic.id, label)
    }
  let count = 0
  const tell = (topic: Topic, level: number): HandedTopic => {
    count++
    for (const marker of topic.markers) used.add(marker)
    const below = [
      ...childrenOf(tree, topic.id),
      ...(topic.id === tree.centre ? looseOf(tree).filter(id => id !== tree.centre) : []),
    ]
    return {
      id: topic.id,
      level,
      number: numbers.get(topic.id) ?? '',
      title: titleOf(topic),
      language: languageOf(tree, topic),
      note: topic.note,
      task: isTask(topic) ? taskOf(topic, nameOf) : null,
      figures: figuresIn(topic.id),
      markers: topic.markers.flatMap(id => names.get(id) ?? []),
      links: topic.links.map(link => ({ words: linkWords(tree, link), url: openUrl(link.url) })),
      place: placeInWords(topic),
      files: topic.files.map(({ name, size, file }) => ({ name, size, file })),
      picture: topic.picture && { file: topic.picture.file, width: topic.picture.width, ratio: topic.picture.ratio },
      sketch: topic.sketch,
      charts: topic.charts.length > 0 ? chartsIn(topic.id) : [],
      checks: inOrder(topic.checks).map(({ text, done, due }) => ({ text, done, due })),
      ties: tiesOf.get(topic.id) ?? [],
      comments: (said.get(topic.id) ?? []).flatMap(({ comments }) =>
        comments.map(({ by, at, body }) => ({ by: nameOf(by), at, text: textOf(body) })),
      ),
      children: below.map(id => tell(topicOf(tree, id), level + 1)),
    }
  }
  const root = tell(topicOf(tree, tree.centre), 0)
  return {
    root,
    count,
    key: along.has('key') ? known.filter(({ id }) => used.has(id)).map(({ id, name }) => ({ id, name })) : [],
    withTasks: along.has('tasks'),
    deeper,
  }
}

function taskOf({ people, ...said }: Topic, nameOf: (id: string) => string): HandedTask {
  const { start, due, startTime, dueTime, duration, done, priority } = said
  return { people: people.map(nameOf).filter(Boolean), start, due, startTime, dueTime, duration, done, priority }
}

/** What somebody outside can open: the web and mail. */
function openUrl(url: string): string | null {
  const target = targetOf(url)
  return target?.kind === 'web' || target?.kind === 'mail' ? url : null
}

function linkWords(tree: Tree, link: Topic['links'][number]): string {
  const target = targetOf(link.url)
  return target?.kind === 'topic' && !link.title
    ? titleOf(tree.topics.get(target.topic) ?? { title: linkInWords(link) })
    : linkInWords(link)
}

function placeInWords({ place }: Topic): string {
  if (!place) return ''
  const { name, lat, lon } = place
  return [name, lat !== null && lon !== null ? writeGeo({ lat, lon }) : ''].filter(Boolean).join(' ')
}

/** Every topic of it in reading order. */
export function* everyTopic(topic: HandedTopic): Generator<HandedTopic> {
  const stack: HandedTopic[] = [topic]
  for (let at = stack.pop(); at; at = stack.pop()) {
    yield at
    for (let i = at.children.length - 1; i >= 0; i--) stack.push(at.children[i]!)
  }
}

/** The tasks in it, in reading order: what is done goes last. */
export function tasksIn({ root }: Handed): HandedTopic[] {
  const tasks = [...everyTopic(root)].filter(({ task, level }) => task !== null && level > 0)
  return [...tasks.filter(({ task }) => task!.done !== 100), ...tasks.filter(({ task }) => task!.done === 100)]
}

/** Who has which tasks: each person's, by name. */
export function peopleIn(handed: Handed): { readonly name: string; readonly topics: readonly HandedTopic[] }[] {
  const by = new Map<string, HandedTopic[]>()
  for (const topic of tasksIn(handed))
    for (const name of topic.task!.people) {
      const list = by.get(name)
      if (list) list.push(topic)
      else by.set(name, [topic])
    }
  return [...by].sort(([a], [b]) => a.localeCompare(b)).map(([name, topics]) => ({ name, topics }))
}
