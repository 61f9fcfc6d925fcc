import type { Attachment, TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'

/** One file on its way to a topic. */
export interface Upload {
  readonly id: string
  readonly name: string
  readonly topic: TopicId
  readonly state: 'waiting' | 'sending' | 'failed'
  /** 0 to 1. */
  readonly part: number
  readonly why: string
}

/** Files that travel at the same time; the others wait. */
const AT_ONCE = 2

/**
 * Sends files to the server and hangs them on their topics as they arrive; each can be stopped, and tried again when
 * it failed.
 */
export class Uploads {
  readonly list = shallowRef<readonly Upload[]>([])
  private readonly files = new Map<string, File>()
  private readonly requests = new Map<string, XMLHttpRequest>()
  private made = 0

  constructor(private readonly desk: Desk) {}

  /** Takes files for a topic. Those that are too large are refused at once; the others go on. */
  add(files: readonly File[], topic: TopicId): void {
    if (!this.desk.guard()) return
    const limit = this.desk.session.fileLimit
    const fresh: Upload[] = []
    for (const file of files) {
      const id = `u${++this.made}`
      const tooLarge = file.size > limit
      this.files.set(id, file)
      fresh.push({
        id,
        name: file.name,
        topic,
        state: tooLarge ? 'failed' : 'waiting',
        part: 0,
        why: tooLarge ? `Larger than ${sizeInWords(limit)}, which is the most a file may have.` : '',
      })
    }
    this.list.value = [...this.list.value, ...fresh]
    this.next()
  }

  private change(id: string, part: Partial<Upload>): void {
    this.list.value = this.list.value.map(one => (one.id === id ? { ...one, ...part } : one))
  }

  private next(): void {
    const sending = this.list.value.filter(one => one.state === 'sending').length
    for (const one of this.list.value.filter(item => item.state === 'waiting').slice(0, Math.max(0, AT_ONCE - sending)))
      this.send(one)
  }

  private send({ id, name, topic }: Upload): void {
    this.change(id, { state: 'sending', part: 0 })
    const request = new XMLHttpRequest()
    this.requests.set(id, request)
    request.open(
      'POST',
      `/api/trees/${this.desk.session.treeId}/attachments?name=${encodeURIComponent(plainName(name))}`,
    )
    request.setRequestHeader('Content-Type', 'application/octet-stream')
    request.upload.onprogress = event =>
      this.change(id, { part: event.lengthComputable ? event.loaded / event.total : 0 })
    request.onload = () => {
      this.requests.delete(id)
      const answer = readAnswer(request.responseText)
      if (request.status !== 200 || !answer.file)
        this.fail(id, answer.error?.message ?? 'The file didn’t arrive. Nothing was changed.')
      else this.hang(id, topic, answer as unknown as Omit<Attachment, 'id'>)
    }
    request.onerror = () => this.fail(id, 'The line broke before the file was there. Nothing was changed.')
    request.send(this.files.get(id))
  }

  private hang(id: string, topic: TopicId, { file, name, type, size, preview }: Omit<Attachment, 'id'>): void {
    this.forget(id)
    this.desk.put(topic, {
      op: 'put',
      topic,
      set: 'files',
      member: { id: `f${id}${file.slice(0, 12)}${Date.now().toString(36)}`, file, name, type, size, preview },
    })
    if (this.list.value.length === 0) this.desk.say(`“${name}” is on its topic.`, true)
    this.next()
  }

  private fail(id: string, why: string): void {
    this.requests.delete(id)
    this.change(id, { state: 'failed', why })
    this.next()
  }

  private forget(id: string): void {
    this.files.delete(id)
    this.requests.delete(id)
    this.list.value = this.list.value.filter(one => one.id !== id)
  }

  /** Stops a file on its way, or takes a failed one off the list. The server keeps nothing of it. */
  stop(id: string): void {
    this.requests.get(id)?.abort()
    this.forget(id)
    this.next()
  }

  retry(id: string): void {
    if (this.list.value.some(one => one.id === id && one.state === 'failed'))
      this.change(id, { state: 'waiting', why: '', part: 0 })
    this.next()
  }

  stopAll(): void {
    for (const { id } of this.list.value) this.stop(id)
  }
}

function readAnswer(text: string): { file?: string; error?: { message: string } } {
  try {
    return JSON.parse(text) as { file?: string }
  } catch {
    return {}
  }
}

/** A name without what leads out of a folder; browsers give plain names, other programs may not. */
export function plainName(name: string): string {
  return (
    name
      .replace(/^.*[/\\]/, '')
      .replace(/[\p{Cc}\p{Cf}]/gu, '')
      .slice(-200) || 'file'
  )
}

export function sizeInWords(bytes: number): string {
  if (bytes < 1000) return `${bytes} bytes`
  if (bytes < 1024 * 1000) return `${Math.round(bytes / 1024)} KB`
  return `${(bytes / 1024 / 1024).toFixed(bytes < 10 * 1024 * 1024 ? 1 : 0)} MB`
}
