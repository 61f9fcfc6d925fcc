import { contrast, inkOn, readable } from '../dress/colour'

/*
 * The colours and fonts of a theme (ISO/IEC 29500-1, DrawingML, section 20.1.6.2: two dark, two light, six accents; major and minor font), as slides
 * of a tree wear them.
 */

export const SCHEME = [
  ...(['dk1', 'lt1', 'dk2', 'lt2', 'accent1', 'accent2', 'accent3', 'accent4', 'accent5', 'accent6'] as const),
] as const
export type SchemeColour = (typeof SCHEME)[number]

export interface SlideTheme {
  readonly ground: string
  readonly ink: string
  readonly cover: string
  readonly onCover: string
  /** One for each main branch in turn. */
  readonly hues: readonly string[]
  /** Fonts by name; null where the theme names none. */
  readonly heading: string | null
  readonly body: string | null
}

/** Contrast from which on a cover is told apart from the slides (WCAG 2.2, 1.4.11: 3 to 1). */
const APART = 3

/** `colours`: as #rrggbb. What would be too faint to be read on the ground is made darker or lighter. */
export function slideThemeOf(
  colours: Readonly<Partial<Record<SchemeColour, string>>>,
  fonts: { readonly major: string | null; readonly minor: string | null },
): SlideTheme {
  const ground = colours.lt1 ?? '#ffffff'
  const ink = readable(colours.dk1 ?? '#000000', ground)
  const cover =
    [colours.dk2, colours.accent1, colours.dk1].find(one => one !== undefined && contrast(one, ground) >= APART) ?? ink
  const accents = SCHEME.slice(4).flatMap(name => colours[name] ?? [])
  return {
    ground,
    ink,
    cover,
    onCover: inkOn(cover, ink, ground),
    hues: (accents.length > 0 ? accents : [cover]).map(one => readable(one, ground)),
    heading: fonts.major,
    body: fonts.minor,
  }
}
