import type { SlideTheme } from './slide-theme'

/*
 * Fields of a document template: words in double braces, where what they name is written. The same for a tree and for minutes.
 */

interface FieldSpec {
  /** What it may be called; the first is the one that is told. */
  readonly words: readonly string[]
  /** Whether it takes paragraphs of its own, which have no place in a header. */
  readonly block: boolean
}

const FIELDS = {
  title: { words: ['title'], block: false },
  date: { words: ['date', 'today'], block: false },
  author: { words: ['author'], block: false },
  description: { words: ['description'], block: false },
  contents: { words: ['contents'], block: true },
  picture: { words: ['picture'], block: true },
  tree: { words: ['tree', 'minutes'], block: true },
  tasks: { words: ['tasks', 'actions'], block: true },
  people: { words: ['people'], block: true },
  key: { words: ['key'], block: true },
} as const satisfies Record<string, FieldSpec>
export type TemplateField = keyof typeof FIELDS
export const TEMPLATE_FIELDS = Object.keys(FIELDS) as readonly TemplateField[]

/** All words that stand for a field. */
export const wordsFor = (field: TemplateField): readonly string[] => FIELDS[field].words

export const isBlock = (field: TemplateField): boolean => FIELDS[field].block

/** The field that a word in braces stands for, or null. */
export const fieldOf = (word: string): TemplateField | null =>
  TEMPLATE_FIELDS.find(field => wordsFor(field).includes(word)) ?? null

/** What a template holds and lacks. */
export interface TemplateSaid {
  readonly fields: readonly TemplateField[]
  /** Words in braces that stand for nothing where they stand. */
  readonly unknown: readonly string[]
  /** Whether it says where the tree goes. */
  readonly tree: boolean
  /** Levels of headings, 1 to 6, that it has no style for. */
  readonly headings: readonly number[]
  /** Other styles, by name, that it lacks. */
  readonly styles: readonly string[]
  /** Of slides: what they wear. They have no fields. */
  readonly theme?: SlideTheme
}

/** What is written into a template, and down to which level it has headings. */
export interface TemplateUse {
  readonly what: 'tree' | 'minutes'
  readonly headings: number
}

/** What a template lacks, a sentence each. */
export function lacksInWords(said: TemplateSaid, { what, headings }: TemplateUse): string[] {
  const missing = [...said.headings.filter(level => level <= headings).map(level => `Heading ${level}`), ...said.styles]
  const goes = what === 'tree' ? 'goes, {{tree}}: it follows' : 'go, {{minutes}}: they follow'
  const unknown = said.unknown.map(word => `{{${word}}}`)
  return [
    ...(said.tree ? [] : [`It doesn’t say where the ${what} ${goes} the last line.`]),
    ...(missing.length > 0
      ? [
          `It has no style ${listed(missing)}: ${missing.length === 1 ? 'this looks as it usually does' : 'these look as they usually do'}.`,
        ]
      : []),
    ...(unknown.length > 0
      ? [
          `${listed(unknown)} ${unknown.length === 1 ? 'is no field there and stays as it stands' : 'are no fields there and stay as they stand'}.`,
        ]
      : []),
  ]
}

const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`
