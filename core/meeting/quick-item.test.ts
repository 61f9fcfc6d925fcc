import { describe, expect, it } from 'vitest'
import { readItemLine } from './quick-item'

const people = [
  { id: 'o', name: 'Oskar Moreau' },
  { id: 'r', name: 'Rana Tahiri' },
]

describe('an agenda line', () => {
  it.each([
    ['Two offers // decide, 20 min, Oskar', { title: 'Two offers', intent: 'decide', minutes: 20, owner: 'o' }],
    ['Two offers //20', { title: 'Two offers //20', intent: null, minutes: null, owner: null }],
    ['Two offers // 15, rana tahiri', { title: 'Two offers', intent: null, minutes: 15, owner: 'r' }],
    ['Plan // 1 h, inf', { title: 'Plan', intent: 'inform', minutes: 60, owner: null }],
    [
      'Plan // 0 min, -5 min, somebody',
      { title: 'Plan // 0 min, -5 min, somebody', intent: null, minutes: null, owner: null },
    ],
    ['See https://a.example//b', { title: 'See https://a.example//b', intent: null, minutes: null, owner: null }],
    ['  Bare ', { title: 'Bare', intent: null, minutes: null, owner: null }],
  ])('“%s”', (text, made) => {
    expect(readItemLine(text, people)).toEqual({ wish: null, ...made })
  })
})
