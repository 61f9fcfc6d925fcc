import { differenceCiede2000 } from 'culori'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { LOOKS } from '../tree/looks'
import { contrast, inkOn, luminance, mix, readable } from './colour'
import { groundAndInk, wearOf } from './wear'

const colour = fc.integer({ min: 0, max: 0xffffff }).map(n => `#${n.toString(16).padStart(6, '0')}`)

describe('contrast', () => {
  it('is as WCAG 2.2 defines it', () => {
    // WCAG 2.2, definition of "contrast ratio": 21 for black on white, 1 for a colour on itself.
    expect(contrast('#000000', '#ffffff')).toBe(21)
    expect(contrast('#123456', '#123456')).toBe(1)
    // Understanding SC 1.4.3 (from memory): #767676 is the lightest grey that passes 4.5 on white, #777777 doesn't.
    expect(contrast('#767676', '#ffffff')).toBeGreaterThanOrEqual(4.5)
    expect(contrast('#777777', '#ffffff')).toBeLessThan(4.5)
    expect(luminance('#ff0000')).toBeCloseTo(0.2126, 6)
    expect(mix('#000000', '#ffffff', 0.5)).toBe('#808080')
  })
  it('is kept for every colour that somebody may choose', () => {
    fc.assert(
      fc.property(colour, colour, (fill, ink) => {
        expect(contrast(inkOn(fill), fill)).toBeGreaterThanOrEqual(4.45)
        expect(contrast(readable(ink, fill), fill)).toBeGreaterThanOrEqual(4.45)
      }),
    )
  })
})

describe('looks', () => {
  it('have swatches that stand apart: ΔE of CIEDE2000 (CIE 142-2001) at least 10 by day and 7.5 at dusk', () => {
    // From about 2 on a difference is seen at a glance; the rest is room for small areas. Common practice, no source.
    const apart = differenceCiede2000()
    for (const look of LOOKS)
      for (const [dusk, least] of [
        [false, 10],
        [true, 7.5],
      ] as const) {
        const { hues } = wearOf(look, dusk)
        for (const [i, hue] of hues.entries())
          for (const other of hues.slice(i + 1))
            expect(apart(hue, other), `${look.name} ${hue} ${other}`).toBeGreaterThan(least)
      }
  })

  it('are at least six, and all their branch colours can be read on their planks, by day and at dusk', () => {
    expect(new Set(LOOKS.map(look => look.id)).size).toBeGreaterThanOrEqual(6)
    for (const look of LOOKS) {
      for (const dusk of [false, true]) {
        const wear = wearOf(look, dusk)
        for (const hue of wear.hues)
          expect(contrast(hue, wear.plank), `${look.name} ${hue}`).toBeGreaterThanOrEqual(4.49)
        expect(contrast(wear.ink, wear.plank)).toBeGreaterThan(7)
        expect(contrast(wear.onCentre, wear.centre)).toBeGreaterThanOrEqual(4.5)
        for (const fill of ['0', '5', '#ffee00', '#000000']) {
          const { ground, ink } = groundAndInk(wear, fill, '#888888')
          expect(contrast(ground, ink)).toBeGreaterThanOrEqual(4.45)
        }
      }
    }
  })
})
