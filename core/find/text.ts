import { noteWords } from '../tree/note'
import type { Topic } from '../tree/topic'

/**
 * Text as it's compared: without case and accents (Unicode NFKD without combining marks), so that "rundgange" finds
 * "Rundgänge".
 */
export function fold(text: string): string {
  // Plain letters have nothing to take apart, and most titles are made of them.
  if (!BEYOND_ASCII.test(text)) return text.toLowerCase()
  return text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .replaceAll('ß', 'ss')
}
const BEYOND_ASCII = /[^\p{ASCII}]/u

const titles = new WeakMap<object, string>()
const texts = new WeakMap<object, string>()
const notes = new WeakMap<object, string>()

function remembered<T extends object>(known: WeakMap<object, string>, of: T, make: (of: T) => string): string {
  let text = known.get(of)
  if (text === undefined) known.set(of, (text = make(of)))
  return text
}

/**
 * A topic's title folded; remembered as long as the topic is as it is, since a search asks for all of them at each
 * key. Of plain letters it's made sooner than it's remembered.
 */
export function foldedTitle(topic: { readonly title: string }): string {
  return BEYOND_ASCII.test(topic.title) ? remembered(titles, topic, ({ title }) => fold(title)) : fold(topic.title)
}

/** The words of a topic's note, folded. */
export function foldedNote(topic: Pick<Topic, 'note'>): string {
  return topic.note === null ? '' : remembered(notes, topic, ({ note }) => fold(noteWords(note)))
}

/** Whether a topic carries words beside its title. */
export function saysMore({ note, links, files, checks, place, ties }: Topic): boolean {
  return note !== null || place !== null || links.length + files.length + checks.length + ties.length > 0
}

/** Everything in words that a topic says or carries, folded. */
export function foldedText(topic: Topic): string {
  const { links, files, checks, place, ties } = topic
  if (!saysMore(topic)) return foldedTitle(topic)
  return remembered(texts, topic, () =>
    [
      foldedTitle(topic),
      foldedNote(topic),
      ...[
        ...links.flatMap(({ title, url }) => [title, url]),
        ...files.map(({ name }) => name),
        ...checks.map(({ text }) => text),
        ...ties.map(({ label }) => label),
        place?.name ?? '',
      ].map(fold),
    ].join('\n'),
  )
}
