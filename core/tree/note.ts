import * as Y from 'yjs'

/** The name of the rich-text fragment inside a note's Yjs document. */
export const NOTE_FRAGMENT = 'note'

export function toBase64(bytes: Uint8Array): string {
  let binary = ''
  for (let i = 0; i < bytes.length; i += 0x8000) binary += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
  return btoa(binary)
}

export function fromBase64(text: string): Uint8Array {
  return Uint8Array.from(atob(text), c => c.charCodeAt(0))
}

/**
 * Joins an update to a note. Order and repetition don't matter to the outcome (Yjs updates commute). Throws on bytes
 * that are no update.
 */
export function mergeNote(note: string | null, update: string): string {
  const bytes = fromBase64(update)
  if (note === null) {
    Y.decodeUpdate(bytes)
    return update
  }
  return toBase64(Y.mergeUpdates([fromBase64(note), bytes]))
}

/** A fresh Yjs document that holds the note. */
export function openNote(note: string | null): Y.Doc {
  const doc = new Y.Doc()
  if (note !== null) Y.applyUpdate(doc, fromBase64(note))
  return doc
}

const BLOCKS = new Set([
  'paragraph',
  'heading',
  'codeBlock',
  'blockquote',
  'listItem',
  'taskItem',
  'tableCell',
  'tableHeader',
  'tableRow',
])

interface Delta {
  insert: unknown
}

/** The words of a part of a note, each block on a line of its own. */
export function wordsIn(node: Y.XmlElement | Y.XmlFragment): string {
  return node
    .toArray()
    .map(child => {
      if (child instanceof Y.XmlText)
        return (child.toDelta() as Delta[])
          .map(piece => (typeof piece.insert === 'string' ? piece.insert : ''))
          .join('')
      if (!(child instanceof Y.XmlElement)) return ''
      return child.nodeName === 'hardBreak' ? '\n' : wordsIn(child) + (BLOCKS.has(child.nodeName) ? '\n' : '')
    })
    .join('')
}

/** A note's words alone, a line a block. */
export function noteWords(note: string | null): string {
  return note === null
    ? ''
    : wordsIn(openNote(note).getXmlFragment(NOTE_FRAGMENT))
        .replace(/\n{2,}/g, '\n')
        .trim()
}
