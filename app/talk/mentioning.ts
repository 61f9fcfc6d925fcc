import Mention from '@tiptap/extension-mention'
import type { SuggestionKeyDownProps, SuggestionProps } from '@tiptap/suggestion'
import { fold, foldedTitle } from '#core/find/text'
import { ALL } from '#core/talk/everybody'
import { readingOrder } from '#core/find/search'
import { shorten } from '#core/tree'
import type { Desk } from '~/desk/desk'

/** Somebody or something that can be named. */
export interface Named {
  readonly id: string
  readonly label: string
  /** What is said beside it. */
  readonly more: string
}
/** What is being named in a field, by a few letters. */
export interface Naming {
  readonly what: 'person' | 'topic'
  readonly items: readonly Named[]
  readonly left: number
  readonly top: number
  readonly bottom: number
  choose(item: Named): void
}

const MOST = 8
const LONGEST = 80

/** People of the tree, and all of them; names that begin with the letters first. */
export function peopleLike(desk: Desk, letters: string): Named[] {
  const wanted = fold(letters)
  const all: Named[] = [
    ...desk.session.people.map(({ id, name, email }) => ({ id, label: name, more: email ?? '' })),
    { id: ALL, label: 'all', more: 'everybody in this tree' },
  ]
  const begins = ({ label }: Named): boolean =>
    fold(label)
      .split(/\s+/)
      .some(part => part.startsWith(wanted))
  return all
    .filter(one => begins(one) || fold(one.more).startsWith(wanted))
    .sort((a, b) => Number(begins(b)) - Number(begins(a)))
    .slice(0, MOST)
}

/** Topics with the letters in their titles, in reading order, those that begin with them first. */
export function topicsLike(desk: Desk, letters: string): Named[] {
  const wanted = fold(letters)
  const found = readingOrder(desk.tree).filter(topic => topic.title && foldedTitle(topic).includes(wanted))
  const begins = (title: string): boolean => fold(title).startsWith(wanted)
  return found
    .sort((a, b) => Number(begins(b.title)) - Number(begins(a.title)))
    .slice(0, MOST)
    .map(({ id, title, parent }) => ({
      id,
      label: shorten(title, LONGEST),
      more: shorten((parent && desk.tree.topics.get(parent)?.title) || '', 40),
    }))
}

/** The two kinds of mention as an editor writes them; `shown` is what is being named just now. */
export function mentionsFor(desk: Desk, shown: Ref<Naming | null>, chosen: Ref<number>) {
  const kind = (what: 'person' | 'topic', char: '@' | '#', like: (letters: string) => Named[]) => {
    const show = (props: SuggestionProps<Named, Pick<Named, 'id' | 'label'>>): void => {
      const rect = props.clientRect?.()
      shown.value = rect
        ? {
            what,
            items: props.items,
            left: rect.left,
            top: rect.top,
            bottom: rect.bottom,
            choose: ({ id, label }) => props.command({ id, label }),
          }
        : null
      chosen.value = 0
    }
    return Mention.extend({
      name: what,
      addAttributes: () => ({ id: { default: '' }, label: { default: '' } }),
    }).configure({
      renderText: ({ node }) => `${char}${String(node.attrs.label)}`,
      renderHTML: ({ node }) => ['span', { class: 'mention', 'data-type': what }, `${char}${String(node.attrs.label)}`],
      suggestion: {
        char,
        allowedPrefixes: [' ', '('],
        items: ({ query }) => like(query),
        render: () => ({
          onStart: show,
          onUpdate: show,
          onExit: () => {
            shown.value = null
          },
          onKeyDown: ({ event }: SuggestionKeyDownProps) => pick(event, shown, chosen),
        }),
      },
    })
  }
  return [
    kind('person', '@', letters => peopleLike(desk, letters)),
    kind('topic', '#', letters => topicsLike(desk, letters)),
  ]
}

/** The arrow keys, Enter and Tab choose; Esc closes the list and nothing else. */
function pick(event: KeyboardEvent, shown: Ref<Naming | null>, chosen: Ref<number>): boolean {
  const naming = shown.value
  if (!naming || naming.items.length === 0) return false
  const { length } = naming.items
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (step) chosen.value = (chosen.value + step + length) % length
  else if (event.key === 'Enter' || event.key === 'Tab') naming.choose(naming.items[chosen.value]!)
  else if (event.key === 'Escape') shown.value = null
  else return false
  event.stopPropagation()
  return true
}
