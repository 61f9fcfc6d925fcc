import { z } from 'zod'
import { colour } from './atoms'
import { field, schemasOf } from './field-spec'

/** Outlines of our own for planks that somebody wants to stand out. */
export const SHAPES = ['box', 'round', 'tag', 'slate', 'awning', 'ticket'] as const
export type Shape = (typeof SHAPES)[number]
export const BORDERS = ['thin', 'thick', 'dashed', 'double'] as const
/** How wide a text may be let run, in canvas units. */
export const TEXT_WIDTH = { least: 60, most: 900 } as const
export const TEXT_SIZES = ['small', 'large', 'huge'] as const
export type TextSize = (typeof TEXT_SIZES)[number]

/**
 * The letters that titles are set in: `plain` (Figtree), `broad` (Bricolage Grotesque), `book` (Literata), `hand` (Caveat). All
 * ship with the app.
 */
export const TYPEFACES = ['plain', 'broad', 'book', 'hand'] as const
export type Typeface = (typeof TYPEFACES)[number]

/** What dresses one topic. */
export const STYLE_FIELDS = {
  fill: field({
    schema: colour.nullable(),
    blank: null,
    name: 'fill',
    about: 'The plank’s colour: a place in the look’s palette, or #rrggbb.',
    opml: 'text',
    examples: ['1'],
  }),
  ink: field({
    schema: colour.nullable(),
    blank: null,
    name: 'ink',
    about: 'The colour of the title.',
    opml: 'text',
    examples: ['#112233'],
  }),
  typeface: field({
    schema: z.enum(TYPEFACES).nullable(),
    blank: null,
    name: 'typeface',
    about: 'The letters of the title: plain, broad, book or hand.',
    opml: 'text',
    examples: ['book'],
  }),
  textSize: field({
    schema: z.enum(TEXT_SIZES).nullable(),
    blank: null,
    name: 'text size',
    about: 'Smaller or larger than usual.',
    opml: 'text',
    examples: ['large'],
  }),
  bold: field({
    schema: z.boolean(),
    blank: false,
    name: 'bold',
    about: 'Heavy letters.',
    opml: 'truth',
    examples: [true],
  }),
  slanted: field({
    schema: z.boolean(),
    blank: false,
    name: 'slanted letters',
    about: 'Slanted letters.',
    opml: 'truth',
    examples: [true],
  }),
  underlined: field({
    schema: z.boolean(),
    blank: false,
    name: 'underline',
    about: 'A line below the title.',
    opml: 'truth',
    examples: [true],
  }),
  shape: field({
    schema: z.enum(SHAPES).nullable(),
    blank: null,
    name: 'shape',
    about: 'The plank’s outline.',
    opml: 'text',
    examples: ['tag'],
  }),
  border: field({
    schema: z.enum(BORDERS).nullable(),
    blank: null,
    name: 'border',
    about: 'The line round the plank.',
    opml: 'text',
    examples: ['dashed'],
  }),
  edge: field({
    schema: colour.nullable(),
    blank: null,
    name: 'border colour',
    about: 'The colour of that line.',
    opml: 'text',
    examples: ['4'],
  }),
  width: field({
    schema: z.number().min(TEXT_WIDTH.least).max(TEXT_WIDTH.most).nullable(),
    blank: null,
    name: 'width',
    about: 'The widest its text may run, in canvas units.',
    opml: 'number',
    examples: [200],
  }),
} as const
export type StyleField = keyof typeof STYLE_FIELDS
/** The style fields a level of a tree or of a look may say. */
export const levelStyle = z.strictObject(schemasOf(STYLE_FIELDS)).partial()
