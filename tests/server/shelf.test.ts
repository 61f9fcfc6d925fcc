import sharp from 'sharp'
import { describe, expect, inject, it } from 'vitest'
import type { ShelfPicture } from '../../core/contract'
import { bringIn, signUp } from '../caller'

const url = inject('url')

describe('the shelf of pictures', () => {
  it('is searched in many languages, and draws what it finds', async () => {
    const ines = await signUp(url)
    const find = async (words: string, language?: string): Promise<ShelfPicture[]> => {
      const query = new URLSearchParams({ words, ...(language ? { language } : {}) })
      const { status, data } = await ines.call<ShelfPicture[]>('GET', `/api/shelf?${query}`)
      expect(status).toBe(200)
      return data
    }
    const books = await find('books')
    expect(books[0]).toMatchObject({ label: 'books', emoji: expect.stringContaining('📚') as string })
    expect(books[0]!.drawing).toMatch(/^<svg [^>]*viewBox="0 0 72 72"/)
    for (const [language, word] of [
      ['de', 'Bücherstapel'],
      ['fr', 'livres'],
      ['da', 'bøger'],
      ['es', 'libros'],
    ] as const)
      expect(
        (await find(word, language)).map(({ emoji }) => emoji?.slice(0, 2)),
        language,
      ).toContain('📚')
    // Symbols are found by their names, after the pictures.
    const crates = await find('package')
    expect(crates.some(({ id, emoji }) => id.startsWith('lucide:') && emoji === null)).toBe(true)
    expect(await find('qqqzzz')).toEqual([])
    expect(await find('')).toEqual([])
    // A language that isn't there is English.
    expect((await find('books', 'xx'))[0]!.label).toBe('books')
  })

  it('goes into a tree as a picture of its own, for editors alone; what isn’t on it is refused', async () => {
    const [ines, rana] = [await signUp(url), await signUp(url, 'Rana Tahiri')]
    const tree = await ines.makeTree()
    await bringIn(ines, tree, rana, 'viewer')
    const path = `/api/trees/${tree}/pictures/from-shelf`
    for (const picture of ['openmoji:books', 'lucide:package']) {
      const { status, data } = await ines.call<{ id: string; width: number }>('POST', path, { picture })
      expect([status, data.width]).toEqual([200, 320])
      const file = await fetch(`${url}/api/trees/${tree}/files/${data.id}`, { headers: { cookie: ines.cookie } })
      const { channels } = await sharp(Buffer.from(await file.arrayBuffer())).stats()
      // Something is drawn, on no ground.
      expect(channels[3]!.max).toBe(255)
      expect(channels[3]!.min).toBe(0)
    }
    expect(await rana.refusal('POST', path, { picture: 'openmoji:books' })).toMatch(/^403/)
    for (const picture of ['openmoji:none', 'lucide:constructor', '../../etc/passwd', 'noto:books', 'books'])
      expect(await ines.refusal('POST', path, { picture })).toBe('422 no-picture')
  })

  it('answers two hundred who search at once', async () => {
    const people = await Promise.all(Array.from({ length: 50 }, () => signUp(url)))
    const answers = await Promise.all(
      people.flatMap(one => ['lift', 'books', 'van', 'key'].map(words => one.call('GET', `/api/shelf?words=${words}`))),
    )
    expect(answers.every(({ status }) => status === 200)).toBe(true)
  })
})
