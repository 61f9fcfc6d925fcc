import { describe, expect, it } from 'vitest'
import { pathHere } from './path-here'

describe('a path that an address gave', () => {
  it('is gone to where it lies in this app', () => {
    for (const path of ['/', '/trees/a?topic=b#c', '/work', '/a//b']) expect(pathHere(path)).toBe(path)
  })

  // RFC 3986, 4.2: two slashes begin an authority. WHATWG URL, 4.4: a backslash counts as a slash, and tabs and line ends are taken out.
  it('is nobody else’s house', () => {
    const all = ['//elsewhere.example', '/\\elsewhere.example', '/\t/elsewhere.example', '/\n/elsewhere.example']
    for (const path of all) {
      expect(new URL(path, 'https://porch.example').host).toBe('elsewhere.example')
      expect(pathHere(path)).toBe('/')
    }
    for (const path of ['https://elsewhere.example/', 'javascript:alert(1)', '', undefined, null, ['/work']])
      expect(pathHere(path)).toBe('/')
  })
})
