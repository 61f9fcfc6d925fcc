import { createConnection } from 'mysql2/promise'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { CheckedAddress, LinkedPage, LinkedPages } from '../../core/contract'
import { bringIn, type Caller, newId, signUp } from '../caller'
import { type House, openHouse } from '../house'
import { Web } from '../web'

let house: House
const web = new Web()
beforeAll(async () => {
  await web.open()
  house = await openHouse({ env: { WEB_STAND_IN: web.address } })
}, 60_000)
afterAll(async () => {
  await house.close()
  web.close()
})

/** A tree with links; topics are named by their numbers. */
async function withLinks(...urls: string[]): Promise<{ ines: Caller; id: string }> {
  const ines = await signUp(house.url)
  const id = await ines.makeTree('Move')
  const { centre } = (await ines.open(id)).snapshot
  await ines.edit(
    id,
    urls.map((url, i) => ({
      op: 'add',
      topic: `t${i}`,
      parent: centre,
      order: `a${i}`,
      with: { title: `Topic ${i}`, links: url ? [{ id: newId(), url, title: '' }] : [] },
    })),
  )
  return { ines, id }
}
const letThem = async (ines: Caller, id: string, on = true): Promise<void> => {
  expect((await ines.call('PUT', `/api/trees/${id}/pages`, { on })).status).toBe(200)
}
const LOFT = 'https://haven.example/loft'

describe('pages behind links', () => {
  it('aren’t asked unless an owner lets it be; a copy asks for it anew', async () => {
    const { ines, id } = await withLinks(LOFT)
    const rana = await signUp(house.url, 'Rana Tahiri')
    await bringIn(ines, id, rana, 'editor')
    const before = web.asked.length
    expect((await ines.call<LinkedPages>('GET', `/api/trees/${id}/pages`)).data).toEqual({ on: false, pages: [] })
    expect(await ines.refusal('POST', `/api/trees/${id}/pages`, { address: LOFT })).toBe('403 pages-off')
    expect(await ines.refusal('POST', `/api/trees/${id}/pages/check`, { addresses: [LOFT] })).toBe('403 pages-off')
    expect(await rana.refusal('PUT', `/api/trees/${id}/pages`, { on: true })).toMatch(/^403/)
    expect(web.asked).toHaveLength(before)
    await letThem(ines, id)
    const { data: copy } = await ines.call<{ id: string }>('POST', `/api/trees/${id}/duplicate`, {
      ...{ notes: true, people: true, dates: true, progress: true, shift: 0 },
    })
    expect((await ines.call<LinkedPages>('GET', `/api/trees/${copy.id}/pages`)).data.on).toBe(false)
  })

  it('say title, summary and picture, asked once however many look at once; then they’re kept, until that is taken back', async () => {
    const { ines, id } = await withLinks(LOFT)
    const rana = await signUp(house.url, 'Rana Tahiri')
    await bringIn(ines, id, rana, 'viewer')
    await letThem(ines, id)
    const from = web.asked.length
    const all = await Promise.all(
      Array.from({ length: 40 }, (_, i) =>
        (i % 2 ? ines : rana).call<LinkedPage>('POST', `/api/trees/${id}/pages`, { address: LOFT }),
      ),
    )
    for (const { status, data } of all) {
      expect(status).toBe(200)
      expect(data).toMatchObject({
        title: 'The drying loft',
        summary: 'Where hides dried, and books will be read.',
        picture: expect.stringMatching(/^[0-9a-f]{64}$/) as string,
      })
    }
    expect(web.asked.slice(from)).toEqual(['haven.example/loft', 'haven.example/loft.jpg'])
    // The picture is a file of the tree, drawn anew, for whoever may see the tree.
    const picture = await fetch(`${house.url}/api/trees/${id}/files/${all[0]!.data.picture}`, {
      headers: { cookie: rana.cookie },
    })
    expect(picture.headers.get('content-type')).toMatch(/^image\//)
    expect((await rana.call<LinkedPages>('GET', `/api/trees/${id}/pages`)).data.pages).toHaveLength(1)
    // A viewer's "again" is no more than a look; an editor's asks.
    await rana.call('POST', `/api/trees/${id}/pages`, { address: LOFT, again: true })
    expect(web.asked).toHaveLength(from + 2)
    await ines.call('POST', `/api/trees/${id}/pages`, { address: LOFT, again: true })
    expect(web.asked).toHaveLength(from + 4)
    await letThem(ines, id, false)
    await letThem(ines, id)
    expect((await ines.call<LinkedPages>('GET', `/api/trees/${id}/pages`)).data.pages).toEqual([])
  })

  it('are asked only where a link of the tree leads, never inward, and what says nothing is kept as that', async () => {
    const inner = ['https://127.0.0.1/admin', 'https://[::1]/', 'https://10.1.2.3/', 'https://haven.example/inward']
    const { ines, id } = await withLinks('https://haven.example/none', ...inner)
    await letThem(ines, id)
    expect(await ines.refusal('POST', `/api/trees/${id}/pages`, { address: LOFT })).toBe('404 no-link')
    for (const address of ['https://haven.example/none', ...inner])
      expect((await ines.call<LinkedPage>('POST', `/api/trees/${id}/pages`, { address })).data, address).toMatchObject({
        title: '',
        summary: '',
        picture: null,
      })
    expect(web.asked.some(at => /secret|admin|^10\./.test(at))).toBe(false)
  })

  it('that didn’t answer are asked once more after a day; those that did aren’t', async () => {
    web.pages.set('haven.example/late', { status: 503 })
    const { ines, id } = await withLinks('https://haven.example/late', LOFT)
    await letThem(ines, id)
    const look = async (address: string): Promise<string> =>
      (await ines.call<LinkedPage>('POST', `/api/trees/${id}/pages`, { address })).data.title
    expect([await look('https://haven.example/late'), await look(LOFT)]).toEqual(['', 'The drying loft'])
    web.pages.set('haven.example/late', { body: '<title>Here after all</title>' })
    expect(await look('https://haven.example/late')).toBe('')
    const db = await createConnection(house.databaseUrl)
    await db.query('UPDATE linked_pages SET at = at - INTERVAL 25 HOUR WHERE tree_id = ?', [id])
    await db.end()
    expect((await ines.call<LinkedPages>('GET', `/api/trees/${id}/pages`)).data.pages).toHaveLength(1)
    const from = web.asked.length
    expect([await look('https://haven.example/late'), await look(LOFT)]).toEqual(['Here after all', 'The drying loft'])
    expect(web.asked.slice(from)).toEqual(['haven.example/late'])
  })

  it('that say what is made to choke a reader are read in a thread, and stay short', async () => {
    web.pages.set('haven.example/endless', {
      body: `<title>${'a'.repeat(3_000_000)}</title>${'<div>'.repeat(100_000)}`,
    })
    web.pages.set('haven.example/latin', {
      type: 'text/html; charset=iso-8859-1',
      body: Buffer.from('<title>Gerberstra\xdfe</title>', 'latin1'),
    })
    const { ines, id } = await withLinks('https://haven.example/endless', 'https://haven.example/latin')
    await letThem(ines, id)
    const say = async (path: string): Promise<string> =>
      (await ines.call<LinkedPage>('POST', `/api/trees/${id}/pages`, { address: `https://haven.example/${path}` })).data
        .title
    expect((await say('endless')).length).toBeLessThanOrEqual(300)
    expect(await say('latin')).toBe('Gerberstraße')
  })

  it('a check says which answer, which are gone, shut, silent, or lead round and round', async () => {
    const names = ['loft', 'old', 'none', 'shut', 'broken', 'round']
    const urls = [
      ...names.map(name => `https://haven.example/${name}`),
      'http://haven.example/loft',
      'https://10.0.0.1/',
    ]
    const { ines, id } = await withLinks(...urls)
    await letThem(ines, id)
    const { data } = await ines.call<CheckedAddress[]>('POST', `/api/trees/${id}/pages/check`, { addresses: urls })
    expect(data.map(({ address, is }) => [address, is])).toEqual(
      urls.map((url, i) => [url, ['there', 'there', 'gone', 'closed', 'silent', 'elsewhere', 'there', 'closed'][i]]),
    )
    expect(data[2]).toMatchObject({ status: 404 })
    expect(await ines.refusal('POST', `/api/trees/${id}/pages/check`, { addresses: ['https://haven.example/x'] })).toBe(
      '404 no-link',
    )
  })

  it('a page’s address given for a picture offers the picture that the page names', async () => {
    const { ines, id } = await withLinks('')
    const from = async (address: string) =>
      ines.call<{ id?: string; error?: { code: string; details?: { picture: string; title: string } } }>(
        'POST',
        `/api/trees/${id}/pictures/from-address`,
        { address },
      )
    const { status, data } = await from(LOFT)
    expect([status, data.error?.code]).toEqual([422, 'page'])
    expect(data.error?.details).toEqual({ picture: 'https://haven.example/loft.jpg', title: 'The drying loft' })
    expect((await from(data.error!.details!.picture)).data.id).toMatch(/^[0-9a-f]{64}$/)
    expect((await from('https://haven.example/old')).data.error?.code).toBe('no-picture')
    expect((await from('https://192.168.1.1/x.png')).data.error?.code).toBe('no-picture')
  })
})
