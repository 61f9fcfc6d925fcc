import type { Syllables } from './plank'

/*
 * Where words of a language may be parted. The patterns are large, so each language's are loaded when a tree first asks for them; until
 * then long words are cut where the line ends.
 */

const loaded = new Map<string, Syllables | null>()
const loading = new Map<string, Promise<void>>()

/** Null while they aren't loaded, and for a language that has none. */
export const syllablesIn = (language: string | null): Syllables | null =>
  language === null ? null : (loaded.get(language) ?? null)

/** Loads what languages need. True when planks may be set otherwise by it. Rejects when it can't be fetched; it may be asked again. */
export async function loadSyllables(languages: Iterable<string>): Promise<boolean> {
  let any = false
  for (const language of languages) {
    if (loaded.has(language)) continue
    let way = loading.get(language)
    if (!way) {
      way = import('./hyphenation').then(async ({ hyphenatorFor }) => {
        loaded.set(language, await hyphenatorFor(language))
      })
      loading.set(language, way)
    }
    try {
      await way
      any ||= syllablesIn(language) !== null
    } finally {
      loading.delete(language)
    }
  }
  return any
}
