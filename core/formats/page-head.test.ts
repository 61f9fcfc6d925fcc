import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readPageHead } from './page-head'

const AT = 'https://haven.example/rooms/loft'

describe('a page’s head', () => {
  it('says title, description and picture, each in the words meant for cards first', () => {
    const plain =
      '<!doctype html><html><head><title> Drying\n loft &amp; stairs </title><meta name=description content="Where hides dried.">'
    expect(readPageHead(plain, AT)).toEqual({
      title: 'Drying loft & stairs',
      summary: 'Where hides dried.',
      picture: null,
    })
    const cards = `${plain}<meta property="og:title" content="The loft"><meta property="og:image" content="/pictures/loft.jpg">`
    expect(readPageHead(cards, AT)).toEqual({
      title: 'The loft',
      summary: 'Where hides dried.',
      picture: 'https://haven.example/pictures/loft.jpg',
    })
    expect(readPageHead(`<base href="https://files.haven.example/a/">${cards}`, AT).picture).toBe(
      'https://files.haven.example/pictures/loft.jpg',
    )
  })

  it('takes no address but https, and nothing behind the head', () => {
    for (const address of [
      'http://haven.example/x.png',
      'data:image/png;base64,xx',
      'javascript:alert(1)',
      'https://[',
    ])
      expect(readPageHead(`<meta property="og:image" content="${address}">`, AT).picture).toBeNull()
    expect(readPageHead('<head></head><body><title>No</title><meta name=description content=No>', AT)).toEqual({
      title: '',
      summary: '',
      picture: null,
    })
    // The title of a drawing in the page isn't the page's.
    expect(readPageHead('<title>Page</title><svg><title>Drawing</title></svg>', AT).title).toBe('Page')
  })

  it('is read from anything, stays short and well-formed', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 3000 }), text => {
        const head = readPageHead(`<title>${text}</title><meta name=description content='${text}'>`, AT)
        expect(head.title.length).toBeLessThanOrEqual(300)
        expect(head.summary.length).toBeLessThanOrEqual(600)
        expect(head.title.isWellFormed() && head.summary.isWellFormed()).toBe(true)
      }),
    )
    const deep = '<div>'.repeat(200_000)
    expect(readPageHead(`<title>Deep</title>${deep}`, AT).title).toBe('Deep')
  })
})
