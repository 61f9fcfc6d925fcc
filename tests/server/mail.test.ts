import { execFile, spawn } from 'node:child_process'
import { createServer, type Server, type Socket } from 'node:net'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readReport } from '../../scripts/delivery-report.mjs'
import { root } from '../../scripts/machine.mjs'
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

/** A report as RFC 3464 has it (the form of its appendix E, from memory): of the letter whose headers are given. */
const report = (headers: string, fields: string, type = 'text/rfc822-headers'): string =>
  [
    'From: Mail Delivery <MAILER-DAEMON@mail.tannery.example>',
    'Subject: Undelivered',
    'MIME-Version: 1.0',
    'Content-Type: multipart/report; report-type=delivery-status;',
    '\tboundary="part/1"',
    '',
    '--part/1',
    '',
    'Sorry, I could not deliver <0123456789abcdef.letter@porch.example>.',
    '',
    '--part/1',
    'Content-Type: message/delivery-status',
    '',
    'Reporting-MTA: dns; mail.tannery.example',
    '',
    fields,
    '',
    '--part/1',
    `Content-Type: ${type}`,
    '',
    headers,
    '',
    '--part/1--',
    '',
  ].join('\r\n')
const OURS = 'Message-ID: <0123456789abcdef.letter@porch.example>\r\nSubject: Shelves'
const FAILED =
  'Final-Recipient: rfc822; gone@tannery.example\r\nAction: failed\r\nStatus: 5.1.1\r\nDiagnostic-Code: smtp; 550 nobody'

describe('a report about a letter', () => {
  it.each([
    ['of an address that isn’t there', report(OURS, FAILED), '5.1.1'],
    ['with the whole letter', report(`${OURS}\r\n\r\nBody`, FAILED, 'message/rfc822'), '5.1.1'],
    ['with folded fields', report(OURS, FAILED.replace('Status: ', 'Status:\r\n\t')), '5.1.1'],
    ['without a status', report(OURS, 'Action: FAILED (at last)'), '5.0.0'],
    ['of the second of two addresses', report(OURS, `Action: delivered\r\nStatus: 2.0.0\r\n\r\n${FAILED}`), '5.1.1'],
  ])('%s is read', async (_, letter, status) => {
    expect(await readReport(letter)).toEqual({ id: '0123456789abcdef', status })
  })

  it.each([
    ['of what is only late', report(OURS, 'Action: delayed\r\nStatus: 4.4.1')],
    ['of what was delivered', report(OURS, 'Action: delivered\r\nStatus: 2.0.0')],
    ['about somebody else’s letter', report('Message-ID: <other@elsewhere.example>', FAILED)],
    ['that names ours only in its words', report('Subject: Shelves', FAILED)],
    ['that is none', 'Subject: Action: failed\r\n\r\nMessage-ID: <0123456789abcdef.letter@porch.example>\r\n'],
    ['that is nothing', ''],
    ['that is noise', '\u0000'.repeat(5000)],
    [
      'nested without end',
      'Content-Type: multipart/mixed; boundary=b\r\n\r\n'.concat(
        '--b\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n'.repeat(3000),
      ),
    ],
  ])('%s is passed over', async (_, letter) => {
    const began = performance.now()
    expect(await readReport(letter).catch(() => null)).toBeNull()
    expect(performance.now() - began).toBeLessThan(5_000)
  })
})

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

  it('that another server gives up days later comes back, once, by what the operator’s mail server hands over', async () => {
    const ines = await signUp(house.url)
    const tree = await ines.makeTree('Shelves')
    const to = 'moved@tannery.example'
    await ines.call('POST', `/api/trees/${tree}/invitations`, { email: to, role: 'viewer' })
    await expect.poll(() => about(to).length, { timeout: 15_000 }).toBe(1)
    const [, id] = /Message-ID: <([\w-]{16})\.letter@tannery\.example>$/m.exec(about(to)[0]!.text)!
    const env = { ...process.env, DATABASE_URL: house.databaseUrl }
    const hand = (letter: string): Promise<string> =>
      new Promise((done, failed) => {
        const child = spawn(process.execPath, [join(root, 'scripts/bounces.mjs')], { env })
        let said = ''
        child.stdout.on('data', piece => (said += String(piece)))
        child.stderr.on('data', piece => (said += String(piece)))
        child.on('error', failed)
        child.on('exit', () => done(said))
        child.stdin.end(letter)
      })
    const subjects = async (): Promise<string[]> =>
      (await ines.call<{ subject: string }[]>('GET', '/api/letters')).data
        .map(({ subject }) => subject)
        .filter(subject => subject.startsWith('Came back'))
    expect(await hand(report(`Message-ID: <${id}.letter@tannery.example>`, 'Action: delayed'))).toContain('0 letters')
    expect(await hand(report('Message-ID: <0000000000000000.letter@tannery.example>', FAILED))).toContain('0 letters')
    expect(await hand("'; DROP TABLE letters; --")).toContain('0 letters')
    expect(await subjects()).toEqual([])
    const letter = report(`Message-ID: <${id}.letter@tannery.example>`, FAILED)
    expect(await hand(letter)).toContain('One letter came back')
    expect(await subjects()).toEqual([expect.stringMatching(/^Came back: .*Shelves/)])
    expect(await hand(letter)).toContain('0 letters')
    expect(await subjects()).toHaveLength(1)
    const none = await promisify(execFile)(process.execPath, [join(root, 'scripts/bounces.mjs'), '/nowhere.eml'], {
      env,
    }).catch((error: { code: number }) => error.code)
    expect(none).toBe(1)
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
