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

/** Whether something is a note that can be read. */
export function isNote(note: string): boolean {
  try {
    openNote(note)
    return true
  } catch {
    return false
  }
}

/** A fresh Yjs document that holds the note. */
export function openNote(note: string | null): Y.Doc {
  const doc = new Y.Doc()
  if (note !== null) Y.applyUpdate(doc, fromBase64(note))
  return doc
}

/** Levels that a note may nest to be read block by block. The editor makes a handful. */
const DEEPEST_NOTE = 60

const ofWords = (text: string): Y.XmlFragment => {
  const fragment = new Y.Doc().getXmlFragment(NOTE_FRAGMENT)
  const paragraph = new Y.XmlElement('paragraph')
  paragraph.insert(0, [new Y.XmlText(text)])
  fragment.insert(0, [paragraph])
  return fragment
}

/** A note of plain text, a paragraph a line; null where there are no words. The same words give other bytes each time. */
export function plainNote(text: string): string | null {
  const lines = text.split('\n').map(line => line.trim())
  if (!lines.some(Boolean)) return null
  const doc = new Y.Doc()
  doc.getXmlFragment(NOTE_FRAGMENT).insert(
    0,
    lines.filter(Boolean).map(line => {
      const paragraph = new Y.XmlElement('paragraph')
      paragraph.insert(0, [new Y.XmlText(line.toWellFormed())])
      return paragraph
    }),
  )
  return toBase64(Y.encodeStateAsUpdate(doc))
}

/**
 * A note's nodes for reading. What can't be read says so in a paragraph, and what nests so deeply that going down into it would end
 * badly comes as its bare words: no note keeps a tree from being shown or exported.
 */
export function readNote(note: string | null): Y.XmlFragment {
  let fragment: Y.XmlFragment
  try {
    fragment = openNote(note).getXmlFragment(NOTE_FRAGMENT)
  } catch {
    return ofWords('(This note can’t be read.)')
  }
  const found: string[] = []
  let deep = false
  const left: { node: unknown; level: number }[] = [{ node: fragment, level: 0 }]
  for (let at = left.pop(); at; at = left.pop()) {
    deep ||= at.level > DEEPEST_NOTE
    if (at.node instanceof Y.XmlText) found.push(at.node.toString())
    else if (at.node instanceof Y.XmlFragment)
      for (const node of at.node.toArray().reverse()) left.push({ node, level: at.level + 1 })
  }
  return deep ? ofWords(found.join('\n')) : fragment
}

/**
 * A note that says the same but for a text, in a document of its own: nothing of what was ever typed and deleted in the old one is
 * in it. `found`: whether the text was in it.
 */
export function noteWithout(note: string, text: string, instead: string): { note: string; found: boolean } {
  const fragment = readNote(note)
  let found = false
  const left: unknown[] = [fragment]
  for (let at = left.pop(); at; at = left.pop()) {
    if (at instanceof Y.XmlText) {
      const words = (at.toDelta() as Delta[])
        .map(({ insert }) => (typeof insert === 'string' ? insert : '\u0000'))
        .join('')
      // From the end, so that what is replaced moves nothing that is still to come.
      for (let from = words.lastIndexOf(text); from >= 0; from = from === 0 ? -1 : words.lastIndexOf(text, from - 1)) {
        found = true
        at.delete(from, text.length)
        at.insert(from, instead)
      }
    } else if (at instanceof Y.XmlFragment) left.push(...at.toArray())
  }
  const doc = new Y.Doc()
  doc.getXmlFragment(NOTE_FRAGMENT).insert(
    0,
    fragment.toArray().map(block => (block as Y.XmlElement | Y.XmlText).clone()),
  )
  return { note: toBase64(Y.encodeStateAsUpdate(doc)), found }
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
    : wordsIn(readNote(note))
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
function blocksOf(note: string | null): string[] {
  return readNote(note)
    .toArray()
    .map(block => block.toString())
}

/**
 * The update that makes one note say what another says, block by block: blocks that are the same at the start and the end
 * stay as they are. Null when both say the same.
 */
export function noteBetween(from: string | null, to: string | null): string | null {
  if (from === to) return null
  const doc = openNote(from)
  const [old, now] = [blocksOf(from), blocksOf(to)]
  let start = 0
  while (start < old.length && start < now.length && old[start] === now[start]) start++
  let end = 0
  while (end < old.length - start && end < now.length - start && old.at(-1 - end) === now.at(-1 - end)) end++
  if (start === old.length && start === now.length) return null
  const state = Y.encodeStateVector(doc)
  const fragment = doc.getXmlFragment(NOTE_FRAGMENT)
  const wanted = readNote(to).toArray()
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
  return a === b || blocksOf(a).join('\n') === blocksOf(b).join('\n')
}
