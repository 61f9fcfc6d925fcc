import { topicOf, type TopicId } from '#core/tree'
import type { Desk } from './desk'

/** What a file of a tree is, as the server says after it has looked inside. */
export interface StoredFile {
  readonly id: string
  readonly width: number
  readonly height: number
}

const MOST_BYTES = 25 * 1024 * 1024

/**
 * Sends a picture and puts it in a topic. The server looks inside and draws it anew; what isn't a picture is refused
 * and nothing is changed.
 */
export async function putPicture(desk: Desk, file: File | string, topic: TopicId): Promise<void> {
  if (typeof file !== 'string' && file.size > MOST_BYTES)
    throw new Error('This picture is larger than 25 MB. Nothing was changed.')
  desk.say('Sending the picture …')
  const base = `/api/trees/${desk.session.treeId}/pictures`
  const stored =
    typeof file === 'string'
      ? await callApi<StoredFile>(`${base}/from-address`, { method: 'POST', body: { address: file } })
      : await callApi<StoredFile>(base, {
          method: 'POST',
          body: file,
          headers: { 'Content-Type': 'application/octet-stream' },
        })
  const now = topicOf(desk.tree, topic).picture
  const width = now?.width ?? Math.max(48, Math.min(220, stored.width))
  desk.set('picture', { file: stored.id, width, ratio: stored.height / stored.width, place: now?.place ?? 'above' }, [
    topic,
  ])
  desk.say('The picture is in its topic.', true)
}
