/*
 * Colours as sRGB #rrggbb, and how well they can be told apart. Rule: WCAG 2.2, "relative luminance" and "contrast
 * ratio"; text needs 4.5 : 1 (success criterion 1.4.3).
 */

export const LEAST_CONTRAST = 4.5

type Channels = readonly [number, number, number]

function channels(colour: string): Channels {
  const n = Number.parseInt(colour.slice(1), 16)
  return [n >> 16, (n >> 8) & 255, n & 255]
}

function toHex(rgb: Channels): string {
  return `#${rgb
    .map(value =>
      Math.round(Math.min(255, Math.max(0, value)))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`
}

/** 0 for black to 1 for white. */
export function luminance(colour: string): number {
  const [r, g, b] = channels(colour).map(value => {
    const part = value / 255
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4
  }) as unknown as Channels
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}

/** 1 (the same) to 21 (black on white). */
export function contrast(a: string, b: string): number {
  const [x, y] = [luminance(a), luminance(b)]
  return (Math.max(x, y) + 0.05) / (Math.min(x, y) + 0.05)
}

/** `part` of the way from one colour to another. */
export function mix(from: string, to: string, part: number): string {
  const [a, b] = [channels(from), channels(to)]
  return toHex(a.map((value, i) => value + (b[i]! - value) * part) as unknown as Channels)
}

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
