import type { EXPORT_FORMATS } from '#core/contract'
import { writeNested } from '#core/formats/clipboard'
import { writeCsv } from '#core/formats/csv'
import { type Stamp, writeJson } from '#core/formats/json'
import { writeMarkdown } from '#core/formats/markdown'
import { writeOpml } from '#core/formats/opml'
import { toReadable } from '#core/formats/readable'
import type { KeptThread } from '#core/talk/kept-talk'
import { fileStem, topicOf, toOutline, type Tree } from '#core/tree'

/** Kinds that are written for reading, with notes as their words. */
export type TextFormat = Exclude<(typeof EXPORT_FORMATS)[number], 'json'>
/** A file's text, its media type and a name that any file system takes. */
export interface TextFile {
  readonly text: string
  readonly type: string
  readonly name: string
}

const stemOf = (tree: Tree): string => fileStem(topicOf(tree, tree.centre).title)

/** A tree in our own format, with all that it has. Its notes go along as they are, unread. */
export const treeToJson = (
  tree: Tree,
  people: Readonly<Record<string, string>>,
  talk: readonly KeptThread[],
  of: Stamp,
): TextFile => ({ text: writeJson(tree, people, talk, of), type: 'application/json', name: `${stemOf(tree)}.json` })

/** A tree as text that other programs read. Notes are read for it: not on the server's own thread. */
export function treeToFile(tree: Tree, format: TextFormat, people: Readonly<Record<string, string>>): TextFile {
  const stem = stemOf(tree)
  switch (format) {
    case 'markdown':
      return { text: writeMarkdown(toReadable(tree, tree.centre)), type: 'text/markdown', name: `${stem}.md` }
    case 'opml':
      return { text: writeOpml(toOutline(tree, tree.centre)), type: 'text/x-opml', name: `${stem}.opml` }
    case 'csv':
      return {
        text: writeCsv([toOutline(tree, tree.centre)], id => people[id] ?? ''),
        type: 'text/csv',
        name: `${stem}.csv`,
      }
    case 'text':
      return { text: writeNested([toReadable(tree, tree.centre)]), type: 'text/plain', name: `${stem}.txt` }
  }
}
