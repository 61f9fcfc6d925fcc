import { isReply, takeReply } from '~/meeting/replies'
import { isLive, topicOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'

/** What a file of a tree is, as the server says after it has looked inside. */
export interface StoredFile {
  readonly id: string
  readonly width: number
  readonly height: number
}

/** A picture of the shelf, by its id there. */
export interface OnShelf {
  readonly shelf: string
}

/** A file, a web address, or one of the shelf. */
export type BroughtPicture = File | string | OnShelf

const MOST_BYTES = 25 * 1024 * 1024

/**
 * Sends a picture and puts it in a topic. The server looks inside and draws it anew; what isn't a picture is refused
 * and nothing is changed.
 */
export async function putPicture(desk: Desk, what: BroughtPicture, topic: TopicId): Promise<void> {
  const stored = await sendPicture(desk, what)
  // Somebody may have taken it away while the picture was on its way.
  if (!isLive(desk.tree, topic)) {
    desk.say('The topic is gone. The picture was put nowhere.')
    return
  }
  const now = topicOf(desk.tree, topic).picture
  const width = now?.width ?? Math.max(48, Math.min(220, stored.width))
  desk.set('picture', { file: stored.id, width, ratio: stored.height / stored.width, place: now?.place ?? 'above' }, [
    topic,
  ])
  desk.say('The picture is in its topic.', true)
}

/** Has the server look into a picture and keep it with the tree. Rejects with why not, in words. */
export async function sendPicture(desk: Desk, file: BroughtPicture): Promise<StoredFile> {
  if (file instanceof File && file.size > MOST_BYTES)
    throw new Error('This picture is larger than 25 MB. Nothing was changed.')
  desk.say('Sending the picture …')
  const base = `/api/trees/${desk.session.treeId}/pictures`
  return typeof file === 'string'
    ? await callApi<StoredFile>(`${base}/from-address`, { method: 'POST', body: { address: file } })
    : 'shelf' in file
      ? await callApi<StoredFile>(`${base}/from-shelf`, { method: 'POST', body: { picture: file.shelf } })
      : await callApi<StoredFile>(base, {
          method: 'POST',
          body: file,
          headers: { 'Content-Type': 'application/octet-stream' },
        })
}

/** A picture that was chosen, dropped or pasted, into a topic or the one that has the focus. What goes wrong is said. */
export async function givePicture(desk: Desk, file: File | string, topic: TopicId | null): Promise<void> {
  if (!desk.guard()) return
  try {
    await putPicture(desk, file, topic ?? desk.focus.value)
  } catch (error) {
    desk.say(error instanceof Error ? error.message : 'The picture didn’t arrive. Nothing was changed.')
  }
}

/** Files that were dropped on a topic, or on none: then on the one that has the focus. */
export async function takeFiles(desk: Desk, files: readonly File[], topic: TopicId | null): Promise<void> {
  const only = files.length === 1 ? files[0]! : null
  // An answer to an invitation isn't hung on a topic: it's taken.
  if (only && (await isReply(only))) {
    await takeReply(desk, only)
    return
  }
  // One picture that is dropped shows in its topic; everything else hangs on it as a file.
  const at = topic ?? desk.focus.value
  if (only && /^image\/(?:png|jpeg|gif|webp|avif|tiff)$/.test(only.type)) await givePicture(desk, only, at)
  else if (files.length > 0) desk.uploads.add([...files], at)
}
