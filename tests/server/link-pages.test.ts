import { createHash } from 'node:crypto'
import { gzipSync } from 'node:zlib'
import { beforeAll, describe, expect, it } from 'vitest'
import type { Caller } from '../caller'
import { branch, form, laidOut, link, look, titles } from './link-stage'

let ines: Caller
beforeAll(async () => {
  ;({ ines } = await laidOut())
})

describe('a view by a link', () => {
  it('shows what the view finds that day, and says so when the tree keeps it no more', async () => {
    const { tree: id } = await branch()
    await ines.edit(id, [
      {
        op: 'tree-put',
        set: 'views',
        member: {
          id: 'v1',
          name: 'Bolts',
          query: null,
          text: 'bólts',
          rest: 'hide',
          view: 'outline',
          depth: null,
          outline: null,
        },
      },
    ] as never)
    const { address } = await link({ part: { kind: 'view', view: 'v1' }, may: 'edit' }, ines, id)
    const page = (await look(address)).text
    expect([page.includes('Bolts'), page.includes('Sizes'), page.includes('caretaker')]).toEqual([true, false, false])
    // What isn't shown isn't a guest's to change, nor what would go with what is.
    const { cookie } = await form(address, { do: 'keep', name: 'Tove', title: 'Bolts, M10', wasTitle: 'Bolts' })
    expect((await form(address, { do: 'keep', title: 'x', wasTitle: 'Sizes' }, { cookie, at: 'sizes' })).status).toBe(
      404,
    )
    expect((await form(address, { do: 'remove' }, { cookie, at: 'lift' })).status).toBe(403)
    expect(await titles(id)).toEqual(expect.arrayContaining(['Bolts, M10', 'Sizes', 'Lift']))
    await ines.edit(id, [{ op: 'set', topic: 'sizes', field: 'title', value: 'Bolt sizes, bolts' }])
    expect((await look(address)).text).toContain('Bolt sizes')
    await ines.edit(id, [{ op: 'tree-take', set: 'views', member: 'v1' }])
    expect((await look(address)).status).toBe(404)
  })
})

describe('a page in other pages', () => {
  it('stands in a frame of the sites that its link lists, read-only, and nowhere else', async () => {
    const site = 'https://www.haven-library.example'
    const { address, id: link_, tree: id } = await branch({ may: 'edit', hosts: [site] })
    const framed = await look(`${address}?frame`)
    expect(framed.status).toBe(200)
    expect(framed.headers.get('content-security-policy')).toContain(`frame-ancestors ${site};`)
    expect(framed.headers.get('x-frame-options')).toBeNull()
    for (const word of ['Bolts', 'id="box"', '<svg', 'noindex']) expect(framed.text).toContain(word)
    for (const word of ['<form', '?at=', '?as=', 'caretaker']) expect(framed.text).not.toContain(word)
    // The script is small, and no other may run.
    const scripts = [...framed.text.matchAll(/<script[^>]*>([\s\S]*?)<\/script>/g)].map(([, code]) => code!)
    expect(scripts).toHaveLength(1)
    expect(gzipSync(scripts[0]!).length).toBeLessThan(120_000)
    expect(framed.headers.get('content-security-policy')).toContain(
      `script-src 'sha256-${createHash('sha256').update(scripts[0]!).digest('base64')}'`,
    )
    const whole = await look(address)
    expect(whole.headers.get('content-security-policy')).toContain("frame-ancestors 'none'")
    expect(whole.headers.get('x-frame-options')).toBe('DENY')
    await ines.call('PATCH', `/api/trees/${id}/links/${link_}`, { hosts: [] })
    expect((await look(`${address}?frame`)).status).toBe(404)
  })

  it('takes sites and nothing that would open it to all, and no word beside', async () => {
    const { id: link_, tree: id } = await branch({ word: 'tannery' })
    const set = (hosts: unknown): Promise<string> => ines.refusal('PATCH', `/api/trees/${id}/links/${link_}`, { hosts })
    for (const wrong of [
      '*',
      'https://*',
      "'self'",
      'https://a.example; script-src *',
      'https://a.example/path',
      'data:',
    ])
      expect(await set([wrong])).toBe('400 invalid')
    expect(await set(['https://www.haven-library.example'])).toBe('409 word-in-frame')
    await ines.call('PATCH', `/api/trees/${id}/links/${link_}`, { word: null, hosts: ['http://localhost:8080'] })
    expect(await ines.refusal('PATCH', `/api/trees/${id}/links/${link_}`, { word: 'tannery' })).toBe(
      '409 word-in-frame',
    )
  })
})
