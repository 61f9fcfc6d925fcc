import { inject, expect, it, describe } from 'vitest'
import { type Caller, signUp } from '../caller'

const url = inject('url')

/** Files that once froze everybody for minutes, or overflowed the stack. */
const ATTACKS: readonly (readonly [name: string, format: string, text: string])[] = [
  [
    'a Markdown table of 2,000 columns',
    'markdown',
    `${'|a'.repeat(2000)}\n${'|-'.repeat(2000)}\n${`${'|b'.repeat(2000)}\n`.repeat(50)}`,
  ],
  ['20,000 links that never close', 'markdown', '[a]('.repeat(20_000)],
  ['700,000 open elements', 'html', '<div>'.repeat(700_000)],
  [
    'a note in OPML that nests',
    'opml',
    `<opml version="2.0"><body><outline text="x" _note="${'&gt;'.repeat(12_000)}a"/></body></opml>`,
  ],
  [
    'parents of parents in CSV',
    'csv',
    `title,parent\nr0,\n${Array.from({ length: 90_000 }, (_, i) => `r${i + 1},r${i}`).join('\n')}`,
  ],
  ['JSON that nests', 'json', `${'['.repeat(200_000)}${']'.repeat(200_000)}`],
]

async function importing(
  who: Caller,
  format: string,
  text: string,
): Promise<{ status: number; code: string; seconds: number }> {
  const began = Date.now()
  const { status, data } = await who.call<{ error?: { code: string } }>('POST', '/api/trees/import', {
    format,
    name: 'plan',
    text,
  })
  return { status, code: data.error?.code ?? '', seconds: (Date.now() - began) / 1000 }
}

describe('a file made to choke the parser', () => {
  it.each(ATTACKS)('%s holds up nobody, and ends refused or read', async (_, format, text) => {
    const [ines, rana] = [await signUp(url), await signUp(url, 'Rana Tahiri')]
    const tree = await rana.makeTree()
    const { snapshot } = await rana.open(tree)
    let done = false
    const attack = importing(ines, format, text).finally(() => {
      done = true
    })
    const waits: number[] = []
    for (let i = 0; i < 400 && !done; i++) {
      const began = Date.now()
      await rana.edit(tree, [{ op: 'set', topic: snapshot.centre, field: 'title', value: `Move ${i}` }])
      waits.push(Date.now() - began)
      await new Promise(next => setTimeout(next, 40))
    }
    const { status, code, seconds } = await attack
    expect([`${status} ${code}`]).toEqual([expect.stringMatching(/^(?:200 |422 unreadable|422 too-heavy)$/)])
    expect(seconds).toBeLessThan(16)
    // On a busy machine a single answer may take its time; a frozen one answers none for seconds.
    expect(Math.max(0, ...waits)).toBeLessThan(3000)
  })

  it('one person’s files wait for one another, and too many are refused', async () => {
    const ines = await signUp(url)
    const answers = await Promise.all(Array.from({ length: 12 }, (_, i) => importing(ines, 'text', `Lift ${i}`)))
    const said = answers.map(({ status }) => status)
    expect(said.filter(status => status === 200).length).toBeGreaterThanOrEqual(6)
    expect(new Set(said)).toEqual(new Set([200, 429]))
  })

  it('whoever stops it gets no tree', async () => {
    const ines = await signUp(url)
    const stopping = new AbortController()
    const [, , text] = ATTACKS[0]!
    const sent = fetch(`${url}/api/trees/import`, {
      method: 'POST',
      headers: { cookie: ines.cookie, 'content-type': 'application/json' },
      body: JSON.stringify({ format: 'markdown', name: 'plan', text }),
      signal: stopping.signal,
    })
    setTimeout(() => stopping.abort(), 500)
    await expect(sent).rejects.toThrow()
    // The thread is free again at once: the next file isn't kept waiting for the first one's time to run out.
    expect((await importing(ines, 'text', 'Lift')).seconds).toBeLessThan(5)
    expect((await ines.call<{ title: string }[]>('GET', '/api/trees')).data.map(({ title }) => title)).toEqual(['Lift'])
  })
})
