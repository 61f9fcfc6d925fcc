import { Parser } from 'htmlparser2'
import { checkSize, Unreadable } from '../capture/nested'
import { LIMITS } from '../tree/limits'
import type { OutlineItem } from '../tree/outline'
import type { Left } from './markdown'
import { noteFromMarkdown } from './note-text'

/*
 * A written document, as HTML has it (HTML Living Standard, section 4.3: headings, lists, tables, paragraphs): headings and items of lists
 * are topics, paragraphs are the note of what they stand under, a table's rows are topics with the other cells below.
 */

export interface ReadDocument {
  /** What the document calls itself; '' where it doesn't. */
  readonly title: string
  readonly items: OutlineItem[]
  /** Whether it has headings, lists or tables, and not paragraphs alone. */
  readonly structured: boolean
  readonly left: Left[]
}

/** A picture that was drawn anew, as the file that it becomes: SHA-256 of its bytes, media type, bytes, pixels. */
export interface DrawnPicture {
  readonly file: string
  readonly type: string
  readonly size: number
  readonly width: number
  readonly height: number
}
type PictureOf = (src: string) => DrawnPicture | null

interface Node {
  title: string
  /** Paragraphs, as Markdown. */
  readonly note: string[]
  readonly children: Node[]
  readonly links: { url: string; title: string }[]
  readonly pictures: DrawnPicture[]
}
const emptyNode = (title = ''): Node => ({ title, note: [], children: [], links: [], pictures: [] })
/** Ranks of what is open: headings 1 to 6; lists and their items stand below any heading. */
const LIST = 100
const MOST_CHARACTERS = 12_000_000
const MOST_LINKS = 50
/** Pictures of one topic. */
const MOST_PICTURES = 20

const PARAGRAPHS = new Set([
  'p',
  'div',
  'blockquote',
  'pre',
  'dt',
  'dd',
  'section',
  'article',
  'main',
  'header',
  'footer',
  'figcaption',
])
const SILENT = new Set([
  'script',
  'style',
  'template',
  'noscript',
  'nav',
  'svg',
  'math',
  'select',
  'button',
  'textarea',
])
const STRONG: Readonly<Record<string, string>> = { strong: '**', b: '**', em: '*', i: '*' }
/** Notes at the foot, as word processors' documents come out of their reader. */
const FOOTNOTE = /^#?(?:foot|end)note-(?!ref)/

const escaped = (text: string): string => text.replace(/([\\`*_[\]<>#&])/g, '\\$1')
/** What would make a list, a rule or a table of a paragraph by how it begins (CommonMark 0.31, chapter 4) doesn't. */
const asParagraph = (marked: string): string =>
  marked.replace(/^(\d{1,9})(?=[.)])/, '$1\\').replace(/^(?=[-+=|~])/, '\\')
/** Words as they are, in Markdown. */
export const asPlainParagraph = (text: string): string => asParagraph(escaped(text))
const isOpen = (url: string): boolean => /^(?:https?:\/\/|mailto:)[^\s<>]+$/i.test(url) && url.length <= 2000

class Reader {
  readonly root: Node = emptyNode()
  readonly left = new Map<Left['what'], number>()
  title = ''
  /** Whether anything but paragraphs was met. */
  structured = false
  private readonly open: { rank: number; node: Node }[] = [{ rank: 0, node: this.root }]
  private silent = 0
  private lists = 0
  private inTitle = false
  private plain = ''
  private marked = ''
  private link: string | null = null
  private row: { cells: string[]; head: boolean } | null = null
  private heads: string[] = []

  constructor(private readonly pictureOf: PictureOf) {}

  private get at(): Node {
    return this.open.at(-1)!.node
  }
  private leave(what: Left['what']): void {
    this.left.set(what, (this.left.get(what) ?? 0) + 1)
  }
  private push(rank: number): void {
    while (this.open.length > 1 && this.open.at(-1)!.rank >= rank) this.open.pop()
    const node = emptyNode()
    this.at.children.push(node)
    this.open.push({ rank, node })
    if (this.open.length > LIMITS.depth / 2)
      throw new Unreadable('This goes too many levels deep. Nothing was changed.')
  }
  private take(): { plain: string; marked: string } {
    const said = {
      plain: this.plain.replace(/\s+/g, ' ').trim(),
      marked: this.marked.replace(/[ \t\r\n]+/g, ' ').trim(),
    }
    this.plain = this.marked = ''
    return said
  }
  private picture(src: string): void {
    const drawn = this.pictureOf(src)
    if (drawn && this.at.pictures.length < MOST_PICTURES) this.at.pictures.push(drawn)
    else this.leave('image')
  }
  /** What was read so far goes where it belongs: the title of an item that has none, else a paragraph of the note. */
  private flush(): void {
    const { plain, marked } = this.take()
    if (plain === '') return
    const { rank, node } = this.open.at(-1)!
    if (rank >= LIST && node.title === '') node.title = plain
    else node.note.push(asParagraph(marked))
  }

  readonly handler = {
    onopentag: (name: string, attributes: Record<string, string>): void => {
      if (name === 'title') this.inTitle = true
      if (SILENT.has(name) || this.silent > 0) {
        this.silent++
        return
      }
      if (FOOTNOTE.test(attributes.id ?? '') || (name === 'a' && FOOTNOTE.test(attributes.href ?? ''))) {
        if (name !== 'a') this.leave('footnote')
        this.silent++
        return
      }
      if (/^h[1-6]$/.test(name)) {
        this.flush()
        this.lists = 0
        this.structured = true
        // The title of a word processor's document stands above all of its headings.
        if (attributes.class === 'title' && this.title === '') this.open.push({ rank: 0.5, node: this.root })
        else this.push(Number(name[1]))
      } else if (name === 'ul' || name === 'ol') {
        this.flush()
        this.lists++
      } else if (name === 'li') {
        this.flush()
        this.structured = true
        this.push(LIST + Math.max(1, this.lists))
      } else if (name === 'tr') {
        this.flush()
        this.row = { cells: [], head: true }
      } else if (name === 'table') {
        this.flush()
        this.heads = []
      } else if (name === 'td' || name === 'th') {
        this.take()
        if (this.row && name === 'td') this.row.head = false
      } else if (name === 'img') this.picture(attributes.src ?? '')
      else if (name === 'br') {
        this.plain += ' '
        this.marked += ' '
      } else if (name in STRONG) this.marked += STRONG[name]!
      else if (name === 'a') {
        this.link = isOpen(attributes.href ?? '') ? attributes.href! : null
        if (this.link) this.marked += '['
      } else if (PARAGRAPHS.has(name) && !this.row) this.flush()
    },
    ontext: (text: string): void => {
      if (this.inTitle && this.title === '') this.title = text.replace(/\s+/g, ' ').trim().slice(0, 300)
      if (this.silent > 0 || this.inTitle) return
      this.plain += text
      this.marked += escaped(text)
    },
    onclosetag: (name: string): void => {
      if (name === 'title') this.inTitle = false
      if (this.silent > 0) {
        this.silent--
        return
      }
      if (/^h[1-6]$/.test(name)) {
        const { plain } = this.take()
        const { rank, node } = this.open.at(-1)!
        if (rank === 0.5) {
          this.title = plain
          this.open.pop()
        } else if (rank <= 6 && node.title === '') node.title = plain
      } else if (name === 'li') {
        this.flush()
        while (this.open.length > 1 && this.open.at(-1)!.rank > LIST + this.lists) this.open.pop()
        if (this.open.at(-1)!.rank === LIST + this.lists) this.open.pop()
      } else if (name === 'ul' || name === 'ol') {
        this.flush()
        while (this.open.length > 1 && this.open.at(-1)!.rank >= LIST + this.lists) this.open.pop()
        this.lists = Math.max(0, this.lists - 1)
      } else if (name === 'td' || name === 'th') this.row?.cells.push(this.take().plain)
      else if (name === 'tr') this.endRow()
      else if (name in STRONG) this.marked += STRONG[name]!
      else if (name === 'a') {
        if (this.link) {
          this.marked += `](<${this.link}>)`
          const { rank, node } = this.open.at(-1)!
          if (rank >= LIST && node.title === '' && node.links.length < MOST_LINKS)
            node.links.push({ url: this.link, title: this.plain.replace(/\s+/g, ' ').trim().slice(0, 200) })
        }
        this.link = null
      } else if (PARAGRAPHS.has(name) && !this.row) this.flush()
    },
  }

  /** A row is a topic by its first cell; the others stand below it, behind what their column is called. */
  private endRow(): void {
    const row = this.row
    this.row = null
    if (!row || row.cells.every(cell => cell === '')) return
    if (row.head && this.heads.length === 0) {
      this.heads = row.cells
      return
    }
    this.structured = true
    const [title = '', ...rest] = row.cells
    const children = rest.flatMap((cell, i) => {
      const head = this.heads[i + 1]
      return cell === '' ? [] : [emptyNode(head ? `${head}: ${cell}` : cell)]
    })
    this.at.children.push({ ...emptyNode(title || 'untitled'), children })
  }

  end(): void {
    this.flush()
  }
}

/**
 * Reads a document. `pictureOf` gives what was made of a picture, by its address; null leaves it behind. Throws `Unreadable` for one that is
 * too large or nests too deeply.
 */
export function readHtmlDocument(html: string, pictureOf: PictureOf = () => null): ReadDocument {
  if (html.length > MOST_CHARACTERS) throw new Unreadable('This document is too long. Nothing was changed.')
  const reader = new Reader(pictureOf)
  const parser = new Parser(reader.handler, { decodeEntities: true })
  parser.write(html)
  parser.end()
  reader.end()
  const { root, structured, left } = reader
  const top = structured ? root.children : root.note.map(said => emptyNode(unescaped(said)))
  const items = top.flatMap(itemOf)
  // What stands before the first heading belongs to the whole.
  const intro = detailsOf({ ...root, note: structured ? root.note : [] })
  checkSize(items)
  return {
    title: reader.title,
    structured,
    items: Object.keys(intro).length === 0 ? items : [{ title: reader.title, details: intro, children: items }],
    left: Array.from(left, ([what, count]) => ({ what, count })),
  }
}

const unescaped = (said: string): string => said.replace(/\\([\\`*_[\]<>#&\-+=|~.)])/g, '$1')

/** Headings and items without words give what is below to whoever holds them. */
function itemOf(node: Node): OutlineItem[] {
  const { title, note, children, pictures } = node
  const below = children.flatMap(itemOf)
  if (title === '' && note.length === 0 && pictures.length === 0) return below
  return [{ title, details: detailsOf(node), children: below }]
}
/** The first picture shows in its topic, the others hang on it. */
function detailsOf({ note, links, pictures }: Node): NonNullable<OutlineItem['details']> {
  const said = noteFromMarkdown(note.join('\n\n'))
  const [first, ...more] = pictures
  return {
    ...(said === null ? {} : { note: said }),
    ...(links.length > 0 ? { links: links.map((link, i) => ({ id: `l${i + 1}`, ...link })) } : {}),
    ...(first
      ? {
          picture: {
            ...{ file: first.file, ratio: ratioOf(first), place: 'above' as const },
            width: Math.max(48, Math.min(220, first.width)),
          },
        }
      : {}),
    ...(more.length > 0
      ? {
          files: more.map((one, i) => ({
            ...{ id: `p${i + 2}`, file: one.file, type: one.type, size: one.size },
            name: `Picture ${i + 2}.${one.type === 'image/jpeg' ? 'jpg' : 'webp'}`,
            preview: { file: one.file, ratio: ratioOf(one) },
          })),
        }
      : {}),
  }
}
const ratioOf = ({ width, height }: DrawnPicture): number => Math.max(0.01, Math.min(100, height / width))
