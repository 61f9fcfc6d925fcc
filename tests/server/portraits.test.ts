import { describe, expect, inject, it } from 'vitest'
import { bringIn, signUp } from '../caller'

const url = inject('url')

describe('a picture of oneself', () => {
  it('is drawn anew, and shown to those one shares a tree with', async () => {
    const [ines, rana, stranger] = [await signUp(url), await signUp(url, 'Rana Tahiri'), await signUp(url, 'Stranger')]
    const put = (bytes: Uint8Array): Promise<Response> =>
      fetch(`${url}/api/account/picture`, {
        method: 'PUT',
        headers: { cookie: ines.cookie, 'content-type': 'application/octet-stream' },
        body: bytes as BodyInit,
      })
    expect((await put(new TextEncoder().encode('<svg onload="x"/>'))).status).toBe(422)
    const dot = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==',
      'base64',
    )
    expect((await put(dot)).status).toBe(200)
    await bringIn(ines, await ines.makeTree(), rana, 'viewer')
    const shown = await fetch(`${url}/api/people/${ines.id}/picture`, { headers: { cookie: rana.cookie } })
    expect([shown.status, shown.headers.get('content-type')]).toEqual([200, 'image/webp'])
    expect(await stranger.refusal('GET', `/api/people/${ines.id}/picture`)).toBe('404 no-picture')
  })
})

it('a demo that is asked for without a mail server trusts addresses, so that it can be tried at once', async () => {
  const ines = await signUp(url)
  expect((await ines.call('GET', '/api/me')).status).toBe(200)
})
