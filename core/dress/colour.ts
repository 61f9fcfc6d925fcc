import { formatHex, interpolate, modeLrgb, modeRgb, useMode, wcagContrast, wcagLuminance } from 'culori/fn'

/*
 * Colours as sRGB #rrggbb, and how well they can be told apart. Rule: WCAG 2.2, "relative luminance" and "contrast
 * ratio"; text needs 4.5 : 1 (success criterion 1.4.3).
 */

export const LEAST_CONTRAST = 4.5

useMode(modeRgb)
// Luminance is of light, so of linear channels.
useMode(modeLrgb)

/** 0 for black to 1 for white. */
export const luminance = (colour: string): number => wcagLuminance(colour)

/** 1 (the same) to 21 (black on white). */
export const contrast = (a: string, b: string): number => wcagContrast(a, b)

/** `part` of the way from one colour to another. */
export const mix = (from: string, to: string, part: number): string => formatHex(interpolate([from, to], 'rgb')(part))

/** The colour itself when it can be read on the ground; else the nearest to it, toward white or black, that can. */
export function readable(colour: string, ground: string, least = LEAST_CONTRAST): string {
  if (contrast(colour, ground) >= least) return colour
  const toward = contrast('#ffffff', ground) >= contrast('#000000', ground) ? '#ffffff' : '#000000'
  let [low, high] = [0, 1]
  for (let i = 0; i < 12; i++) {
    const middle = (low + high) / 2
    if (contrast(mix(colour, toward, middle), ground) >= least) high = middle
    else low = middle
  }
  return mix(colour, toward, high)
}

/** Dark or light ink, whichever reads better on a fill, darker or lighter still where the fill is in between. */
export function inkOn(fill: string, dark = '#16292d', light = '#ffffff'): string {
  return readable(contrast(dark, fill) >= contrast(light, fill) ? dark : light, fill)
}
