import { linkPassage } from '../tree/links'
import type { Link } from '../tree/substance'
import { isLive, type Tree } from '../tree/tree'
import type { OutlineItem } from '../tree/outline'
import { type Block, type Slide, wordsOf } from './contents'
import { asPlainParagraph } from './html-document'
import { noteFromMarkdown } from './note-text'

/*
 * A document in passages: its headings, paragraphs and items of lists in reading order, each with a number by which a topic made of it
 * leads back. The same file always has the same passages, since a file is known by what it holds.
 */

export interface Passage {
  /** Which one it is, from 0. */
  readonly at: number
  readonly kind: 'heading' | 'paragraph' | 'item'
  /** Of a heading 1 to 6, of an item how deep its list lies, from 1; 0 for a paragraph. */
  readonly level: number
  readonly text: string
  /** The page or slide it stands on, from 1; null where there are none. */
  readonly page: number | null
}
type Found = Omit<Passage, 'at'>

/** Characters of a passage that are a title by themselves; a longer one is a title and a note. */
const MOST_TITLE = 240
const MOST_PASSAGES = 20_000

/** With their numbers; what is only white space is none. */
const numbered = (found: Iterable<Found>): Passage[] => {
  const passages: Passage[] = []
  for (const one of found) {
    const text = one.text.replace(/\s+/g, ' ').trim()
    if (text !== '' && passages.length < MOST_PASSAGES) passages.push({ ...one, text, at: passages.length })
  }
  return passages
}

export function passagesOfBlocks(blocks: readonly Block[]): Passage[] {
  return numbered(
    blocks.flatMap((block): Found[] => {
      switch (block.kind) {
        case 'heading':
          return [{ kind: 'heading', level: block.level, text: wordsOf(block.runs), page: null }]
        case 'paragraph':
          return [{ kind: 'paragraph', level: 0, text: wordsOf(block.runs), page: null }]
        case 'item':
          return [{ kind: 'item', level: block.level, text: wordsOf(block.runs), page: null }]
        case 'table':
          return block.rows.map(row => ({ kind: 'item', level: 1, text: row.filter(Boolean).join(' · '), page: null }))
        case 'picture':
          return []
      }
    }),
  )
}

export function passagesOfSlides(slides: readonly Slide[]): Passage[] {
  return numbered(
    slides.flatMap(({ title, lines }, i): Found[] => [
      { kind: 'heading', level: 1, text: title, page: i + 1 },
      ...lines.map(({ text, level }): Found => ({ kind: 'item', level: level + 1, text, page: i + 1 })),
    ]),
  )
}

const ITEM = /^(\s*)(?:[-*+•–]|\d{1,3}[.)])\s+(?=\S)/
/** Plain text: paragraphs are parted by empty lines, a line with a mark is an item, one with # a heading. */
export function passagesOfText(text: string): Passage[] {
  const found: Found[] = []
  let lines: string[] = []
  const end = (): void => {
    if (lines.length > 0) found.push({ kind: 'paragraph', level: 0, text: lines.join(' '), page: null })
    lines = []
  }
  for (const line of text.split(/\r\n?|\n/)) {
    const heading = /^(#{1,6})\s+(.+?)\s*#*$/.exec(line)
    const item = ITEM.exec(line)
    if (heading) {
      end()
      found.push({ kind: 'heading', level: heading[1]!.length, text: heading[2]!, page: null })
    } else if (item) {
      end()
      const level = 1 + Math.min(8, Math.floor(item[1]!.replaceAll('\t', '  ').length / 2))
      found.push({ kind: 'item', level, text: line.slice(item[0].length), page: null })
    } else if (line.trim() === '') end()
    else if (found.at(-1)?.kind === 'item' && lines.length === 0 && /^\s/.test(line)) {
      // A line that is set in goes on with the item.
      const last = found.pop()!
      found.push({ ...last, text: `${last.text} ${line.trim()}` })
    } else lines.push(line)
  }
  end()
  return numbered(found)
}

/** A line as it's printed: its words, where its foot stands from the top of the page, and how tall its letters are, in one unit. */
export interface PrintedLine {
  readonly text: string
  readonly y: number
  readonly size: number
}
/**
 * Printed pages have lines only: one that stands further off than lines do, is of another size, or begins with a mark, begins a passage. What
 * is clearly taller than most is a heading. Two halves of a word that was parted at a line's end are one again.
 */
export function passagesOfPages(pages: readonly (readonly PrintedLine[])[]): Passage[] {
  const sizes = pages.flatMap(lines => lines.map(({ size, text }) => ({ size, weight: text.length })))
  const usual = medianOf(sizes)
  const found: Found[] = []
  pages.forEach((lines, i) => {
    let before: PrintedLine | null = null
    for (const line of lines) {
      if (line.text.trim() === '') continue
      const isHeading = line.size > usual * 1.18
      const item = ITEM.exec(line.text)
      const last = found.at(-1)
      const goesOn: boolean =
        before !== null &&
        !item &&
        last?.page === i + 1 &&
        Math.abs(line.size - before.size) < before.size * 0.08 &&
        line.y - before.y > 0 &&
        line.y - before.y < before.size * 1.75
      if (goesOn) found[found.length - 1] = { ...last!, text: joined(last!.text, line.text) }
      else
        found.push({
          kind: isHeading ? 'heading' : item ? 'item' : 'paragraph',
          level: isHeading ? (line.size > usual * 1.6 ? 1 : 2) : item ? 1 : 0,
          text: item && !isHeading ? line.text.slice(item[0].length) : line.text,
          page: i + 1,
        })
      before = line
    }
  })
  return numbered(found)
}
const joined = (a: string, b: string): string =>
  /\p{Ll}[-\u00AD\u2010]$/u.test(a.trimEnd()) && /^\s*\p{Ll}/u.test(b)
    ? a.trimEnd().slice(0, -1) + b.trimStart()
    : `${a} ${b}`
function medianOf(sizes: readonly { readonly size: number; readonly weight: number }[]): number {
  const sorted = [...sizes].sort((a, b) => a.size - b.size)
  let left = sorted.reduce((sum, { weight }) => sum + weight, 0) / 2
  for (const { size, weight } of sorted) {
    left -= weight
    if (left <= 0) return size
  }
  return 0
}

/** Which passages of a file topics were made of: those that a topic outside of the trash links to. */
export function usedPassages(tree: Tree, file: string): Set<number> {
  const used = new Set<number>()
  for (const topic of tree.topics.values()) {
    if (topic.links.length === 0 || !isLive(tree, topic.id)) continue
    for (const { url } of topic.links) {
      const at = linkPassage(url, file)
      if (at !== null) used.add(at)
    }
  }
  return used
}

/** A heading with all that stands under it; an item with its whole list; a paragraph alone. */
export function together(passages: readonly Passage[], at: number): number[] {
  const first = passages[at]
  if (!first || first.kind === 'paragraph') return first ? [at] : []
  const goesOn = (one: Passage | undefined): boolean =>
    one !== undefined &&
    (first.kind === 'item' ? one.kind === 'item' : one.kind !== 'heading' || one.level > first.level)
  let [from, to] = [at, at]
  while (goesOn(passages[to + 1])) to++
  if (first.kind === 'item') while (goesOn(passages[from - 1])) from--
  return Array.from({ length: to - from + 1 }, (_, i) => from + i)
}

/**
 * Items to plant for what was chosen, in the order of the document: what stands under a heading, or deeper in a list, hangs under it, and a
 * list under the words before it that end with a colon. Each has a link back. What is too long for a title goes on in the note.
 */
export function itemsOfPassages(
  passages: readonly Passage[],
  chosen: ReadonlySet<number>,
  linkOf: (passage: Passage) => Link,
): OutlineItem[] {
  interface Growing {
    readonly passage: Passage
    readonly children: Growing[]
  }
  const tops: Growing[] = []
  const open: { readonly rank: number; readonly node: Growing }[] = []
  /** Whether the list that is read just now hangs under the words before it. */
  let hangs = false
  passages.forEach((passage, i) => {
    const before = passages[i - 1]
    if (passage.kind !== 'item') hangs = false
    else if (before?.kind === 'paragraph') hangs = chosen.has(before.at) && before.text.endsWith(':')
    if (!chosen.has(passage.at)) return
    const rank =
      passage.kind === 'heading'
        ? passage.level
        : passage.kind === 'paragraph'
          ? OF_WORDS
          : OF_WORDS - 1 + passage.level + (hangs ? 1 : 0)
    while (open.length > 0 && open.at(-1)!.rank >= rank) open.pop()
    const node: Growing = { passage, children: [] }
    ;(open.at(-1)?.node.children ?? tops).push(node)
    open.push({ rank, node })
  })
  const itemOf = ({ passage, children }: Growing): OutlineItem => {
    const { title, rest } = titled(passage.text)
    const note = rest ? noteFromMarkdown(asPlainParagraph(passage.text)) : null
    return { title, details: { links: [linkOf(passage)], ...(note ? { note } : {}) }, children: children.map(itemOf) }
  }
  return tops.map(itemOf)
}

/** The rank of words under a heading: any heading's is less. */
const OF_WORDS = 10

/** A title of at most so many characters, cut at the end of a sentence where there's one, else of a word. */
function titled(text: string): { readonly title: string; readonly rest: boolean } {
  if (text.length <= MOST_TITLE) return { title: text, rest: false }
  const head = text.slice(0, MOST_TITLE)
  const sentence = /^.{20,}?[.!?…](?=\s)/su.exec(head)?.[0]
  const word = head.replace(/\s+\S*$/, '')
  return { title: sentence ?? `${word.toWellFormed()} …`, rest: true }
}
