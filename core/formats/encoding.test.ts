import { describe, expect, it } from 'vitest'
import { decode, decodeAs } from './encoding'

const TEXT = 'Übersiedlung: Bücher, Möbel, déjà vu'
const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text)
const utf16 = (text: string, little: boolean): number[] =>
  [...text].flatMap(letter => {
    const code = letter.charCodeAt(0)
    return little ? [code & 255, code >> 8] : [code >> 8, code & 255]
  })
/**
 * Windows-1252 has these letters where ISO 8859-1 has them (WHATWG Encoding Standard, index windows-1252). Node 20
 * reads its 0x80 to 0x9F wrong; browsers don't.
 */
const western = (text: string): Uint8Array => Uint8Array.from([...text].map(letter => letter.charCodeAt(0)))

describe('the encoding of a file', () => {
  it.each<[string, Uint8Array, string, boolean]>([
    ['UTF-8', utf8(TEXT), 'utf-8', true],
    ['UTF-8 with its mark', Uint8Array.from([0xef, 0xbb, 0xbf, ...utf8(TEXT)]), 'utf-8', true],
    ['UTF-16 with its mark', Uint8Array.from([0xff, 0xfe, ...utf16(TEXT, true)]), 'utf-16le', true],
    ['UTF-16, the other way round', Uint8Array.from([0xfe, 0xff, ...utf16(TEXT, false)]), 'utf-16be', true],
    ['UTF-16 without a mark', Uint8Array.from(utf16(TEXT, true)), 'utf-16le', true],
    ['Windows-1252, which nothing says', western(TEXT), 'windows-1252', false],
  ])('%s', (_, bytes, encoding, sure) => expect(decode(bytes)).toEqual({ text: TEXT, encoding, sure }))

  it('an XML declaration says it; one that is wrong doesn’t', () => {
    const xml = (encoding: string): string =>
      `<?xml version="1.0" encoding="${encoding}"?><opml><body><outline text="Bücher"/></body></opml>`
    expect(decode(western(xml('ISO-8859-1')))).toMatchObject({
      encoding: 'windows-1252',
      sure: true,
      text: xml('ISO-8859-1'),
    })
    expect(decode(western(xml('UTF-8')))).toMatchObject({ encoding: 'windows-1252', sure: false })
    expect(decode(utf8(xml('no-such-thing')))).toMatchObject({ encoding: 'utf-8', sure: true })
  })
  it('another choice reads the same bytes anew', () => {
    expect(decodeAs(Uint8Array.from([0xcf, 0xf0, 0xe8]), 'windows-1251')).toBe('При')
  })
})
