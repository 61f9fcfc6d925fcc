import { Parser } from 'htmlparser2'
import type { Block, Run, ShownPicture } from './contents'

/*
 * A page (HTML Living Standard, sections 4.3, 4.4 and 4.9) as blocks to be shown in place. Only words, what is strong, slanted or a link, lists, tables
 * and pictures that it was given come through; scripts, styles, forms and frames don't.
 */

/** Blocks and characters at most: what comes after is left. */
const MOST_BLOCKS = 20_000
const MOST_CHARACTERS = 4_000_000
const MOST_CELLS = 200_000

const SILENT = new Set([
  ...[
    'script',
    'style',
    'template',
    'noscript',
    'svg',
    'math',
    'select',
    'button',
    'textarea',
    'iframe',
    'object',
    'title',
  ],
])
const BREAKING = new Set([
  ...['p', 'div', 'blockquote', 'pre', 'dt', 'dd', 'section', 'article', 'main', 'header', 'footer', 'figure'],
  ...[
    'figcaption',
    'aside',
    'nav',
    'address',
    'ul',
    'ol',
    'dl',
    'hr',
    'body',
    'form',
    'fieldset',
    'details',
    'summary',
  ],
])
const STRONG = new Set(['strong', 'b'])
const SLANTED = new Set(['em', 'i', 'cite', 'dfn'])
const isOpen = (url: string): boolean => /^(?:https?:\/\/|mailto:)[^\s<>]+$/i.test(url) && url.length <= 2000

class Reader {
  readonly blocks: Block[] = []
  /** Whether something came after what is shown at most. */
  cut = false
  private runs: Run[] = []
  private silent = 0
  private strong = 0
  private slanted = 0
  private readonly links: (string | undefined)[] = []
  private heading = 0
  private readonly lists: { readonly ordered: boolean; count: number }[] = []
  /** The item whose words come next; null outside of one, and after its first block. */
  private mark: string | null = null
  private tables = 0
  private rows: string[][] = []
  private cell: string | null = null
  private cells = 0
  private characters = 0

  constructor(private readonly pictureOf: (src: string, words: string) => ShownPicture | null) {}

  open(name: string, attributes: Readonly<Record<string, string>>): void {
    if (SILENT.has(name)) this.silent++
    if (this.silent > 0) return
    if (name === 'table') {
      this.end()
      this.tables++
    } else if (name === 'tr' && this.tables === 1) this.rows.push([])
    else if ((name === 'td' || name === 'th') && this.tables === 1) this.beginCell()
    else if (name === 'br') this.text('\n')
    else if (name === 'img') this.picture(attributes)
    else if (STRONG.has(name)) this.strong++
    else if (SLANTED.has(name)) this.slanted++
    else if (name === 'a') this.links.push(isOpen(attributes.href ?? '') ? attributes.href : undefined)
    else if (/^h[1-6]$/.test(name)) {
      this.end()
      this.heading = Number(name[1])
    } else if (name === 'li') {
      this.end()
      const list = this.lists.at(-1)
      if (list) list.count++
      this.mark = list?.ordered ? `${list.count}.` : '•'
    } else if (BREAKING.has(name)) {
      this.end()
      if (name === 'ul' || name === 'ol') this.lists.push({ ordered: name === 'ol', count: 0 })
    }
  }
  close(name: string): void {
    if (SILENT.has(name)) {
      this.silent = Math.max(0, this.silent - 1)
      return
    }
    if (this.silent > 0) return
    if (name === 'table') this.endTable()
    else if (STRONG.has(name)) this.strong = Math.max(0, this.strong - 1)
    else if (SLANTED.has(name)) this.slanted = Math.max(0, this.slanted - 1)
    else if (name === 'a') this.links.pop()
    else if (/^h[1-6]$/.test(name)) {
      this.end()
      this.heading = 0
    } else if (name === 'li' || BREAKING.has(name)) {
      this.end()
      if (name === 'li') this.mark = null
      if (name === 'ul' || name === 'ol') this.lists.pop()
    }
  }
  text(said: string): void {
    if (this.silent > 0 || this.cut) return
    this.characters += said.length
    if (this.characters > MOST_CHARACTERS) {
      this.cut = true
      return
    }
    // Runs of white space are one space (CSS Text 3, section 4.1.1), but for the breaks that were asked for.
    const text = said === '\n' ? said : said.replace(/\s+/g, ' ')
    if (this.cell !== null) {
      this.cell += text
      return
    }
    if (this.tables > 0) return
    if (this.runs.length === 0 && text.trim() === '') return
    const link = this.links.at(-1)
    const last = this.runs.at(-1)
    const run: Run = {
      text,
      ...(this.strong > 0 ? { strong: true } : {}),
      ...(this.slanted > 0 ? { slanted: true } : {}),
      ...(link ? { link } : {}),
    }
    if (last && last.strong === run.strong && last.slanted === run.slanted && last.link === run.link)
      this.runs[this.runs.length - 1] = { ...last, text: last.text + text }
    else this.runs.push(run)
  }
  /** What stands open becomes a block. */
  end(): void {
    if (this.tables > 0) {
      if (this.cell !== null && this.cell !== '' && !this.cell.endsWith('\n')) this.cell += '\n'
      return
    }
    const runs = trimmed(this.runs)
    this.runs = []
    if (runs.length === 0) return
    if (this.heading > 0) this.put({ kind: 'heading', level: this.heading, runs })
    else if (this.mark !== null || this.lists.length > 0) {
      this.put({ kind: 'item', level: Math.max(1, this.lists.length), mark: this.mark ?? '', runs })
      this.mark = this.lists.length > 0 ? '' : null
    } else this.put({ kind: 'paragraph', runs })
  }
  private beginCell(): void {
    this.endCell()
    if (++this.cells > MOST_CELLS) this.cut = true
    else this.cell = ''
  }
  private endCell(): void {
    if (this.cell === null) return
    if (this.rows.length === 0) this.rows.push([])
    this.rows.at(-1)!.push(this.cell.trim())
    this.cell = null
  }
  private endTable(): void {
    if (this.tables === 0) return
    if (this.tables === 1) {
      this.endCell()
      const rows = this.rows.filter(row => row.some(Boolean))
      if (rows.length > 0) this.put({ kind: 'table', rows })
      this.rows = []
    }
    this.tables--
  }
  endCellOf(name: string): void {
    if ((name === 'td' || name === 'th' || name === 'tr') && this.tables === 1) this.endCell()
  }
  private picture({ src, alt }: Readonly<Record<string, string>>): void {
    const found = this.pictureOf(src ?? '', (alt ?? '').trim().slice(0, 300))
    // In a table, pictures come before it.
    if (!found) return
    if (this.tables === 0) this.end()
    this.put({ kind: 'picture', ...found })
  }
  private put(block: Block): void {
    if (this.blocks.length < MOST_BLOCKS) this.blocks.push(block)
    else this.cut = true
  }
}

function trimmed(runs: readonly Run[]): Run[] {
  const kept = runs.map(run => ({ ...run, text: run.text.replace(/ ?\n ?/g, '\n') }))
  if (kept[0]) kept[0] = { ...kept[0], text: kept[0].text.trimStart() }
  const last = kept.at(-1)
  if (last) kept[kept.length - 1] = { ...last, text: last.text.trimEnd() }
  return kept.some(({ text }) => text.trim() !== '') ? kept.filter(({ text }) => text !== '') : []
}

/**
 * A page's blocks. `pictureOf` gives what is shown for a picture's address and words; null leaves it out. `cut`: whether there was more than
 * is shown.
 */
export function blocksOfHtml(
  html: string,
  pictureOf: (src: string, words: string) => ShownPicture | null = () => null,
): { readonly blocks: readonly Block[]; readonly cut: boolean } {
  const reader = new Reader(pictureOf)
  const parser = new Parser({
    onopentag: (name, attributes) => reader.open(name, attributes),
    ontext: text => reader.text(text),
    onclosetag: name => {
      reader.endCellOf(name)
      reader.close(name)
    },
  })
  parser.write(html)
  parser.end()
  reader.end()
  return { blocks: reader.blocks, cut: reader.cut }
}
