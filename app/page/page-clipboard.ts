import { useEventListener } from '@vueuse/core'
import { readAddress, shorten, topicOf } from '#core/tree'
import { copy, cut, paste } from '~/capture/copying'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'
import { givePicture } from '~/files/pictures'
import { isDialogOpen } from '~/focus/opened'
import { inField } from './page-keys'

/** Copy, cut and paste on the tree page, wherever no field takes them. */
export function usePageClipboard(desk: Desk): void {
  const isOurs = (event: ClipboardEvent): event is ClipboardEvent & { clipboardData: DataTransfer } =>
    desk.status.ready && !inField(event.target) && event.clipboardData !== null

  useEventListener(document, 'copy', event => {
    if (!isOurs(event)) return
    copy(desk, event.clipboardData)
    event.preventDefault()
  })
  useEventListener(document, 'cut', event => {
    if (!isOurs(event)) return
    cut(desk, event.clipboardData)
    event.preventDefault()
  })
  useEventListener(document, 'paste', event => {
    if (!isOurs(event) || isDialogOpen()) return
    const image = [...event.clipboardData.files].find(file => file.type.startsWith('image/'))
    const files = [...event.clipboardData.files].filter(file => file !== image)
    const text = event.clipboardData.getData('text/plain')
    if (image && !text) {
      event.preventDefault()
      void givePicture(desk, image, null)
    } else if (files.length > 0 && !text) {
      event.preventDefault()
      desk.uploads.add(files, desk.focus.value)
    } else if (pasteAddress(desk, text) || paste(desk, event.clipboardData)) event.preventDefault()
  })
}

/** One address and nothing else, pasted on a topic, becomes a link of it. */
function pasteAddress(desk: Desk, text: string): boolean {
  const said = text.trim()
  if (!/^(?:[a-z][a-z0-9+.-]*:|www\.|[^\s@]+@)/i.test(said) || said.includes('\n')) return false
  const url = readAddress(said, location.origin)
  if (!url || !desk.guard()) return false
  const topic = desk.focus.value
  const member = { id: newId(), url: url.toWellFormed(), title: '' }
  if (!desk.run({ changes: [{ op: 'put', topic, set: 'links', member }] })) return false
  desk.say(`“${shorten(url, 60)}” is a link of “${shorten(topicOf(desk.tree, topic).title, 30)}” now.`, true)
  return true
}
