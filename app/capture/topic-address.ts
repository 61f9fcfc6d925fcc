import { escapeHtml } from '#core/formats/clipboard'
import { topicOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'

/** Puts the addresses of topics on the clipboard: a link each where links can be pasted, else a line each. */
export async function copyAddresses(desk: Desk, ids: readonly TopicId[]): Promise<void> {
  const links = ids.map(id => ({
    address: `${window.location.origin}/trees/${desk.session.treeId}?topic=${encodeURIComponent(id)}`,
    title: topicOf(desk.tree, id).title.replaceAll('\n', ' ') || 'untitled',
  }))
  const html = links
    .map(({ address, title }) => `<a href="${escapeHtml(address)}">${escapeHtml(title)}</a>`)
    .join('<br>')
  const text = links.map(({ address }) => address).join('\n')
  const part = (type: string, words: string): Record<string, Blob> => ({ [type]: new Blob([words], { type }) })
  try {
    await navigator.clipboard.write([new ClipboardItem({ ...part('text/plain', text), ...part('text/html', html) })])
    desk.say(
      links.length === 1
        ? 'The address of the topic is on the clipboard. It opens for whoever may see the tree.'
        : `${links.length} addresses are on the clipboard.`,
    )
  } catch {
    desk.say(
      links.length === 1
        ? `This browser doesn’t let the page write to the clipboard. The address: ${text}`
        : 'This browser doesn’t let the page write to the clipboard.',
    )
  }
}
