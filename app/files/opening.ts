import { contentsKindOf } from '#core/formats/contents'
import { type Attachment, type Link, linkInWords, targetOf, topicOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import type { SignKind } from '#core/scene/face'

/** As what a file is looked at in the app: a picture as it was drawn here, pages, sound, an office program's document, words; null: it isn't. */
export function viewedAs(
  file: Pick<Attachment, 'type' | 'preview' | 'name'>,
): 'picture' | 'pdf' | 'sound' | 'film' | 'contents' | 'text' | null {
  if (file.preview !== null) return 'picture'
  if (file.type === 'application/pdf') return 'pdf'
  if (file.type.startsWith('audio/')) return 'sound'
  if (file.type.startsWith('video/')) return 'film'
  if (contentsKindOf(file) !== null) return 'contents'
  return file.type === 'text/plain' ? 'text' : null
}
export const canView = (file: Pick<Attachment, 'type' | 'preview' | 'name'>): boolean => viewedAs(file) !== null

export function addressOf(desk: Desk, file: string, name?: string): string {
  return `/api/trees/${desk.session.treeId}/files/${file}${name ? `?name=${encodeURIComponent(name)}` : ''}`
}

/** What somebody opens beforehand counts as read. Nothing hangs on it: without a line it isn't said. */
export function tellOpened(desk: Desk, file: string): void {
  callApi(`/api/trees/${desk.session.treeId}/files/${file}/opened`, { method: 'POST' }).catch(() => {})
}

/** Saves a file under its own name. */
export function download(desk: Desk, { file, name }: Pick<Attachment, 'file' | 'name'>): void {
  tellOpened(desk, file)
  saveAs(addressOf(desk, file, name), name)
}

/** Opens a file over the tree, or saves it where it can't be looked at here. */
export function openFile(desk: Desk, topic: TopicId, file: Attachment): void {
  desk.previewed.value = null
  if (canView(file)) desk.viewing.value = { topic, file }
  else download(desk, file)
}

/** Goes where a link leads. The way back is Esc. */
export function openLink(desk: Desk, link: Link): void {
  const target = targetOf(link.url)
  desk.previewed.value = null
  switch (target?.kind) {
    case 'topic':
      desk.journey.to(target.topic)
      return
    case 'tree':
      if (target.tree === desk.session.treeId) desk.journey.to(target.topic ?? desk.tree.centre)
      else void navigateTo({ path: `/trees/${target.tree}`, query: target.topic ? { topic: target.topic } : {} })
      return
    case 'file': {
      for (const topic of desk.tree.topics.values()) {
        const file = topic.files.find(one => one.file === target.file)
        if (!file) continue
        if (target.passage === null) openFile(desk, topic.id, file)
        else desk.reading.value = { topic: topic.id, file, passage: target.passage }
        return
      }
      desk.say(`“${linkInWords(link)}” isn’t on any topic of this tree any more.`)
      return
    }
    case undefined:
      desk.say('That address leads nowhere safe, so it isn’t opened.')
      return
    default:
      window.open(link.url, '_blank', 'noopener')
  }
}

/** To what a reference shows: a topic here, or one in another tree. */
export function openOriginal(desk: Desk, id: TopicId): void {
  const { original } = desk.guises.of(topicOf(desk.tree, id))
  if (!original) return
  if (original.tree === null) desk.journey.to(original.topic)
  else void navigateTo({ path: `/trees/${original.tree}`, query: { topic: original.topic } })
}

/**
 * What a click on one of a topic's signs does: straight there when there is one way to go, else all of them to choose
 * from.
 */
export function openSign(desk: Desk, id: TopicId, kind: SignKind): void {
  const topic = topicOf(desk.tree, id)
  desk.select(id, { quiet: true })
  // The keyboard stays with the tree, wherever the click leads.
  focusTree()
  if (kind === 'reference' && desk.guises.of(topic).original) openOriginal(desk, id)
  else if (kind === 'link' && topic.links.length === 1) openLink(desk, topic.links[0]!)
  else if (kind === 'file' && topic.files.length === 1) openFile(desk, id, topic.files[0]!)
  else if (kind === 'talk') desk.talking.show(id)
  else if (kind === 'vote' || kind === 'again') {
    desk.sheetOpen.value = true
    whenBelow(document.body, `[data-part="${kind === 'vote' ? 'vote' : 'task'}"]`, part =>
      part.scrollIntoView({ block: 'nearest' }),
    )
  } else desk.previewed.value = { topic: id, pinned: true }
}
