/*
 * One drawing by day and by dusk: what is drawn is the same, only colours differ, so both fit into one picture that takes the light of
 * whoever looks at it.
 */

const COLOUR = /((?:fill|stroke|color)="[^"]*")/

/**
 * An SVG for a page, of the same scene drawn by day and by dusk: by day, and where the reader's screen is dark by dusk. By day alone
 * where the two aren't alike but for their colours. `of`: a CSS selector for the picture on its page.
 */
export function byLight(day: string, dusk: string, of: string): string {
  const [bright, dark] = [day.split(COLOUR), dusk.split(COLOUR)]
  if (bright.length !== dark.length) return day
  /** Both colours, and the custom property that stands for them. */
  const pairs = new Map<string, { readonly name: string; readonly day: string; readonly dusk: string }>()
  const valueOf = (attribute: string): string => attribute.slice(attribute.indexOf('"') + 1, -1)
  const parts: string[] = []
  for (const [i, here] of bright.entries()) {
    const there = dark[i]!
    if (here === there) {
      parts.push(here)
      continue
    }
    // Between colours all is the same.
    if (i % 2 === 0) return day
    const [a, b] = [valueOf(here), valueOf(there)]
    const key = `${a} ${b}`
    let pair = pairs.get(key)
    if (!pair) pairs.set(key, (pair = { name: `--light-${pairs.size}`, day: a, dusk: b }))
    parts.push(`${here.slice(0, here.indexOf('"'))}"var(${pair.name})"`)
  }
  if (pairs.size === 0) return day
  const said = (which: 'day' | 'dusk'): string =>
    `${of}{${Array.from(pairs.values(), pair => `${pair.name}:${pair[which]}`).join(';')}}`
  const svg = parts.join('')
  const inside = svg.indexOf('>') + 1
  return `${svg.slice(0, inside)}<style>${said('day')}@media screen and (prefers-color-scheme:dark){${said('dusk')}}</style>${svg.slice(inside)}`
}
