import type { Syllables } from './plank'

/*
 * Words in pieces, by the patterns of TeX (F. Liang, “Word Hy-phen-a-tion by Com-put-er”, Stanford 1983) as the `hyphen` package
 * has them.
 */

const SOFT = '\u00AD'
type Patterns = Promise<unknown>
/** By language, and by language and country where they differ. */
const PATTERNS: Readonly<Record<string, () => Patterns>> = {
  da: () => import('hyphen/patterns/da'),
  de: () => import('hyphen/patterns/de-1996'),
  en: () => import('hyphen/patterns/en-gb'),
  'en-US': () => import('hyphen/patterns/en-us'),
  es: () => import('hyphen/patterns/es'),
  fi: () => import('hyphen/patterns/fi'),
  fr: () => import('hyphen/patterns/fr'),
  it: () => import('hyphen/patterns/it'),
  nb: () => import('hyphen/patterns/nb'),
  nl: () => import('hyphen/patterns/nl'),
  pl: () => import('hyphen/patterns/pl'),
  pt: () => import('hyphen/patterns/pt'),
  sv: () => import('hyphen/patterns/sv'),
}
/** Languages whose long words are parted. */
export const PARTED: readonly string[] = Object.keys(PATTERNS)
/** What has no patterns of its own is parted as its language is elsewhere. */
const patternsOf = (language: string): (() => Patterns) | undefined =>
  PATTERNS[language] ?? PATTERNS[language.split('-')[0]!]

/** Null for a language that has no patterns here. Rejects when they can't be fetched. */
export async function hyphenatorFor(language: string): Promise<Syllables | null> {
  const load = patternsOf(language)
  if (!load) return null
  const [library, patterns] = await Promise.all([import('hyphen'), load()])
  const parted = plain(library)(plain(patterns) as never, { hyphenChar: SOFT }) as (text: string) => string
  return word => (word.length > MOST_LETTERS ? [word] : pieces(word, parted))
}

/** What is longer is no word. */
const MOST_LETTERS = 200

function pieces(word: string, parted: (text: string) => string): string[] {
  // Where somebody put soft hyphens of their own the word is parted there; each stays with the piece before it.
  if (word.includes(SOFT)) return word.split(new RegExp(`(?<=${SOFT})`))
  // A hyphen of its own parts a word as well.
  return word.split(/(?<=[-‐–—])/).flatMap(part => parted(part).split(SOFT))
}

/** What a package of the older kind gives, whichever way it was loaded. */
const plain = <T>(loaded: T): T extends { default: infer D } ? D : T =>
  ((loaded as { default?: unknown }).default ?? loaded) as never
