/** What a tree can be taken along as, with what people call it. */
export const FORMATS = [
  ['markdown', 'Markdown'],
  ['opml', 'OPML'],
  ['text', 'Plain list'],
  ['json', 'Sun Porch JSON, everything'],
] as const
