import { describe, expect, it } from 'vitest'
import { fold } from './text'

describe('folded text', () => {
  it.each([['Rundgänge', 'rundgange'], ['ÉCOLE', 'ecole'], ['Straße', 'strasse'], ['Łódź', 'łodz'], ['ﬁn', 'fin'], ['日本', '日本']])('%s', (text, folded) => {
    expect(fold(text)).toBe(folded)
  })
})
