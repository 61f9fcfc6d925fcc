import mammoth from 'mammoth'
import { beforeAll, describe, expect, inject, it } from 'vitest'
import { type Caller, signUp } from '../caller'
import { handedTree } from '../handed-tree'

const url = inject('url')
let ines: Caller
let tree: string

beforeAll(async () => {
  ;({ ines, tree } = await handedTree(url))
})

describe('by mail', () => {
  const mailed = (body: object, who = ines) =>
    who.call<{ letters?: number; error?: { code: string } }>('POST', `/api/trees/${tree}/hand-out/letters`, body)

  it('goes to each address once, as the file that was chosen, and stands among what was sent', async () => {
    const rana = await signUp(url, 'Rana Tahiri')
    const { status, data } = await mailed({
      as: 'docx',
      part: { kind: 'branch', topic: 'lift' },
      to: [rana.email, rana.email.toUpperCase(), 'tove@oak.example'],
      subject: 'The lift',
      words: 'Please read before Tuesday.',
    })
    expect([status, data.letters]).toEqual([200, 2])
    const { data: letters } = await rana.call<{ id: string; subject: string; body: string; files: string[] }[]>(
      'GET',
      '/api/letters',
    )
    expect(letters.map(({ subject, body, files }) => [subject, body, files])).toEqual([
      ['The lift', 'Please read before Tuesday.', [expect.stringMatching(/\.docx$/)]],
    ])
    const response = await fetch(`${url}/api/letters/${letters[0]!.id}/files/0`, { headers: { cookie: rana.cookie } })
    expect(response.headers.get('content-type')).toContain('wordprocessingml')
    const { value } = await mammoth.extractRawText({ buffer: Buffer.from(await response.arrayBuffer()) })
    expect(value).toContain('Lift')
    const { data: sent } = await ines.call<{ to: string }[]>('GET', '/api/letters?box=sent')
    expect(sent.filter(({ to }) => to === 'tove@oak.example')).toHaveLength(1)
    // Another's letter stays another's.
    const stranger = await signUp(url, 'Stranger')
    expect(await stranger.refusal('GET', `/api/letters/${letters[0]!.id}/files/0`)).toBe('404 no-file')
    expect((await mailed({ as: 'docx', to: ['a@b.example'], subject: 'x' }, stranger)).data.error!.code).toBe('no-tree')
  })

  it('refuses what isn’t an address, more than one line of a subject, too many, and writes to nobody then', async () => {
    const before = (await ines.call<unknown[]>('GET', '/api/letters?box=sent')).data.length
    for (const wrong of [
      { to: ['no address'], subject: 'x' },
      { to: [], subject: 'x' },
      { to: Array.from({ length: 31 }, (_, i) => `a${i}@b.example`), subject: 'x' },
      { to: ['a@b.example'], subject: 'x\r\nBcc: c@d.example' },
      { to: ['a@b.example'], subject: '' },
      { to: ['a@b.example\r\nBcc: c@d.example'], subject: 'x' },
    ])
      expect((await mailed({ as: 'text', ...wrong })).status).toBe(400)
    const gone = await mailed({
      as: 'text',
      part: { kind: 'branch', topic: 'nowhere' },
      to: ['a@b.example'],
      subject: 'x',
    })
    expect(gone.data.error!.code).toBe('nothing')
    expect((await ines.call<unknown[]>('GET', '/api/letters?box=sent')).data.length).toBe(before)
  })
})
