import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { allTopics } from '../tree/walk'

/*
 * The first steps of a newcomer: real acts on a real tree, in this order. Each is done when the tree shows it, whichever way it was done.
 */

export interface FirstStep {
  readonly id: 'name' | 'pour' | 'nest' | 'move' | 'mark' | 'give' | 'undo'
  readonly title: string
  /** What to do; `{edit}` is the key of an action, `{me}` the person's first name. */
  readonly words: string
  /** The same by touch: `{Title}` is the word on a button at the foot of the screen. */
  readonly thumb: string
}
export const FIRST_STEPS: readonly FirstStep[] = [
  {
    id: 'name',
    title: 'Name it',
    words: '{edit} opens the title of the tree. Type what it’s about; {title-keep} keeps it.',
    thumb: 'Tap the tree’s centre; {Title} at the foot opens it. Type what it’s about; {Keep} keeps it.',
  },
  {
    id: 'pour',
    title: 'Pour out',
    words: '{child} begins a topic. Type, and {title-keep} goes on to the next: three of them, then {title-drop}.',
    thumb: '{Under} begins a topic. Type, and {Next} goes on to the next: three of them, then {Keep}.',
  },
  {
    id: 'nest',
    title: 'Nest',
    words: 'With the arrows to one of them; {child} begins a topic under it. {title-drop} ends.',
    thumb: 'Tap one of them; {Under} begins a topic under it, {Keep} ends.',
  },
  {
    id: 'move',
    title: 'Move',
    words: '{move-up} and {move-down} move a topic, {move-in} puts it under the one before.',
    thumb: 'Tap one; {Up} and {Down} move it, {In} puts it under the one before.',
  },
  {
    id: 'mark',
    title: 'Mark',
    words:
      '{mark} opens the markers. A few letters, such as “decis”, and {title-keep} gives one; {title-drop} leads back.',
    thumb: 'Tap one; {Mark} opens the markers, and a tap on one of them gives it.',
  },
  {
    id: 'give',
    title: 'Give it to somebody',
    words: '{edit} opens the title; behind it type “ // {me}, fri”, and {title-keep}. Yours now, and due on Friday.',
    thumb: '{Title} opens the title; behind it type “ // {me}, fri”, and {Keep}. Yours now, and due on Friday.',
  },
  {
    id: 'undo',
    title: 'Take it back',
    words: '{undo} takes your last step back, as often as you like; {redo} brings it again.',
    thumb: '{Undo} at the top takes your last step back, as often as you like; {Redo} brings it again.',
  },
]

/** What the steps are told by: counted when a step begins, and compared since. */
export interface Seen {
  readonly title: string
  readonly topics: number
  readonly nested: number
  readonly marked: number
  readonly given: number
  readonly places: ReadonlyMap<TopicId, string>
}

export function seenIn(tree: Tree): Seen {
  const places = new Map<TopicId, string>()
  let [nested, marked, given] = [0, 0, 0]
  for (const { id, parent, order, markers, people } of allTopics(tree)) {
    places.set(id, `${parent ?? ''} ${order}`)
    if (parent !== null && parent !== tree.centre) nested++
    marked += markers.length
    given += people.length
  }
  return { title: topicOf(tree, tree.centre).title.trim(), topics: places.size, nested, marked, given, places }
}

/** Whether a step has been done since it began. `undone`: whether something was taken back meanwhile. */
export function isDone(step: FirstStep['id'], from: Seen, now: Seen, undone: boolean): boolean {
  switch (step) {
    case 'name':
      return now.title !== '' && now.title !== from.title
    case 'pour':
      return now.topics >= from.topics + 3
    case 'nest':
      return now.nested > from.nested
    case 'move':
      return [...now.places].some(([id, place]) => from.places.has(id) && from.places.get(id) !== place)
    case 'mark':
      return now.marked > from.marked
    case 'give':
      return now.given > from.given
    case 'undo':
      return undone
  }
}
