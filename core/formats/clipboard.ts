import type { OutlineItem } from '../tree/outline'

/** A plain nested list: one topic a line, a tab a level. Line breaks inside a title become spaces. */
export function writeNested(items: readonly OutlineItem[], depth = 0): string {
  return items
    .map(
      item => `${'\t'.repeat(depth)}${item.title.replace(/\s*\n\s*/g, ' ')}\n${writeNested(item.children, depth + 1)}`,
    )
    .join('')
}

export function escapeHtml(text: string): string {
  return text
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;')
    .replace(/'/g, '&#39;')
}

/** The same as an HTML list, so that other programs keep the levels. */
export function writeHtmlList(items: readonly OutlineItem[]): string {
  if (items.length === 0) return ''
  return `<ul>${items.map(item => `<li>${escapeHtml(item.title).replace(/\n/g, '<br>')}${writeHtmlList(item.children)}</li>`).join('')}</ul>`
}
