import type { Look } from '../tree/looks'
import { inkOn, mix, readable } from './colour'

/** A look as it's worn in one theme: every colour ready to draw with. */
export interface Wear {
  readonly page: string
  readonly plank: string
  readonly ink: string
  readonly centre: string
  readonly onCentre: string
  readonly hues: readonly string[]
  readonly line: number
}

const DUSK = { page: '#12211f', plank: '#182a29', ink: '#e4efed' } as const

/**
 * By day a look is as it says. At dusk its ground is the dusk ground with a breath of its own, and its hues are made
 * light enough to read.
 */
export function wearOf(look: Look, dusk: boolean): Wear {
  if (!dusk)
    return {
      page: look.page,
      plank: look.plank,
      ink: look.ink,
      centre: look.centre,
      onCentre: inkOn(look.centre),
      hues: look.hues.map(hue => readable(hue, look.plank)),
      line: look.line,
    }
  const plank = mix(DUSK.plank, look.centre, 0.06)
  const centre = readable(mix(look.centre, '#ffffff', 0.35), DUSK.page)
  return {
    page: mix(DUSK.page, look.centre, 0.05),
    plank,
    ink: DUSK.ink,
    centre,
    onCentre: inkOn(centre, '#0c1a1d'),
    hues: look.hues.map(hue => readable(mix(hue, '#ffffff', 0.3), plank)),
    line: look.line,
  }
}

/** A colour as somebody chose it: a place in the palette, or itself. */
export function colourIn(wear: Wear, chosen: string): string {
  return /^[0-9]$/.test(chosen) ? wear.hues[Number(chosen)]! : chosen
}

/** Ground and ink of a plank with a fill: the ink that was chosen, made readable, or the one that reads best. */
export function groundAndInk(
  wear: Wear,
  fill: string | null,
  ink: string | null,
): { readonly ground: string; readonly ink: string } {
  const ground = fill === null ? wear.plank : colourIn(wear, fill)
  if (ink !== null) return { ground, ink: readable(colourIn(wear, ink), ground) }
  return { ground, ink: fill === null ? wear.ink : inkOn(ground) }
}
