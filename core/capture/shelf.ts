import { fold } from '../find/text'

/* Searching a shelf of pictures by words. */

/** A picture by the words that people may look for it with. */
export interface Shelved {
  /** Its set and its name there. */
  readonly id: string
  /** What it is called, in the language of whoever looks. */
  readonly label: string
  /** The character that it draws; null for a plain symbol. */
  readonly emoji: string | null
  /** Words for it, folded (`fold`), in every language that is searched. */
  readonly words: readonly string[]
}

/** How well a word fits one that was asked for: the whole word, its beginning, or within it; 0 for not at all. */
const fits = (word: string, asked: string): number =>
  word === asked ? 4 : word.startsWith(asked) ? 2 : asked.length > 2 && word.includes(asked) ? 1 : 0

/**
 * Those that every word fits, the best first; of equals as they stand. Case, accents and order of the words don't matter. Nothing
 * asked finds nothing.
 */
export function searchShelf(shelf: readonly Shelved[], words: string, most: number): Shelved[] {
  const asked = fold(words).split(/\s+/).filter(Boolean).slice(0, 8)
  if (asked.length === 0) return []
  const found: { readonly one: Shelved; readonly fit: number }[] = []
  for (const one of shelf) {
    let fit = 0
    for (const word of asked) {
      let best = 0
      for (const own of one.words) best = Math.max(best, fits(own, word))
      if (best === 0) {
        fit = 0
        break
      }
      fit += best
    }
    if (fit > 0) found.push({ one, fit })
  }
  return found
    .sort((a, b) => b.fit - a.fit)
    .slice(0, most)
    .map(({ one }) => one)
}
