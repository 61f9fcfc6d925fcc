import type { PlankContent } from '../arrange/plank'
import { syllablesIn } from '../arrange/syllables'
import type { Guise } from '../derive/guises'
import { itemOf } from '../meeting/agenda'
import { dueInWords } from '../schedule/days'
import { hoursOn } from '../schedule/times'
import type { TopicSign } from '../talk/thread'
import { languageOf } from '../tree/language'
import { initialsOf } from '../tree/title'
import type { Style } from '../tree/style'
import { isTask, type Topic } from '../tree/topic'
import type { Tree } from '../tree/tree'
import { filesSign, linksSign } from './link-signs'

/* What a plank says besides its title, the same on the screen and in a picture of it. */

/** One piece of the row under a title. */
export interface SmallPrint {
  readonly text: string
  readonly tone: 'people' | 'late' | 'ok' | 'plain'
  /** Whom the words name, where they're people of the tree: accounts, in the words' order. */
  readonly who?: readonly string[]
  /** How much of a target is reached, drawn as a bar under the words; over 1 beyond it. */
  readonly part?: number
}

/** The small print of a task: who, when, how far. `now`: the present day; `locale`: whose dates. */
export function smallPrintOf(
  { topic, names }: Pick<Guise, 'topic' | 'names'>,
  nameOf: (id: string) => string,
  now: string,
  locale?: string,
): SmallPrint[] {
  const print: SmallPrint[] = []
  // Whoever isn't known is somebody, on the screen as in a picture.
  const people = [...topic.people.map(id => nameOf(id) || 'Somebody'), ...names]
  if (people.length > 0) print.push({ text: people.map(initialsOf).join(' '), tone: 'people', who: topic.people })
  if (topic.item.length > 0) print.push(...itemPrint(topic))
  if (isTask(topic)) {
    if (topic.done === 100) print.push({ text: 'done', tone: 'ok' })
    else if (topic.due !== null) {
      const { text, late } = dueInWords(topic.due, now, locale, hoursOn(topic, topic.due))
      print.push({ text, tone: late ? 'late' : 'plain' })
    }
    if (topic.done !== null && topic.done > 0 && topic.done < 100)
      print.push({ text: `${topic.done} %`, tone: 'plain' })
    if (topic.priority !== null) print.push({ text: `P${topic.priority}`, tone: 'plain' })
  }
  if (topic.checks.length > 0) {
    const done = topic.checks.filter(check => check.done).length
    print.push({
      text: `${done} of ${topic.checks.length} checked`,
      tone: done === topic.checks.length ? 'ok' : 'plain',
    })
  }
  return print
}

/** What an agenda item says of itself: its minutes, and whether its section is filled in. */
function itemPrint(topic: Topic): SmallPrint[] {
  const { minutes, asked, ready } = itemOf(topic)
  return [
    ...(minutes === null ? [] : [{ text: `${minutes} min`, tone: 'plain' as const }]),
    ...(ready
      ? [{ text: 'ready', tone: 'ok' as const }]
      : asked
        ? [{ text: 'to fill in', tone: 'plain' as const }]
        : []),
  ]
}

export type SignKind = 'note' | 'link' | 'file' | 'place' | 'sketch' | 'chart' | 'reference' | 'again' | 'vote' | 'talk'

export interface Sign {
  readonly kind: SignKind
  readonly icon: string
  readonly name: string
  /** What stands in the sign: how many comments. */
  readonly count?: string
  /** Whether something in it waits for an answer. */
  readonly open?: boolean
}

/** The signs after a title: what hangs on the topic, each with its name for those who hear it. */
export function signsOf(topic: Topic, talk: TopicSign | null = null): Sign[] {
  const signs: Sign[] = []
  if (topic.reference) signs.push({ kind: 'reference', icon: 'lucide:corner-up-right', name: 'shown from elsewhere' })
  if (topic.again && topic.done !== 100) signs.push({ kind: 'again', icon: 'lucide:repeat', name: 'comes again' })
  if (topic.note) signs.push({ kind: 'note', icon: 'lucide:sticky-note', name: 'has a note' })
  if (topic.links.length > 0) signs.push({ kind: 'link', ...linksSign(topic.links) })
  if (topic.files.length > 0) signs.push({ kind: 'file', ...filesSign(topic.files) })
  if (topic.place) signs.push({ kind: 'place', icon: 'lucide:map-pin', name: 'has a place' })
  if (topic.sketch) signs.push({ kind: 'sketch', icon: 'lucide:pencil-line', name: 'has a sketch' })
  if (topic.charts.length > 0) signs.push({ kind: 'chart', icon: 'lucide:chart-column', name: 'has a chart' })
  if (topic.votes.length > 0) signs.push({ kind: 'vote', icon: 'lucide:vote', name: 'was voted on' })
  if (talk)
    signs.push({
      kind: 'talk',
      icon: 'lucide:message-square',
      name: `has ${talk.comments === 1 ? 'a comment' : `${talk.comments} comments`}${talk.open > 0 ? '' : ', settled'}`,
      count: talk.comments > 99 ? '99+' : String(talk.comments),
      open: talk.open > 0,
    })
  return signs
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
export function contentOf(
  tree: Tree,
  topic: Topic,
  style: Style,
  title: string,
  smallPrint: readonly SmallPrint[],
  talk: TopicSign | null,
): PlankContent {
  return {
    title,
    rank: rankOf(tree, topic),
    typeface: style.typeface,
    textSize: style.textSize,
    bold: style.bold,
    slanted: style.slanted,
    shape: style.shape,
    widest: style.width,
    picture: pictureOf(topic),
    markers: topic.markers.length,
    signs: signsOf(topic, talk).length,
    smallPrint: smallPrint.map(piece => piece.text),
    syllables: syllablesIn(languageOf(tree, topic)),
  }
}
