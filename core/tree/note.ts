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

/**
 * The update that takes an update back, by content: what it put in goes, what it took out comes back, and whatever others have
 * typed before or since stays. `before`: the note that it was joined to. Null when it changed nothing.
 */
export function undoNote(before: string | null, update: string): string | null {
  const doc = openNote(before)
  const record = new Y.UndoManager(doc.getXmlFragment(NOTE_FRAGMENT), { trackedOrigins: new Set([update]) })
  Y.applyUpdate(doc, fromBase64(update), update)
  const state = Y.encodeStateVector(doc)
  const undone = record.undo()
  return undone === null ? null : toBase64(Y.encodeStateAsUpdate(doc, state))
}

/** A note as one sees it: its blocks, written out. */
function blocksOf(doc: Y.Doc): string[] {
  return doc
    .getXmlFragment(NOTE_FRAGMENT)
    .toArray()
    .map(block => block.toString())
}

/**
 * The update that makes one note say what another says, block by block: blocks that are the same at the start and the end
 * stay as they are. Null when both say the same.
 */
export function noteBetween(from: string | null, to: string | null): string | null {
  if (from === to) return null
  const [doc, want] = [openNote(from), openNote(to)]
  const [old, now] = [blocksOf(doc), blocksOf(want)]
  let start = 0
  while (start < old.length && start < now.length && old[start] === now[start]) start++
  let end = 0
  while (end < old.length - start && end < now.length - start && old.at(-1 - end) === now.at(-1 - end)) end++
  if (start === old.length && start === now.length) return null
  const state = Y.encodeStateVector(doc)
  const fragment = doc.getXmlFragment(NOTE_FRAGMENT)
  const wanted = want.getXmlFragment(NOTE_FRAGMENT).toArray()
  doc.transact(() => {
    fragment.delete(start, old.length - start - end)
    fragment.insert(
      start,
      wanted.slice(start, wanted.length - end).map(block => (block as Y.XmlElement | Y.XmlText).clone()),
    )
  })
  return toBase64(Y.encodeStateAsUpdate(doc, state))
}

/** Whether two notes say the same, however they came to it. */
export function sameNote(a: string | null, b: string | null): boolean {
  return a === b || blocksOf(openNote(a)).join('\n') === blocksOf(openNote(b)).join('\n')
}
