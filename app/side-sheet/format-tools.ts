import type { Editor } from '@tiptap/core'

/** A button that forms text. */
export interface FormatTool {
  readonly name: string
  readonly icon: string
  /** Whether what is selected has that form. */
  readonly on: boolean
  readonly run: () => void
}

const FORMS = {
  bold: ['Bold', 'lucide:bold', chain => chain.toggleBold()],
  italic: ['Slanted', 'lucide:italic', chain => chain.toggleItalic()],
  heading: ['Heading', 'lucide:heading', chain => chain.toggleHeading({ level: 2 })],
  bulletList: ['List', 'lucide:list', chain => chain.toggleBulletList()],
  orderedList: ['Numbered list', 'lucide:list-ordered', chain => chain.toggleOrderedList()],
  taskList: ['Tasks', 'lucide:list-checks', chain => chain.toggleTaskList()],
  blockquote: ['Quote', 'lucide:text-quote', chain => chain.toggleBlockquote()],
} satisfies Record<
  string,
  readonly [string, string, (chain: ReturnType<Editor['chain']>) => ReturnType<Editor['chain']>]
>

/** The buttons for these forms, as they stand where the cursor is; a press has the editor made, where there was none to read. */
export function formatTools(
  editor: Editor | undefined,
  make: () => Editor,
  forms: readonly (keyof typeof FORMS)[],
): FormatTool[] {
  return forms.map(form => {
    const [name, icon, toggle] = FORMS[form]
    return { name, icon, on: editor?.isActive(form) ?? false, run: () => void toggle(make().chain().focus()).run() }
  })
}
