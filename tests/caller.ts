import { randomBytes } from 'node:crypto'
import WebSocket from 'ws'
import type { ClientMessage, ServerMessage } from '../core/contract'
import type { Change, Snapshot } from '../core/tree'

export interface Answer<T> {
  readonly status: number
  readonly data: T
  readonly headers: Headers
}

/** What an answer holds that has to be one: what it says instead is what failed. */
function must<T>({ status, data }: Answer<T>): T {
  if (status >= 300) throw new Error(`${status} ${JSON.stringify(data)}`)
  return data
}

/** Somebody who uses the API: keeps a cookie and speaks JSON. */
export class Caller {
  /** The session's. */
  cookie = ''
  /** All that were set, as a browser keeps them. */
  cookies: string[] = []
  id = ''
  email = ''

  constructor(readonly url: string) {}

  async call<T = Record<string, never>>(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer<T>> {
    const response = await fetch(this.url + path, {
      method,
      headers: {
        ...(this.cookie ? { cookie: this.cookie } : {}),
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    })
    for (const set of response.headers.getSetCookie()) {
      const pair = set.split(';')[0]!
      const name = pair.split('=')[0]!
      this.cookies = [...this.cookies.filter(one => !one.startsWith(`${name}=`)), pair]
      if (name === 'sun-porch') this.cookie = pair
    }
    const text = await response.text()
    return {
      status: response.status,
      headers: response.headers,
      data: (/json/.test(response.headers.get('content-type') ?? '') ? JSON.parse(text) : text) as T,
    }
  }

  /** The error code of an answer that should be one. */
  async refusal(method: string, path: string, body?: unknown, headers?: Record<string, string>): Promise<string> {
    const { status, data } = await this.call<{ error?: { code: string; message: string } }>(method, path, body, headers)
    return `${status} ${data.error?.code ?? 'no error'}`
  }

  async makeTree(title = 'Move to the tannery'): Promise<string> {
    return must(await this.call<{ id: string }>('POST', '/api/trees', { title })).id
  }

  async open(tree: string): Promise<{ version: number; role: string; snapshot: Snapshot }> {
    return must(await this.call<{ version: number; role: string; snapshot: Snapshot }>('GET', `/api/trees/${tree}`))
  }

  /** Makes an edit that has to be taken: what it's refused with is thrown. Resolves to its number. */
  async edit(tree: string, changes: readonly Change[], id?: string): Promise<number> {
    return must(await this.tryEdit(tree, changes, id)).number
  }

  /** Makes an edit that may be refused. */
  tryEdit(
    tree: string,
    changes: readonly Change[],
    id = newId(),
  ): Promise<Answer<{ number: number; error?: { code: string } }>> {
    return this.call('POST', `/api/trees/${tree}/edits`, { id, changes })
  }

  /** `as`: for whom the page was opened, as the app says it. */
  line(tree: string, headers: Record<string, string> = {}, as?: string): Line {
    const address = `${this.url.replace('http', 'ws')}/api/trees/${tree}/live${as === undefined ? '' : `?as=${as}`}`
    return new Line(address, { cookie: this.cookie, ...headers })
  }
}

export const newId = (): string => randomBytes(9).toString('base64url')

export async function signUp(url: string, name = 'Ines Brandt'): Promise<Caller> {
  const caller = new Caller(url)
  caller.email = `${newId().toLowerCase()}@porch.example`
  const { data } = await caller.call<{ id: string }>('POST', '/api/sign-up', {
    email: caller.email,
    name,
    password: 'a long enough one',
  })
  caller.id = data.id
  return caller
}

/** A topic added under another, in the order of the names that tests give topics. */
export const add = (topic: string, parent: string, title: string, more: object = {}): Change => ({
  op: 'add',
  topic,
  parent,
  order: `a${topic}`,
  with: { title, ...more },
})

/** Gives somebody a role in a tree, by invitation and letter as people do. */
export async function bringIn(
  owner: Caller,
  tree: string,
  guest: Caller,
  role: 'viewer' | 'commenter' | 'editor',
): Promise<void> {
  await owner.call('POST', `/api/trees/${tree}/invitations`, { email: guest.email, role })
  const { data: letters } = await guest.call<{ link: string }[]>('GET', '/api/letters')
  await guest.call('POST', `/api/invitations/${letters[0]!.link.split('/').at(-1)}`)
}

/** A live line that remembers what it heard. */
export class Line {
  readonly heard: ServerMessage[] = []
  readonly socket: WebSocket
  closed: { code: number; reason: string } | null = null
  refusedStatus = 0
  private readonly waiting = new Set<() => void>()

  constructor(url: string, headers: Record<string, string>) {
    this.socket = new WebSocket(url, { headers })
    this.socket.on('message', (data: Buffer) => {
      this.heard.push(JSON.parse(data.toString()) as ServerMessage)
      this.wake()
    })
    this.socket.on('close', (code, reason) => {
      this.closed = { code, reason: reason.toString() }
      this.wake()
    })
    this.socket.on('unexpected-response', (_, response) => {
      this.refusedStatus = response.statusCode ?? 0
      this.closed = { code: 0, reason: '' }
      this.wake()
    })
    this.socket.on('error', () => {})
  }

  private wake(): void {
    for (const look of this.waiting) look()
  }

  /** Resolves as soon as `holds` does; looks again whenever something arrives. */
  until(holds: () => boolean, what = 'what was waited for'): Promise<void> {
    return new Promise((done, reject) => {
      const timer = setTimeout(() => {
        this.waiting.delete(look)
        reject(new Error(`${what} did not come; heard ${JSON.stringify(this.heard).slice(0, 2000)}`))
      }, 15_000)
      const look = (): void => {
        if (!holds()) return
        clearTimeout(timer)
        this.waiting.delete(look)
        done()
      }
      this.waiting.add(look)
      look()
    })
  }

  async hello(since: number | null, epoch?: string): Promise<void> {
    if (this.socket.readyState !== WebSocket.OPEN)
      await new Promise((done, reject) => {
        this.socket.once('open', done).once('error', reject)
      })
    this.say({ type: 'hello', since, ...(epoch === undefined ? {} : { epoch }) })
    await this.until(() => this.heard.some(message => message.type === 'welcome'), 'the welcome')
  }

  say(message: ClientMessage): void {
    this.socket.send(JSON.stringify(message))
  }

  of<T extends ServerMessage['type']>(type: T): Extract<ServerMessage, { type: T }>[] {
    return this.heard.filter((message): message is Extract<ServerMessage, { type: T }> => message.type === type)
  }

  /** Numbers of all edits told so far. */
  numbers(): number[] {
    return this.of('news').flatMap(news => news.edits.map(edit => edit.number))
  }

  async close(): Promise<void> {
    this.socket.close()
    await this.until(() => this.closed !== null, 'the close')
  }
}
