import type { Editor } from '@tiptap/core'
import Mention from '@tiptap/extension-mention'
import type { SuggestionProps } from '@tiptap/suggestion'
import { byLetters } from '#core/find/by-letters'
import { fold } from '#core/find/text'
import { ALL } from '#core/talk/everybody'
import { shorten } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { groupsOf, inGroup, knowOwnGroups, loadOwnGroups } from '~/share/own-groups'

/** Somebody or something that can be named. */
export interface Named {
  readonly id: string
  readonly label: string
  /** What is said beside it. */
  readonly more: string
  /** Where it's a group: the accounts of those in it. */
  readonly people?: readonly string[]
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

/** What a choice becomes in the text. */
const attrsOf = ({ id, label, people }: Named): Pick<Named, 'id' | 'label' | 'people'> => ({
  id,
  label,
  ...(people && { people: [...people] }),
})

/** People of the tree, groups of them, and all of them; names that begin with the letters first. */
function peopleLike(desk: Desk, letters: string): Named[] {
  const wanted = fold(letters)
  const all: Named[] = [
    ...desk.session.people.map(({ id, name, email }) => ({ id, label: name, more: email ?? '' })),
    { id: ALL, label: 'all', more: 'everybody in this tree' },
    ...groupsOf(desk).flatMap(({ id, name }) => {
      const people = inGroup(desk, id)
      const [first, ...rest] = people.map(desk.nameOf)
      if (!first) return []
      return {
        id,
        label: name,
        more: rest.length > 1 ? `${people.length} people` : [first, ...rest].join(', '),
        people,
      }
    }),
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

/** Topics with the letters in their titles. */
function topicsLike(desk: Desk, letters: string): Named[] {
  return byLetters(desk.tree, letters, MOST, ({ title }) => title !== '').map(({ id, title, parent }) => ({
    id,
    label: shorten(title, LONGEST),
    more: shorten((parent && desk.tree.topics.get(parent)?.title) || '', 40),
  }))
}

const KINDS = [
  { what: 'person', char: '@', like: peopleLike },
  { what: 'topic', char: '#', like: topicsLike },
] as const

/** What stands before the cursor when somebody or something is being named, as the list is opened too (`allowedPrefixes`). */
const BEING_NAMED = /(?:^|[ (])([@#])([^\s@#]*)$/
const LONGEST_LETTERS = 60

/** Naming people and topics in one field: a list comes by `@` and `#`, but whoever is quicker than the list needn't wait for it. */
export class Mentions {
  /** The list that is shown, and which of it the arrow keys have chosen. */
  readonly shown = shallowRef<Naming | null>(null)
  readonly chosen = ref(0)
  /** Where the list was closed by Esc: what stands there is meant as it is. */
  private closedAt = -1

  constructor(private readonly desk: Desk) {
    // Without a line there are those of the tree, and one's own as they were.
    void knowOwnGroups()
  }

  /** One's own groups as they are now: asked for as somebody comes to write, not with each topic that is looked at. */
  readonly refresh = (): void => void loadOwnGroups().catch(() => {})

  readonly extensions = KINDS.map(({ what, char, like }) => {
    const show = (props: SuggestionProps<Named, ReturnType<typeof attrsOf>>): void => {
      const rect = props.clientRect?.()
      this.chosen.value = 0
      if (!rect || props.range.from === this.closedAt) return
      const { left, top, bottom } = rect
      const choose = (item: Named): void => props.command(attrsOf(item))
      this.shown.value = { what, items: props.items, left, top, bottom, choose }
    }
    return Mention.extend({
      name: what,
      // The people of a group go with it, also when it's cut and put in again.
      addAttributes: () => ({
        id: { default: '' },
        label: { default: '' },
        ...(what === 'person' && {
          people: {
            default: undefined,
            parseHTML: (element: HTMLElement) => element.dataset.people?.split(' '),
            renderHTML: ({ people }: { people?: readonly string[] }) =>
              people ? { 'data-people': people.join(' ') } : {},
          },
        }),
      }),
    }).configure({
      renderText: ({ node }) => `${char}${String(node.attrs.label)}`,
      renderHTML: ({ node }) => ['span', { class: 'mention', 'data-type': what }, `${char}${String(node.attrs.label)}`],
      suggestion: {
        char,
        allowedPrefixes: [' ', '('],
        items: ({ query }) => like(this.desk, query),
        render: () => ({
          onStart: show,
          onUpdate: show,
          onExit: () => {
            this.shown.value = null
          },
        }),
      },
    })
  })

  /** The arrow keys, Enter and Tab choose; Esc closes the list and nothing else. True when the key was meant for the list. */
  key(event: KeyboardEvent, editor: Editor): boolean {
    if (event.isComposing) return false
    if (event.key === 'Enter' || event.key === 'Tab') return this.take(editor)
    const { value: list } = this.shown
    if (!list || list.items.length === 0) return false
    const { length } = list.items
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (step) this.chosen.value = (this.chosen.value + step + length) % length
    else if (event.key === 'Escape') {
      this.closedAt = this.named(editor)?.range.from ?? -1
      this.shown.value = null
    } else return false
    return true
  }

  /** Who or what is being named at the cursor, by the letters that stand there now, whatever the list has come to. */
  private named(editor: Editor) {
    const { $from, empty } = editor.state.selection
    if (!empty) return null
    const { parent, parentOffset, pos } = $from
    const found = BEING_NAMED.exec(
      parent.textBetween(Math.max(0, parentOffset - LONGEST_LETTERS), parentOffset, undefined, '\ufffc'),
    )
    const kind = found && KINDS.find(({ char }) => char === found[1])
    const type = kind && editor.schema.nodes[kind.what]
    if (!kind || !type || !parent.type.contentMatch.matchType(type)) return null
    return { kind, letters: found[2]!, range: { from: pos - found[2]!.length - 1, to: pos } }
  }

  private take(editor: Editor): boolean {
    const naming = this.named(editor)
    if (!naming || naming.range.from === this.closedAt) return false
    const items = naming.kind.like(this.desk, naming.letters)
    // The list may be of fewer letters than stand there; then the first of what they mean now.
    const chosen = this.shown.value?.items[this.chosen.value]
    const item = items.find(({ id }) => id === chosen?.id) ?? items[0]
    if (!item) return false
    const attrs = attrsOf(item)
    editor
      .chain()
      .focus()
      .insertContentAt(naming.range, [
        { type: naming.kind.what, attrs },
        { type: 'text', text: ' ' },
      ])
      .run()
    this.shown.value = null
    return true
  }
}
