import { describe, expect, it } from 'vitest'
import { fold, foldedTitle } from './text'

describe('folded text', () => {
  it.each([
    ['Rundgänge', 'rundgange'],
    ['ÉCOLE', 'ecole'],
    ['Straße', 'strasse'],
    ['Łódź', 'łodz'],
    ['ﬁn', 'fin'],
    ['日本', '日本'],
  ])('%s', (text, folded) => {
    expect(fold(text)).toBe(folded)
  })
  it('of a topic is worked out once and anew for another topic object', () => {
    const topic = { title: 'Öffnung' }
    expect([foldedTitle(topic), foldedTitle(topic), foldedTitle({ ...topic, title: 'É' })]).toEqual([
      'offnung',
      'offnung',
      'e',
    ])
  })
})
