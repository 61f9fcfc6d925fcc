import * as Y from 'yjs'
import { NOTE_FRAGMENT, toBase64 } from '../../core/tree/note'

/** A note as somebody's editor would send it: what `build` puts into an empty one. */
export const noteOf = (build: (fragment: Y.XmlFragment) => void): string => {
  const doc = new Y.Doc()
  build(doc.getXmlFragment(NOTE_FRAGMENT))
  return toBase64(Y.encodeStateAsUpdate(doc))
}
/** One paragraph. */
export const plainNote = (text: string): string =>
  noteOf(fragment => {
    const paragraph = new Y.XmlElement('paragraph')
    paragraph.insert(0, [new Y.XmlText(text)])
    fragment.insert(0, [paragraph])
  })
