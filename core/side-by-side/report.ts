import { micromark } from 'micromark'
import { gfmStrikethrough, gfmStrikethroughHtml } from 'micromark-extension-gfm-strikethrough'
import type { ListItem, PhrasingContent, Root, RootContent } from 'mdast'
import { printMarkdown } from '../formats/note-text'
import { ENTRY_KINDS, type Entry, type EntryLine } from './entries'
import { runsBetween } from '../compare/words'

/*
 * A comparison to be kept or passed on, as Markdown (CommonMark 0.31 with strikethrough, github.github.com/gfm section 6.5), and as
 * one page of HTML made from that.
 */

export interface ReportHead {
  readonly title: string
  /** What is here and what is there, in words. */
  readonly here: string
  readonly there: string
  /** BCP 47 of the words. */
  readonly language: string
}

const text = (value: string): PhrasingContent => ({ type: 'text', value })
const strong = (value: string): PhrasingContent => ({ type: 'strong', children: [text(value)] })
const struck = (value: string): PhrasingContent => ({ type: 'delete', children: [text(value)] })
const paragraph = (...children: PhrasingContent[]): RootContent => ({ type: 'paragraph', children })
const item = (children: PhrasingContent[], below: ListItem[] = []): ListItem => ({
  type: 'listItem',
  spread: false,
  children: [
    { type: 'paragraph', children },
    ...(below.length > 0 ? [{ type: 'list' as const, ordered: false, spread: false, children: below }] : []),
  ],
})

/** White space at the edge of marked words ends up outside of the marks, which Markdown doesn't take there. */
function marked(words: string, mark: (value: string) => PhrasingContent): PhrasingContent[] {
  const [, before, core, after] = /^(\s*)(.*?)(\s*)$/s.exec(words)!
  return [before ? text(before) : [], core ? mark(core!) : [], after ? text(after) : []].flat()
}

function lineItem({ name, there, here, runs }: EntryLine): ListItem {
  // Marks hold only where white space bounds them, so words count here from space to space.
  const words = runs
    ? runsBetween(there.match(/\S+|\s+/g) ?? [], here.match(/\S+|\s+/g) ?? []).flatMap(({ kind, items }) => {
        const flat = items.join('').replace(/\s+/g, ' ')
        return kind === 'same' ? [text(flat)] : [...marked(flat, kind === 'gone' ? struck : strong), text(' ')]
      })
    : [
        ...(there ? marked(there, struck) : [text('none')]),
        text(' → '),
        ...(here ? marked(here, strong) : [text('none')]),
      ]
  return item([text(`${name}: `), ...words])
}

/** How many entries of each kind there are: “2 only here · 1 moved”. */
export const countsInWords = (entries: readonly Entry[]): string =>
  ENTRY_KINDS.map(kind => [kind, entries.filter(({ kinds }) => kinds.includes(kind)).length] as const)
    .filter(([, count]) => count > 0)
    .map(([kind, count]) => `${count} ${kind}`)
    .join(' · ')

/** Entries by the branch below the centre that they stand in, in order. */
export function byBranch(entries: readonly Entry[]): { readonly title: string; readonly entries: readonly Entry[] }[] {
  const groups = new Map<string, Entry[]>()
  for (const entry of entries) {
    const title = entry.path[1] ?? entry.title
    const group = groups.get(title)
    if (group) group.push(entry)
    else groups.set(title, [entry])
  }
  return [...groups].map(([title, of]) => ({ title: title || 'untitled', entries: of }))
}

export function reportMarkdown(head: ReportHead, entries: readonly Entry[]): string {
  const children: RootContent[] = [
    { type: 'heading', depth: 1, children: [text(`${head.title || 'untitled'}, compared`)] },
    paragraph(strong('Here: '), text(head.here)),
    paragraph(strong('There: '), text(head.there)),
    paragraph(text(entries.length === 0 ? 'Nothing is different.' : countsInWords(entries))),
  ]
  for (const branch of byBranch(entries)) {
    children.push({ type: 'heading', depth: 2, children: [text(branch.title)] })
    children.push({
      type: 'list',
      ordered: false,
      spread: false,
      children: branch.entries.map(({ kinds, title, path, lines }) =>
        item(
          [
            strong(kinds.join(', ')),
            text(` ${title || 'untitled'}`),
            ...(path.length > 2 ? [text(` (in ${path.slice(2).join(' › ')})`)] : []),
          ],
          lines.map(lineItem),
        ),
      ),
    })
  }
  const root: Root = { type: 'root', children }
  return printMarkdown(root)
}

const escaped = (value: string): string =>
  value.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')

/** A page that stands by itself and fetches nothing. */
export function reportHtml(head: ReportHead, entries: readonly Entry[]): string {
  const body = micromark(reportMarkdown(head, entries), {
    extensions: [gfmStrikethrough()],
    htmlExtensions: [gfmStrikethroughHtml()],
  })
  return `<!doctype html>
<html lang="${escaped(head.language)}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escaped(head.title || 'untitled')}, compared</title>
<style>
body { font: 16px/1.5 system-ui, sans-serif; max-width: 46em; margin: 3em auto; padding: 0 1em; color: #222; background: #fff }
del { color: #9a3412 } li strong { color: #166534 } h2 { margin-top: 2em; border-bottom: 1px solid #ccc }
</style>
</head>
<body dir="auto">
${body}
</body>
</html>
`
}
