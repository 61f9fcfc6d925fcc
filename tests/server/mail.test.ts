import { createServer, type Server, type Socket } from 'node:net'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { signUp } from '../caller'
import { type House, openHouse } from '../house'

/* Letters to a mail server that takes them, says no, or isn't there yet: a stand-in that speaks as much SMTP (RFC 5321) as it takes. */

interface Mail {
  readonly to: string
  readonly text: string
}

class Post {
  readonly taken: Mail[] = []
  /** What it says to a recipient. */
  answer: (to: string) => string = () => '250 fine'
  private readonly server: Server
  private readonly sockets = new Set<Socket>()
  port = 0

  constructor() {
    this.server = createServer(socket => {
      this.sockets.add(socket)
      let left = ''
      let to = ''
      let letter: string[] | null = null
      socket.write('220 stand-in\r\n')
      socket.on('error', () => {})
      socket.on('data', piece => {
        left += piece.toString()
        for (let end = left.indexOf('\r\n'); end >= 0; end = left.indexOf('\r\n')) {
          const line = left.slice(0, end)
          left = left.slice(end + 2)
          if (letter) {
            if (line === '.') {
              this.taken.push({ to, text: letter.join('\n').replaceAll('=\n', '') })
              letter = null
              socket.write('250 taken\r\n')
            } else letter.push(line)
            continue
          }
          const word = line.slice(0, 4).toUpperCase()
          if (word === 'RCPT') {
            to = /<(.+)>/.exec(line)![1]!
            socket.write(`${this.answer(to)}\r\n`)
          } else if (word === 'DATA') {
            letter = []
            socket.write('354 go on\r\n')
          } else if (word === 'QUIT') socket.end('221 bye\r\n')
          else socket.write('250 fine\r\n')
        }
      })
    })
  }
  async open(port = 0): Promise<void> {
    await new Promise<void>(done => this.server.listen(port, '127.0.0.1', done))
    this.port = (this.server.address() as { port: number }).port
  }
  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy()
    await new Promise(done => this.server.close(done))
  }
}

let post = new Post()
let house: House
beforeAll(async () => {
  await post.open()
  house = await openHouse({
    env: {
      SMTP_URL: `smtp://127.0.0.1:${post.port}`,
      MAIL_FROM: 'The porch <porch@tannery.example>',
      MAIL_REPLY_TO: 'desk@tannery.example',
      PUBLIC_URL: 'https://porch.example',
    },
  })
}, 60_000)
afterAll(async () => {
  await house.close()
  await post.close()
})
const about = (to: string): Mail[] => post.taken.filter(one => one.to === to)

describe('a letter', () => {
  it('goes out with its sender, where to answer, and one press to get no more', async () => {
    const ines = await signUp(house.url)
    const tree = await ines.makeTree('Shelves')
    const to = 'rana@tannery.example'
    await ines.call('POST', `/api/trees/${tree}/invitations`, { email: to, role: 'viewer' })
    await expect.poll(() => about(to).length, { timeout: 15_000 }).toBe(1)
    const { text } = about(to)[0]!
    expect(text).toMatch(/^From: The porch <porch@tannery\.example>$/m)
    expect(text).toMatch(/^Reply-To: desk@tannery\.example$/m)
    expect(text).toContain('https://porch.example/invitation/')
    // RFC 8058: the address takes a POST, and nothing else needs to be said.
    expect(text).toMatch(/^List-Unsubscribe-Post: List-Unsubscribe=One-Click$/m)
    const stop = /https:\/\/porch\.example(\/api\/stop\/[\w.\s-]+)>/.exec(text)![1]!.replace(/\s/g, '')
    const answer = await fetch(house.url + stop, {
      method: 'POST',
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
      body: 'List-Unsubscribe=One-Click',
    })
    expect(answer.status).toBe(200)
    expect((await fetch(`${house.url}${stop.slice(0, -3)}abc`, { method: 'POST' })).status).toBe(404)
    const other = await ines.makeTree('Lamps')
    await ines.call('POST', `/api/trees/${other}/invitations`, { email: to, role: 'viewer' })
    await ines.call('POST', `/api/trees/${other}/invitations`, { email: 'lev@tannery.example', role: 'viewer' })
    await expect.poll(() => about('lev@tannery.example').length, { timeout: 15_000 }).toBe(1)
    expect(about(to)).toHaveLength(1)
  })

  it('that the server will never take comes back to whoever sent it; one that it can’t take now is tried again', async () => {
    const ines = await signUp(house.url)
    const tree = await ines.makeTree('Shelves')
    let tries = 0
    post.answer = to =>
      to.startsWith('gone') ? '550 no such person' : to.startsWith('busy') && tries++ === 0 ? '451 later' : '250 fine'
    for (const name of ['gone', 'busy'])
      await ines.call('POST', `/api/trees/${tree}/invitations`, { email: `${name}@tannery.example`, role: 'viewer' })
    const subjects = async (): Promise<string[]> =>
      (await ines.call<{ subject: string }[]>('GET', '/api/letters')).data.map(({ subject }) => subject)
    await expect.poll(subjects, { timeout: 15_000 }).toContainEqual(expect.stringMatching(/^Came back: .*Shelves/))
    await expect.poll(() => about('busy@tannery.example').length, { timeout: 25_000 }).toBe(1)
    expect(about('gone@tannery.example')).toHaveLength(0)
  }, 60_000)

  it('waits through a server that is away, and through the app’s own end', async () => {
    const { port } = post
    await post.close()
    const ines = await signUp(house.url)
    const tree = await ines.makeTree('Shelves')
    await ines.call('POST', `/api/trees/${tree}/invitations`, { email: 'oskar@tannery.example', role: 'viewer' })
    await house.killApp('SIGKILL')
    await house.startApp()
    post = new Post()
    await post.open(port)
    await expect.poll(() => about('oskar@tannery.example').length, { timeout: 60_000 }).toBe(1)
  }, 120_000)
})
