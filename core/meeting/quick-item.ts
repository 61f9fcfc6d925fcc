import { INTENTS, type Intent } from '../tree/meeting'

/** What a typed agenda line says: "Two offers // decide, 20 min, Oskar". */
export interface QuickItem {
  readonly title: string
  readonly intent: Intent | null
  readonly minutes: number | null
  readonly owner: string | null
  /** A name that nobody here has yet. */
  readonly wish: string | null
}

/** What can be somebody's name: up to three words that begin with a capital, or anything after @. */
const NAME = /^(?:@\p{L}[\p{L}'’.-]*|\p{Lu}[\p{L}'’.-]*)(?: \p{Lu}[\p{L}'’.-]*){0,2}$/u
const DIVIDER = /(?:^|\s)\/\/(?:\s+|$)/

/**
 * Reads words after `//` in an agenda line: an intent, minutes ("20 min", "1 h", "20"), an owner by name. What isn't
 * understood stays in the title.
 */
export function readItemLine(
  text: string,
  people: readonly { readonly id: string; readonly name: string }[],
): QuickItem {
  const divider = DIVIDER.exec(text)
  let made: QuickItem = { title: text.trim(), intent: null, minutes: null, owner: null, wish: null }
  if (!divider) return made
  const left: string[] = []
  for (const part of text
    .slice(divider.index + divider[0].length)
    .split(',')
    .map(piece => piece.trim())
    .filter(Boolean)) {
    const intent = INTENTS.find(one => one.startsWith(part.toLowerCase()) && part.length >= 3)
    const length = /^(\d{1,4})\s*(m|min|mins|minutes?|h|hours?)?$/i.exec(part)
    const minutes = length ? Number(length[1]) * (/^h/i.test(length[2] ?? '') ? 60 : 1) : 0
    const said = part.replace(/^@/, '').toLocaleLowerCase()
    const owners = people.filter(
      ({ name }) => name.toLocaleLowerCase() === said || name.toLocaleLowerCase().split(/\s+/)[0] === said,
    )
    if (intent) made = { ...made, intent }
    else if (minutes >= 1 && minutes <= 1440) made = { ...made, minutes }
    else if (owners.length === 1) made = { ...made, owner: owners[0]!.id }
    else if (owners.length === 0 && made.wish === null && NAME.test(part))
      made = { ...made, wish: part.replace(/^@/, '') }
    else left.push(part)
  }
  const title = text.slice(0, divider.index).trim()
  return { ...made, title: left.length > 0 ? `${title} // ${left.join(', ')}` : title }
}
