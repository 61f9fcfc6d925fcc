import * as Y from 'yjs'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Change } from '../../core/tree'
import { NOTE_FRAGMENT, toBase64 } from '../../core/tree/note'
import { bringIn, Caller, newId, signUp } from '../caller'
import { type House, openHouse } from '../house'
import { noteOf, plainNote } from './plain-note'

/* What is too much: floods, weights, depth. Each is refused or cut, and nobody else notices. */

let house: House
beforeAll(async () => {
  house = await openHouse({
    env: {
      SOCKETS_PER_PERSON: '6',
      WRITES_A_MINUTE: '200',
      NOTE_MB: '0.05',
      TOPIC_MB: '0.1',
      TREE_MB: '0.5',
      TREE_FILES_GB: '0.001',
      PERSON_FILES_GB: '0.0015',
      MAIL_PER_PERSON: '5',
    },
  })
}, 60_000)
afterAll(() => house.close())

const add = (topic: string, parent: string | null, title = ''): Change => ({
  op: 'add',
  topic,
  parent,
  order: 'a0',
  with: { title },
})

describe('the live line', () => {
  it('cuts a viewer who floods it; others’ edits go on at once', async () => {
    const [ines, rana] = [await signUp(house.url), await signUp(house.url, 'Rana')]
    const tree = await ines.makeTree()
    await bringIn(ines, tree, rana, 'viewer')
    const [line, flood] = [ines.line(tree), rana.line(tree)]
    await line.hello(0)
    await flood.hello(0)
    const pieces = ['not json', JSON.stringify({ type: 'ping' }), `{"type":"edit","edit":${'['.repeat(3000)}`]
    const flooding = (async () => {
      for (let i = 0; flood.closed === null && i < 60_000; i++) {
        flood.socket.send(pieces[i % pieces.length]!)
        if (i % 100 === 0) await new Promise(done => setImmediate(done))
      }
    })()
    const began = Date.now()
    for (let i = 1; i <= 20; i++) {
      line.say({ type: 'edit', edit: { id: newId(), changes: [add(`t${i}`, null)] } })
      await line.until(() => line.numbers().includes(i))
    }
    expect(Date.now() - began).toBeLessThan(8000)
    await flooding
    await flood.until(() => flood.closed !== null, 'the cut')
    expect(flood.of('refused').some(({ code }) => code === 'slowed')).toBe(true)
    // And doesn't come back at once.
    const back = rana.line(tree)
    await back.until(() => back.closed !== null, 'the refusal')
    expect(back.closed!.code).toBe(4008)
    await line.close()
  })

  it('answers one hello of many at once, and few in a row', async () => {
    const ines = await signUp(house.url)
    const line = ines.line(await ines.makeTree())
    await line.hello(null)
    for (let i = 0; i < 15; i++) line.say({ type: 'hello', since: null })
    line.say({ type: 'ping' })
    await line.until(() => line.of('pong').length > 0)
    await new Promise(done => setTimeout(done, 300))
    expect(line.of('tree').length).toBeLessThanOrEqual(3)
    await line.close()
  })

  it('merges what one person looks at: a hundred steps are told as few', async () => {
    const [ines, rana] = [await signUp(house.url), await signUp(house.url, 'Rana')]
    const tree = await ines.makeTree()
    await bringIn(ines, tree, rana, 'viewer')
    const [line, other] = [ines.line(tree), rana.line(tree)]
    await line.hello(0)
    await other.hello(0)
    for (let i = 0; i < 100; i++) line.say({ type: 'presence', selected: [`t${i}`], typing: null })
    await other.until(() => other.of('presence').at(-1)?.present.selected[0] === 't99')
    expect(other.of('presence').length).toBeLessThan(20)
    await line.close()
    await other.close()
  })

  it('opens so many for one person and no more', async () => {
    const ines = await signUp(house.url)
    const tree = await ines.makeTree()
    const lines: ReturnType<Caller['line']>[] = []
    for (let i = 0; i < 7; i++) {
      const line = ines.line(tree)
      lines.push(line)
      if (i < 6) await line.hello(0)
    }
    await lines[6]!.until(() => lines[6]!.closed !== null)
    expect(lines[6]!.closed!.code).toBe(4008)
    await lines[0]!.close()
    const next = ines.line(tree)
    await next.hello(0)
    for (const line of [...lines.slice(1, 6), next]) await line.close()
  })

  it('refuses a message that nests ten thousand deep, and a filter that does', async () => {
    const ines = await signUp(house.url)
    const tree = await ines.makeTree()
    const deep = (levels: number): string => '{"all":['.repeat(levels) + ']}'.repeat(levels)
    const line = ines.line(tree)
    await line.hello(0)
    line.socket.send(`{"type":"edit","edit":{"id":"deep","changes":[${deep(10_000)}]}}`)
    await line.until(() => line.of('refused').length > 0)
    const body = `{"view":{"id":"v","name":"V","query":${deep(10_000)},"text":"","rest":"dim","view":"canvas","depth":null,"outline":null}}`
    expect(await ines.refusal('PUT', `/api/trees/${tree}/views/v`, body)).toBe('400 deep')
    await line.close()
  })
})

describe('weight', () => {
  it('of a note, a topic and a tree is bounded; what gets lighter is never refused', async () => {
    const ines = await signUp(house.url)
    const tree = await ines.makeTree()
    const text = (kb: number): string => Array.from({ length: kb * 16 }, () => newId().padEnd(64, 'x')).join('')
    const code = async (changes: Change[]): Promise<string | undefined> =>
      (await ines.tryEdit(tree, changes)).data.error?.code
    expect(await code([{ ...add('a', null), with: { note: plainNote(text(60)) } } as Change])).toBe('heavy')
    expect(await code([{ ...add('a', null), with: { note: plainNote(text(30)) } } as Change])).toBeUndefined()
    expect(await code([{ op: 'note', topic: 'a', update: plainNote(text(30)) }])).toBe('heavy')
    const line = ines.line(tree)
    await line.hello(0)
    let last: string | undefined
    for (let i = 0; i < 20 && last === undefined; i++)
      last = await code([{ ...add(`n${i}`, null), with: { note: plainNote(text(30)) } } as Change])
    expect(last).toBe('heavy')
    // It was said before it came to that.
    expect(line.of('weight').length).toBeGreaterThan(0)
    expect(line.of('weight')[0]!.bytes).toBeLessThan(line.of('weight')[0]!.most)
    expect(await code([{ op: 'remove', topic: 'n0' }])).toBeUndefined()
    expect(await code([{ op: 'set', topic: 'n1', field: 'title', value: '' }])).toBeUndefined()
    await line.close()
  })

  it('of files is bounded by tree and by person', async () => {
    const ines = await signUp(house.url)
    const put = async (tree: string): Promise<number> =>
      (
        await fetch(`${house.url}/api/trees/${tree}/attachments?name=plan.bin`, {
          method: 'POST',
          headers: { cookie: ines.cookie, 'content-type': 'application/octet-stream' },
          body: Buffer.from(Array.from({ length: 700_000 }, () => Math.floor(Math.random() * 256))),
        })
      ).status
    const [one, two, three] = [await ines.makeTree(), await ines.makeTree(), await ines.makeTree()]
    expect([await put(one), await put(one)]).toEqual([200, 413])
    expect([await put(two), await put(three)]).toEqual([200, 413])
  })
})

describe('a note', () => {
  it('that can’t be read comes in by no door', async () => {
    const ines = await signUp(house.url)
    const tree = await ines.makeTree()
    for (const note of ['aGVsbG8gdGhlcmU=', '////', 'AQ==']) {
      const add: Change = { op: 'add', topic: newId(), parent: null, order: 'a0', with: { note } }
      expect((await ines.tryEdit(tree, [add])).data.error?.code).toBe('note')
      const topics = [{ id: 'c', parent: null, order: 'a0', title: 'X', note }]
      const text = JSON.stringify({ format: 'sun-porch-tree', version: 1, tree: { centre: 'c', fields: {}, topics } })
      expect(await ines.refusal('POST', '/api/trees/import', { format: 'json', name: 'x.json', text })).toBe(
        '422 unreadable',
      )
    }
  })

  it('that is large is opened in a thread first: what follows it keeps its order, and nobody else waits for it', async () => {
    const big = await openHouse({})
    try {
      const [ines, rana] = [await signUp(big.url), await signUp(big.url, 'Rana Tahiri')]
      const [tree, other] = [await ines.makeTree(), await rana.makeTree()]
      const { centre } = (await rana.open(other)).snapshot
      const { centre: first } = (await ines.open(tree)).snapshot
      // Typed here and there, as a note of many hands is: thousands of pieces.
      const note = noteOf(fragment => {
        for (let i = 0; i < 60; i++) {
          const block = new Y.XmlElement('paragraph')
          block.insert(0, [new Y.XmlText('Shelves')])
          fragment.insert(0, [block])
        }
        for (let i = 0; i < 12_000; i++)
          ((fragment.get((i * 7) % 60) as Y.XmlElement).get(0) as Y.XmlText).insert((i * 13) % 7, 'ab')
      })
      expect(note.length).toBeGreaterThan(150_000)
      let done = false
      const waits: number[] = []
      const writing = (async () => {
        for (let i = 0; !done; i++) {
          const began = Date.now()
          await rana.edit(other, [{ op: 'set', topic: centre, field: 'title', value: `Move ${i}` }])
          waits.push(Date.now() - began)
        }
      })()
      // On one line, as a browser sends what it did one after the other.
      const line = ines.line(tree)
      await line.hello(0)
      const answered = async (...edits: Change[][]): Promise<string[]> => {
        const ids = edits.map(() => newId())
        for (const [i, changes] of edits.entries()) line.say({ type: 'edit', edit: { id: ids[i]!, changes } })
        const answerTo = (id: string): string | undefined =>
          line.of('refused').find(({ edit }) => edit === id)?.code ??
          (line.of('news').some(({ edits }) => edits.some(edit => edit.id === id)) ? 'done' : undefined)
        await line.until(() => ids.every(answerTo), 'the answers')
        return ids.map(id => answerTo(id)!)
      }
      const answers = await answered(
        [{ op: 'add', topic: 'a', parent: first, order: 'a0', with: { title: 'Shelves', note } }],
        [{ op: 'set', topic: 'a', field: 'done', value: 50 }],
        [{ op: 'set', topic: 'a', field: 'done', value: 100 }],
      )
      done = true
      await writing
      expect(answers).toEqual(['done', 'done', 'done'])
      const { snapshot } = await ines.open(tree)
      expect(snapshot.topics.find(({ id }) => id === 'a')).toMatchObject({ done: 100, note })
      expect(waits.length).toBeGreaterThan(3)
      expect(waits.toSorted((a, b) => a - b)[Math.floor(waits.length / 2)]!).toBeLessThan(500)
      // As large, and nothing: what came with it goes with it, and what comes after has nothing to stand on.
      const bad = toBase64(new Uint8Array(60_000).fill(255))
      const refused = await answered(
        [{ op: 'add', topic: 'b', parent: null, order: 'a1', with: { note: bad } }],
        [{ op: 'set', topic: 'b', field: 'done', value: 50 }],
        [{ op: 'note', topic: 'a', update: bad }],
      )
      expect(refused).toEqual(['note', 'missing', 'note'])
      await line.close()
      expect((await ines.call<string>('GET', `/api/trees/${tree}/export/markdown`)).data).toContain('abab')
    } finally {
      await big.close()
    }
  }, 120_000)

  it('that nests 12,000 deep breaks no export and no reader', async () => {
    const note = noteOf(fragment => {
      fragment.doc!.transact(() => {
        let at: Y.XmlFragment | Y.XmlElement = fragment
        for (let i = 0; i < 12_000; i++) {
          const next: Y.XmlElement = new Y.XmlElement('blockquote')
          at.insert(0, [next])
          at = next
        }
        at.insert(0, [new Y.XmlText('at the bottom')])
      })
    })
    const deep = await openHouse({})
    try {
      const ines = await signUp(deep.url)
      const tree = await ines.makeTree()
      const { centre } = (await ines.open(tree)).snapshot
      await ines.edit(tree, [{ op: 'add', topic: 'a', parent: centre, order: 'a0', with: { note } }])
      for (const format of ['json', 'markdown', 'opml', 'csv', 'text'])
        expect([format, (await ines.call('GET', `/api/trees/${tree}/export/${format}`)).status]).toEqual([format, 200])
      const { data } = await ines.call<string>('GET', `/api/trees/${tree}/export/markdown`)
      expect(data).toContain('at the bottom')
    } finally {
      await deep.close()
    }
  }, 60_000)
})

describe('requests', () => {
  it('that write are slowed by person, and say for how long; reading goes on', async () => {
    const ines = await signUp(house.url)
    const tree = await ines.makeTree()
    const all = await Promise.all(
      Array.from({ length: 260 }, () =>
        ines.call<{ error?: { details: { seconds: number } } }>('POST', `/api/trees/${tree}/seen`, { version: 0 }),
      ),
    )
    const slowed = all.filter(({ status }) => status === 429)
    expect(slowed.length).toBeGreaterThanOrEqual(60)
    expect(Number(slowed[0]!.headers.get('retry-after'))).toBeGreaterThan(0)
    expect((await ines.call('GET', `/api/trees/${tree}`)).status).toBe(200)
    const rana = await signUp(house.url)
    expect((await rana.call('POST', '/api/trees', { title: 'Mine' })).status).toBe(200)
  })

  it('that would send more letters than a day has are refused', async () => {
    const ines = await signUp(house.url)
    const tree = await ines.makeTree()
    const emails = Array.from({ length: 9 }, () => `${newId().toLowerCase()}@porch.example`)
    expect(await ines.refusal('POST', `/api/trees/${tree}/invitations`, { emails, role: 'viewer' })).toBe('429 letters')
    expect((await ines.call<unknown[]>('GET', `/api/trees/${tree}/invitations`)).data.length).toBeLessThanOrEqual(6)
  })

  it('from another scheme, host or port than our own are refused', async () => {
    const ines = await signUp(house.url)
    const { host, port } = new URL(house.url)
    for (const origin of [`https://${host}`, `http://127.0.0.1:${Number(port) + 1}`, `http://${host}.example`, 'null'])
      expect(await ines.refusal('POST', '/api/trees', { title: 'x' }, { origin })).toBe('403 origin')
    expect(await ines.refusal('POST', '/api/trees', { title: 'x' }, { origin: house.url })).toBe('200 no error')
    // What a request says of a proxy counts for nothing where none is trusted.
    expect(
      await ines.refusal(
        'POST',
        '/api/trees',
        { title: 'x' },
        { origin: 'https://evil.example', 'x-forwarded-host': 'evil.example', 'x-forwarded-proto': 'https' },
      ),
    ).toBe('403 origin')
  })
})

it('static files and pages carry nosniff; pages connect to ourselves alone', async () => {
  const page = await fetch(`${house.url}/`)
  const text = await page.text()
  expect(page.headers.get('content-security-policy')).toMatch(/connect-src 'self'(?:;|$)/)
  const script = /src="(\/_nuxt\/[^"]+\.js)"/.exec(text)![1]!
  for (const path of ['/', script, '/porch.svg', '/api/health'])
    expect([path, (await fetch(house.url + path)).headers.get('x-content-type-options')]).toEqual([path, 'nosniff'])
})

it('behind TLS cookies are Secure, browsers are told to come that way, and the proxy’s word counts', async () => {
  // Two houses at one address have cookies of two names.
  const tls = await openHouse({ env: { TLS: 'on', TRUST_PROXY: 'on', NUXT_SESSION_NAME: 'annex' } })
  try {
    const ines = new Caller(tls.url)
    const { headers } = await ines.call(
      'POST',
      '/api/sign-up',
      { email: 'ines@porch.example', name: 'Ines', password: 'a long enough one' },
      { origin: 'https://porch.example', 'x-forwarded-host': 'porch.example', 'x-forwarded-proto': 'https' },
    )
    expect(headers.getSetCookie().join()).toMatch(/^annex=.*Secure/)
    ines.cookie = ines.cookies.find(cookie => cookie.startsWith('annex='))!
    expect((await ines.call('GET', '/api/me')).status).toBe(200)
    expect(headers.get('strict-transport-security')).toMatch(/max-age=\d{7}/)
  } finally {
    await tls.close()
  }
}, 60_000)

it('a text is taken out for good: of titles, notes typed letter by letter, the log and every moment', async () => {
  const ines = await signUp(house.url)
  const rana = await signUp(house.url, 'Rana')
  const tree = await ines.makeTree()
  await bringIn(ines, tree, rana, 'editor')
  const secret = 'hunter-2-tannery'
  const { centre } = (await ines.open(tree)).snapshot
  await ines.edit(tree, [add('a', centre, `door code ${secret}`), add('b', centre, 'Lamps')])
  await ines.edit(tree, [{ op: 'set', topic: 'a', field: 'title', value: 'door code' }])
  // Typed a letter at a time, and deleted again.
  const doc = new Y.Doc()
  const updates: string[] = []
  doc.on('update', (update: Uint8Array) => updates.push(toBase64(update)))
  const words = new Y.XmlText()
  const paragraph = new Y.XmlElement('paragraph')
  paragraph.insert(0, [words])
  doc.getXmlFragment(NOTE_FRAGMENT).insert(0, [paragraph])
  words.insert(0, 'The code: ')
  for (const [i, letter] of [...secret].entries()) words.insert(10 + i, letter)
  words.delete(10, secret.length)
  words.insert(10, 'ask Ines')
  for (const update of updates) await ines.edit(tree, [{ op: 'note', topic: 'b', update }])
  expect(await rana.refusal('POST', `/api/trees/${tree}/purge`, { text: secret })).toBe('403 role')
  expect(await ines.refusal('POST', `/api/trees/${tree}/purge`, { text: 'never written here' })).toBe('404 not-there')
  const line = rana.line(tree)
  await line.hello(0)
  expect((await ines.call('POST', `/api/trees/${tree}/purge`, { text: secret })).status).toBe(200)
  // Open browsers take the tree anew, under another epoch.
  await line.until(() => line.of('welcome').length === 2 && line.of('tree').length === 1)
  const whole = JSON.stringify([
    (await ines.open(tree)).snapshot,
    (await ines.call('GET', `/api/trees/${tree}/edits`)).data,
    (await ines.call('GET', `/api/trees/${tree}/export/json`)).data,
  ])
  expect(whole).not.toContain(secret)
  expect(whole).toContain('door code ▮▮▮')
  const { data: markdown } = await ines.call<string>('GET', `/api/trees/${tree}/export/markdown`)
  expect(markdown).toContain('The code: ask Ines')
  // No letter of it stands beside another in what is stored of the note's making.
  const notes = [...whole.matchAll(/"(?:note|update)":"([^"]+)"/g)].map(found =>
    Buffer.from(found[1]!, 'base64').toString('latin1'),
  )
  expect(notes.some(bytes => bytes.includes('The code'))).toBe(true)
  for (const bytes of notes) expect(bytes).not.toMatch(/hunter|tannery/)
  const access = (await ines.call<{ what: string; about: string }[]>('GET', `/api/trees/${tree}/access`)).data
  expect(access.find(({ what }) => what === 'purged')).toMatchObject({
    what: 'purged',
    about: `${secret.length} characters`,
  })
  // Edits go on.
  await rana.edit(tree, [add('c', null, 'Doors')])
  await line.close()
})
