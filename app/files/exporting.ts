import { fileStem, toOutline, topicOf } from '#core/tree'
import type { Desk } from '~/desk/desk'

export const LEFT_FORMATS = ['markdown', 'opml', 'csv', 'text'] as const
export type LeftFormat = (typeof LEFT_FORMATS)[number]
export const LEFT_NAMES: Record<LeftFormat, string> = {
  markdown: 'Markdown',
  opml: 'OPML',
  csv: 'Table (CSV)',
  text: 'Plain text',
}

/**
 * Saves what the filter leaves, the matches and the path to each, as a file. The formats are loaded when they're first
 * asked for.
 */
export async function saveLeft(desk: Desk, format: LeftFormat): Promise<void> {
  const {
    tree,
    finding: { kept },
  } = desk
  const { toReadable } = await import('#core/formats/readable')
  const left = toOutline(tree, tree.centre, kept ?? undefined)
  const readable = toReadable(tree, tree.centre, kept ?? undefined)
  const [text, type, end] = await (async (): Promise<[string, string, string]> => {
    switch (format) {
      case 'markdown':
        return [(await import('#core/formats/markdown')).writeMarkdown(readable), 'text/markdown', 'md']
      case 'opml':
        return [(await import('#core/formats/opml')).writeOpml(left), 'text/x-opml', 'opml']
      case 'csv':
        return [(await import('#core/formats/csv')).writeCsv([left], desk.nameOf), 'text/csv', 'csv']
      case 'text':
        return [(await import('#core/formats/clipboard')).writeNested([readable]), 'text/plain', 'txt']
    }
  })()
  const address = URL.createObjectURL(new Blob([text], { type }))
  saveAs(address, `${fileStem(topicOf(tree, tree.centre).title)}.${end}`)
  setTimeout(() => URL.revokeObjectURL(address), 10_000)
}
