import type { EditorOptions } from '@tiptap/core'
import { Editor } from '@tiptap/vue-3'
import type { ComponentPublicInstance, ShallowRef } from 'vue'

/** An editor that is made when there is something to read in it, or somebody comes to it. */
export interface LateEditor {
  readonly editor: Readonly<ShallowRef<Editor | undefined>>
  /** Where its text will stand. */
  readonly place: (host: Element | ComponentPublicInstance | null) => void
  /** The editor, made now if it wasn't yet. */
  readonly make: () => Editor
  /** Somebody comes: the keys are in it when this returns. */
  readonly come: () => void
}

/**
 * An editor is the heaviest thing there is to make beside a topic, and most have nothing to read: with every step through the tree two
 * would be made for nobody. `atOnce`: there is something to read. It's made within the event that asks for it, so that no key comes
 * between.
 */
export function useLateEditor(options: () => Partial<EditorOptions>, atOnce: boolean): LateEditor {
  let host: Element | null = null
  const editor = shallowRef<Editor>()
  const make = (): Editor => (editor.value ??= new Editor({ ...options(), element: host }))
  onMounted(() => atOnce && make())
  onBeforeUnmount(() => editor.value?.destroy())
  return {
    editor,
    place: element => {
      host = element as Element | null
    },
    make,
    come: () => make().view.focus(),
  }
}
