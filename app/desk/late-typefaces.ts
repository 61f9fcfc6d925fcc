import type { Face } from '#core/arrange/plank'

/** Style sheets of typefaces that few trees ask for: they come when one does, and their files after them. */
const SHEETS: Partial<
  Record<Face['family'], { readonly plain: () => Promise<unknown>; readonly slanted?: () => Promise<unknown> }>
> = {
  book: {
    plain: () => import('@fontsource-variable/literata/wght.css'),
    slanted: () => import('@fontsource-variable/literata/wght-italic.css'),
  },
  hand: { plain: () => import('@fontsource-variable/caveat/wght.css') },
}
const FAMILY: Partial<Record<Face['family'], string>> = { book: 'Literata Variable', hand: 'Caveat Variable' }
const asked = new Set<string>()

/** Sees to it that a typeface comes, once; what was measured before is measured again when it's there (`onLateFonts`). */
export function needTypeface({ family, slanted }: Pick<Face, 'family' | 'slanted'>): void {
  const sheets = SHEETS[family]
  if (!sheets) return
  const leant = slanted && sheets.slanted !== undefined
  const name = `${family}${leant ? ' slanted' : ''}`
  if (asked.has(name)) return
  asked.add(name)
  void (leant ? sheets.slanted! : sheets.plain)()
    .then(() => document.fonts.load(`${leant ? 'italic ' : ''}450 14px "${FAMILY[family]}"`))
    // Without a line titles stand in what there is; the next time somebody asks it's tried again.
    .catch(() => asked.delete(name))
}
