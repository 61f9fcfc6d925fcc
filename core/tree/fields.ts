import { z } from 'zod'
import { againSchema } from './again'
import { calendarDay, clockTime, colour, fileId, percent, urgency, words } from './atoms'
import { entriesOf, field, type FieldSpec, type ValuesOf } from './field-spec'
import { languageTag } from './language'
import { LIMITS } from './limits'
import { entrySchema } from './meeting'
import { orderKey } from './order-key'
import { DUE_MEANS, estimateSchema, MOST_DAYS, START_MEANS } from './plan'
import { sketchSchema } from './sketch'
import { STYLE_FIELDS } from './style-fields'
import { numberingSchema, placeSchema, referenceSchema } from './substance'

export type Side = 'left' | 'right'
/** How a tree or a branch of it is laid out. */
export const ARRANGEMENTS = ['both', 'right', 'left', 'down', 'around', 'time', 'hand'] as const
export type Arrangement = (typeof ARRANGEMENTS)[number]

/** A picture in a topic: a file of the tree, its width as shown in canvas units, its height over its width, and its place. */
const pictureSchema = z.strictObject({
  file: fileId,
  width: z.number().min(16).max(2000),
  ratio: z.number().min(0.01).max(100),
  place: z.enum(['before', 'above', 'below']),
})
export type Picture = Readonly<z.infer<typeof pictureSchema>>

/**
 * The fields of a topic: what one change can set. A new field is one entry here; the topic's type, what is blank,
 * changes, copies, rows, files, comparing, the laws and the list in the docs follow from it (docs/decisions/0018).
 */
export const FIELDS = {
  title: field({
    schema: words(LIMITS.title),
    blank: '',
    name: 'title',
    about: 'The topic’s words; line breaks are kept.',
    column: 'text',
    headings: ['title', 'topic', 'name', 'task', 'text', 'summary', 'subject'],
    examples: ['Lift', 'Lamps\nin brass'],
  }),
  /** A calendar day, ISO 8601, without a zone. */
  start: field({
    schema: calendarDay.nullable(),
    blank: null,
    name: 'start',
    about: 'The day it begins.',
    column: 'day',
    opml: 'day',
    headings: ['start', 'start date', 'begins'],
    examples: ['2027-03-03'],
  }),
  /** A calendar day, ISO 8601, without a zone. */
  due: field({
    schema: calendarDay.nullable(),
    blank: null,
    name: 'due date',
    about: 'The day by which it’s to be done.',
    column: 'day',
    opml: 'day',
    headings: ['due', 'due date', 'finish', 'end', 'deadline'],
    examples: ['2027-05-12', '2027-05-13'],
  }),
  /** On the wall, in the tree's zone; it counts only where the start has a day. */
  startTime: field({
    schema: clockTime.nullable(),
    blank: null,
    name: 'time of the start',
    about: 'The time of day at which it begins, on the wall of the tree’s zone.',
    opml: 'text',
    headings: ['start time', 'begins at', 'starts at', 'time'],
    examples: ['07:30'],
  }),
  /** On the wall, in the tree's zone; it counts only where there is a due date. */
  dueTime: field({
    schema: clockTime.nullable(),
    blank: null,
    name: 'due time',
    about: 'The time of day by which it’s to be done, on the wall of the tree’s zone.',
    opml: 'text',
    headings: ['due time', 'finish time', 'end time', 'ends at'],
    examples: ['08:15', '23:59'],
  }),
  /** Working days. */
  duration: field({
    schema: z.number().min(0).max(10_000).nullable(),
    blank: null,
    name: 'length',
    about: 'Working days that it takes.',
    column: 'number',
    opml: 'number',
    headings: ['duration', 'days', 'length'],
    examples: [0, 2.5],
  }),
  /** Per cent, 0 to 100. */
  done: field({
    schema: percent.nullable(),
    blank: null,
    name: 'progress',
    about: 'Per cent done.',
    column: 'whole',
    opml: 'number',
    headings: ['done', 'done %', 'progress', '% complete', 'complete'],
    examples: [0, 100],
  }),
  /** 1 (most urgent) to 5. */
  priority: field({
    schema: urgency.nullable(),
    blank: null,
    name: 'priority',
    about: '1 (most urgent) to 5.',
    column: 'whole',
    opml: 'number',
    headings: ['priority'],
    examples: [1, 5],
  }),
  /** Hours of work in it, shared alike by its people. */
  effort: field({
    schema: z.number().min(0).max(1_000_000).nullable(),
    blank: null,
    name: 'work',
    about: 'Hours of work in it, shared alike by its people.',
    opml: 'number',
    headings: ['effort', 'work', 'hours'],
    examples: [0, 12.5],
  }),
  estimate: field({
    schema: estimateSchema.nullable(),
    blank: null,
    name: 'estimates',
    about: 'Three estimates of its length in working days: best, likely, worst.',
    opml: 'json',
    examples: [{ best: 2, likely: 3, worst: 8 }],
  }),
  startMeans: field({
    schema: z.enum(START_MEANS),
    blank: 'not-before',
    name: 'meaning of the start',
    about: 'What its start is for the plan: not before that day, or just then.',
    opml: 'text',
    examples: ['fixed'],
  }),
  dueMeans: field({
    schema: z.enum(DUE_MEANS),
    blank: 'deadline',
    name: 'meaning of the due date',
    about: 'What its due date is for the plan: a deadline, which only warns, or not after that day.',
    opml: 'text',
    examples: ['not-after'],
  }),
  /** A calendar day, ISO 8601, without a zone. */
  began: field({
    schema: calendarDay.nullable(),
    blank: null,
    name: 'actual start',
    about: 'The day on which it began in fact.',
    opml: 'day',
    examples: ['2027-03-04'],
  }),
  /** A calendar day, ISO 8601, without a zone. */
  ended: field({
    schema: calendarDay.nullable(),
    blank: null,
    name: 'actual finish',
    about: 'The day on which it ended in fact.',
    opml: 'day',
    examples: ['2027-03-09'],
  }),
  /** Working days from the status date on. */
  left: field({
    schema: z.number().min(0).max(MOST_DAYS).nullable(),
    blank: null,
    name: 'what is left',
    about: 'Working days that are left of it, from the status date on.',
    opml: 'number',
    examples: [0, 1.5],
  }),
  /** Hours of work that went into it in fact. */
  spent: field({
    schema: z.number().min(0).max(1_000_000).nullable(),
    blank: null,
    name: 'hours spent',
    about: 'Hours of work that went into it in fact.',
    opml: 'number',
    headings: ['spent', 'hours spent', 'actual'],
    examples: [0, 3.5],
  }),
  /** How it comes again: its due date is then the turn that is open. */
  again: field({
    schema: againSchema.nullable(),
    blank: null,
    name: 'how it comes again',
    about: 'How the task comes again: a recurrence rule (RFC 5545), and the day from which it’s counted.',
    opml: 'json',
    headings: ['comes again', 'again', 'repeats', 'recurrence', 'rrule'],
    examples: [
      { rule: 'FREQ=WEEKLY;BYDAY=MO', from: '2027-03-01' },
      { rule: 'FREQ=MONTHLY;INTERVAL=3;BYMONTHDAY=-1;UNTIL=20281231', from: '2027-03-31' },
    ],
  }),
  folded: field({
    schema: z.boolean(),
    blank: false,
    name: 'fold',
    about: 'Whether the branch opens folded.',
    standing: true,
    opml: 'truth',
    examples: [true],
  }),
  /** Where its children stand on both sides: those whose order is below this key stand right; null: the first half. */
  split: field({
    schema: orderKey.nullable(),
    blank: null,
    name: 'split',
    about: 'Where its children stand on both sides: the order key from which they stand left.',
    standing: true,
    copied: false,
    examples: ['a1', 'Zz'],
  }),
  /**
   * Where somebody put it; null lets the arrangement choose. A loose topic's upper left corner, in canvas units from
   * the centre's middle. Any other topic's middle from its parent's middle: so a branch placed by hand moves by one
   * change.
   */
  x: field({
    schema: z.number().min(-1e6).max(1e6).nullable(),
    blank: null,
    name: 'place',
    about: 'Where somebody put it, in canvas units to the right.',
    standing: true,
    examples: [0, 12.5],
  }),
  y: field({
    schema: z.number().min(-1e6).max(1e6).nullable(),
    blank: null,
    name: 'place',
    about: 'Where somebody put it, in canvas units down.',
    standing: true,
    examples: [0, -40],
  }),
  /** In front of (above 0) or behind the others, where topics are placed by hand. */
  z: field({
    schema: z.int().min(-10_000).max(10_000),
    blank: 0,
    name: 'layer',
    about: 'In front of (above 0) or behind the others.',
    standing: true,
    examples: [3],
  }),
  /** The arrangement of the branch that starts here, where it isn't the tree's. A loose topic that has one is a centre. */
  arrangement: field({
    schema: z.enum(ARRANGEMENTS).nullable(),
    blank: null,
    name: 'arrangement',
    about: 'How the branch that starts here is laid out, where it isn’t as the tree.',
    opml: 'text',
    examples: ['down'],
  }),
  /** Space in the frame that starts here, where it isn't the tree's: per cent of the usual between parent and child … */
  spaceAlong: field({
    schema: z.int().min(30).max(400).nullable(),
    blank: null,
    name: 'space along',
    about:
      'Per cent of the usual space between parent and child in the branch that is laid out from here; null is as the tree.',
    opml: 'whole',
    examples: [150],
  }),
  /** … and between siblings. */
  spaceAcross: field({
    schema: z.int().min(30).max(400).nullable(),
    blank: null,
    name: 'space across',
    about:
      'Per cent of the usual space between siblings in the branch that is laid out from here; null is as the tree.',
    opml: 'whole',
    examples: [60],
  }),
  /** True for a loose topic that waits in the tray, off the canvas. */
  tray: field({
    schema: z.boolean(),
    blank: false,
    name: 'place in the tray',
    about: 'True for a loose topic that waits in the tray.',
    copied: false,
    examples: [true],
  }),
  /** The branch's colour from here on: a place in the look's palette, or a colour; null takes the parent's. */
  hue: field({
    schema: colour.nullable(),
    blank: null,
    name: 'colour',
    about: 'The branch’s colour from here on: a place in the look’s palette, or #rrggbb.',
    opml: 'text',
    examples: ['2', '#aabbcc'],
  }),
  /** The place in the palette that a main branch was given when it was made; a colour that somebody chooses goes before it. */
  branchHue: field({
    schema: z.int().min(0).max(9).nullable(),
    blank: null,
    name: 'branch colour',
    about: 'The place in the palette, 0 to 9, that a main branch was given when it was made.',
    standing: true,
    examples: [0, 7],
  }),
  picture: field({
    schema: pictureSchema.nullable(),
    blank: null,
    name: 'picture',
    about: 'A picture on the plank: a file of the tree, its width, its height over its width, its place.',
    examples: [{ file: 'a'.repeat(64), width: 120, ratio: 0.5, place: 'above' }],
  }),
  language: field({
    schema: languageTag.nullable(),
    blank: null,
    name: 'language',
    about: 'The language of its words (BCP 47), where it is another than the tree’s.',
    opml: 'text',
    examples: ['fr'],
  }),
  ...STYLE_FIELDS,
  place: field({
    schema: placeSchema.nullable(),
    blank: null,
    name: 'place on the map',
    about: 'A place by name, by coordinates (WGS 84, degrees), or both.',
    opml: 'json',
    examples: [{ name: 'Tannery', lat: null, lon: null }],
  }),
  /** A small freehand drawing, as the SVG that `sketch.ts` describes. */
  sketch: field({
    schema: sketchSchema.nullable(),
    blank: null,
    name: 'sketch',
    about: 'A small freehand drawing, as SVG.',
    examples: [
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 640 400"><path fill="#16292d" d="M0 0L1 1Z"/></svg>',
    ],
  }),
  /** True for a branch that has an annex, room of its own: elsewhere just its plank is shown, with a doorway. */
  annex: field({
    schema: z.boolean(),
    blank: false,
    name: 'annex',
    about: 'True for a branch that has an annex, room of its own.',
    was: 'page',
    opml: 'truth',
    examples: [true],
  }),
  /** The topic that is shown in this one's place, live. Its own title is what it was called when the reference was made. */
  reference: field({
    schema: referenceSchema.nullable(),
    blank: null,
    name: 'reference',
    about: 'The topic that is shown in this one’s place; `tree` is null when it’s in the same tree.',
    examples: [{ tree: 'another', topic: 'there' }],
  }),
  /** How what hangs from here is numbered. On the centre it counts for the whole tree. */
  numbering: field({
    schema: numberingSchema.nullable(),
    blank: null,
    name: 'numbers',
    about: 'How what hangs from here is numbered, and how many levels of it.',
    opml: 'json',
    examples: [{ scheme: 'roman', levels: 2 }],
  }),
  /** What this topic is in a meeting's record. */
  entry: field({
    schema: entrySchema.nullable(),
    blank: null,
    name: 'kind in the record',
    about: 'What the topic is in a meeting’s record, who said it, and when (ms since 1970, UTC).',
    examples: [{ kind: 'decision', by: null, name: 'Ines', at: 1 }],
  }),
} as const
export type Field = keyof typeof FIELDS
export type Fields = ValuesOf<typeof FIELDS>
/** The fields with their names, for whatever treats them all alike. */
export const FIELD_ENTRIES: readonly (readonly [Field, FieldSpec])[] =
  entriesOf<Readonly<Record<Field, FieldSpec>>>(FIELDS)
