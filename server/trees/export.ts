import type { EXPORT_FORMATS } from '#core/contract'
import { writeNested } from '#core/formats/clipboard'
import { writeCsv } from '#core/formats/csv'
import { type Stamp, writeJson } from '#core/formats/json'
import { writeMarkdown } from '#core/formats/markdown'
import { writeOpml } from '#core/formats/opml'
import { toReadable } from '#core/formats/readable'
import type { KeptThread } from '#core/talk/kept-talk'
import { fileStem, topicOf, toOutline, type Tree } from '#core/tree'

/** A tree as a file's text, its media type and a name that any file system takes. */
export function treeToFile(
  tree: Tree,
  format: (typeof EXPORT_FORMATS)[number],
  people: Record<string, string>,
  talk: readonly KeptThread[],
  of: Stamp,
): { text: string; type: string; name: string } {
  const stem = fileStem(topicOf(tree, tree.centre).title)
  switch (format) {
    case 'json':
      return { text: writeJson(tree, people, talk, of), type: 'application/json', name: `${stem}.json` }
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
