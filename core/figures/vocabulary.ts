import { FUNCTIONS, GATHERINGS, PROPERTIES } from './formula'

/** Words that mean something by themselves, the longest first. */
export const WORDS = [
  ...FUNCTIONS,
  ...GATHERINGS,
  ...PROPERTIES,
  'all below',
  'children',
  'parent',
  'centre',
  'today',
  'true',
  'false',
  'and',
  'or',
  'not',
  'of',
  'marked',
  'with',
  'late',
  'open',
  'nobody’s',
].sort((a, b) => b.length - a.length)
export const WORDS_BY_LETTER = new Map<string, string[]>()
for (const word of WORDS) WORDS_BY_LETTER.set(word[0]!, [...(WORDS_BY_LETTER.get(word[0]!) ?? []), word])
export const RESERVED: ReadonlySet<string> = new Set(WORDS)
/** Whether a name has to stand in single quotes to be told from a word of formulas. */
export const needsQuotes = (name: string): boolean =>
  RESERVED.has(name.toLocaleLowerCase()) ||
  !/^[\p{L}_][\p{L}\p{N}_ -]*$/u.test(name) ||
  / (?:of|and|or|not) /iu.test(name)
