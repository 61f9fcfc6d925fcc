import fc from 'fast-check'
import { expect, it } from 'vitest'
import { contrast, LEAST_CONTRAST } from '../dress/colour'
import { SCHEME, slideThemeOf } from './slide-theme'

const none = { major: null, minor: null }

it('takes ground, ink, cover and hues from where a theme has them', () => {
  expect(
    slideThemeOf(
      { dk1: '#102a2a', lt1: '#fffdf6', dk2: '#6b2b1a', accent1: '#1f5f5b', accent2: '#f3e9a0' },
      { major: 'Bricolage Grotesque', minor: null },
    ),
  ).toEqual({
    ground: '#fffdf6',
    ink: '#102a2a',
    cover: '#6b2b1a',
    onCover: '#fffdf6',
    // The second would be too faint for words on that ground.
    hues: ['#1f5f5b', expect.not.stringMatching('#f3e9a0')],
    heading: 'Bricolage Grotesque',
    body: null,
  })
})
it('can be read on whatever a theme says (WCAG 2.2, 1.4.3: 4.5 to 1), and needs nothing of it', () => {
  const colour = fc.integer({ min: 0, max: 0xffffff }).map(n => `#${n.toString(16).padStart(6, '0')}`)
  fc.assert(
    fc.property(fc.record(Object.fromEntries(SCHEME.map(name => [name, colour])), { requiredKeys: [] }), colours => {
      const { ground, ink, cover, onCover, hues } = slideThemeOf(colours, none)
      expect(hues.length).toBeGreaterThan(0)
      for (const words of [ink, ...hues]) expect(contrast(words, ground)).toBeGreaterThanOrEqual(LEAST_CONTRAST - 0.01)
      expect(contrast(onCover, cover)).toBeGreaterThanOrEqual(3)
    }),
  )
  expect(slideThemeOf({}, none)).toMatchObject({ ground: '#ffffff', ink: '#000000', hues: ['#000000'] })
})
