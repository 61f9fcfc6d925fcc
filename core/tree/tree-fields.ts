import { z } from 'zod'
import { calendarDay, id, words, zoneName } from './atoms'
import { columnLimitSchema } from './board'
import { field, mapTable, set, type ValuesOf } from './field-spec'
import { measureSchema, namedValueSchema, whatIfSchema } from './figure'
import { ARRANGEMENTS } from './fields'
import { languageTag } from './language'
import { GROUP_LIMITS, groupSchema } from './group'
import { LIMITS } from './limits'
import { keptHandOut, keptTemplate, MOST_TEMPLATES } from './hand-out'
import { lookSchema } from './looks'
import { customMarkerSet } from './markers'
import { capacitySchema, exceptionSchema, weekdaysSchema } from './plan'
import { FIRST_MUSTS, FIRST_PATTERNS } from './patterns'
import { stepSchema } from './steps'
import { levelStyle } from './style-fields'
import { savedView } from './view'

/** The fields of the tree itself. A new one is one entry here. */
export const TREE_FIELDS = {
  arrangement: field({
    schema: z.enum(ARRANGEMENTS),
    blank: 'both',
    name: 'arrangement',
    about: 'How the tree is laid out.',
    examples: ['down'],
  }),
  /** On both sides, whether the left one is read from the top down as well, instead of on round the centre. */
  leftDown: field({
    schema: z.boolean(),
    blank: false,
    name: 'reading of the left side',
    about: 'Whether the left side is read from the top down, instead of on round the centre.',
    examples: [true],
  }),
  description: field({
    schema: words(20_000),
    blank: '',
    name: 'description',
    about: 'What the tree is for.',
    examples: ['What it is for'],
  }),
  tags: field({
    schema: z.array(words(60).min(1)).max(30),
    blank: [],
    name: 'tags',
    about: 'Words by which it’s found.',
    examples: [['move']],
  }),
  /** Per cent of the usual space between parent and child. */
  along: field({
    schema: z.int().min(30).max(400),
    blank: 100,
    name: 'space along',
    about: 'Per cent of the usual space between parent and child.',
    examples: [150],
  }),
  /** Per cent of the usual space between siblings. */
  across: field({
    schema: z.int().min(30).max(400),
    blank: 100,
    name: 'space across',
    about: 'Per cent of the usual space between siblings.',
    examples: [80],
  }),
  /** The look's id: one that comes with the app, or one of the tree's own. */
  look: field({ schema: id, blank: 'porch', name: 'look', about: 'The look’s id.', examples: ['tannery'] }),
  /** Style by level: what topics of level 0 (the centre), 1, 2 … have that have no style of their own. */
  levels: field({
    schema: z.array(levelStyle).max(12),
    blank: [],
    name: 'style of levels',
    about: 'What topics of level 0 (the centre), 1, 2 … wear that have no style of their own.',
    examples: [[{ fill: '3', bold: true }]],
  }),
  /** The first day of the plan; null while the tree has none: then its dates are as they were typed. */
  planFrom: field({
    schema: calendarDay.nullable(),
    blank: null,
    name: 'start of the plan',
    about: 'The first day of the plan; null while the tree has none, and its dates are as they were typed.',
    examples: ['2027-01-11'],
  }),
  /** Whether planks say how a task stands in the plan. */
  planPrint: field({
    schema: z.boolean(),
    blank: false,
    name: 'plan on planks',
    about: 'Whether planks say how a task stands in the plan: critical, how far it may slip, how late it will be.',
    examples: [true],
  }),
  /** Up to when what was done is known; null is the present day. */
  statusDay: field({
    schema: calendarDay.nullable(),
    blank: null,
    name: 'status date',
    about: 'Up to when what was done is known; null is the present day.',
    examples: ['2027-03-01'],
  }),
  /** Whose wall the times of day are on, an IANA zone; null: that of whoever reads them. */
  zone: field({
    schema: zoneName.nullable(),
    blank: null,
    name: 'time zone',
    about: 'The IANA zone on whose walls the times of day are; null is that of whoever reads them.',
    examples: ['Europe/Lisbon'],
  }),
  /** What its words are written in, BCP 47; null: not said. */
  language: field({
    schema: languageTag.nullable(),
    blank: null,
    name: 'language',
    about: 'The language of its words (BCP 47), for hyphens, spelling and the voice that reads; null is not said.',
    examples: ['de'],
  }),
  weekdays: field({
    schema: weekdaysSchema,
    blank: [1, 2, 3, 4, 5],
    name: 'working weekdays',
    about: 'Weekdays that are worked on, Monday 1 to Sunday 7.',
    examples: [[1, 2, 3, 4]],
  }),
  dayHours: field({
    schema: z.number().min(0.25).max(24),
    blank: 8,
    name: 'hours a day',
    about: 'Hours of a working day.',
    examples: [7.5],
  }),
  /** How many things must be settled in a meeting before it's said that the rest belongs to a later one. */
  mostMusts: field({
    schema: z.int().min(1).max(20),
    blank: FIRST_MUSTS,
    name: 'things a meeting must settle',
    about: 'How many things a meeting must settle before the rest is left to a later one.',
    examples: [2],
  }),
  /** Inner patterns: the parts that a section of a meeting can be laid out with. */
  patterns: field({
    schema: z.array(z.array(words(200).min(1)).min(1).max(12)).max(12),
    blank: FIRST_PATTERNS,
    name: 'inner patterns',
    about: 'The parts that a section of a meeting can be laid out with, a list for each pattern.',
    examples: [[['What happened', 'What we learned']], []],
  }),
} as const
export type TreeField = keyof typeof TREE_FIELDS

/** The sets of the tree itself, known by their members' ids. */
export const TREE_SETS = {
  markerSets: set({
    schema: customMarkerSet,
    most: LIMITS.treeMembers,
    name: 'marker sets',
    about: 'Marker sets of the tree’s own.',
    examples: [
      { id: 's1', name: 'Ours', exclusive: false, markers: [] },
      { id: 's1', name: 'Ours', exclusive: true, markers: [] },
    ],
  }),
  looks: set({
    schema: lookSchema,
    most: LIMITS.treeMembers,
    name: 'looks',
    about: 'Looks of the tree’s own.',
    examples: [],
  }),
  views: set({
    schema: savedView,
    most: LIMITS.treeMembers,
    name: 'views',
    about: 'Views kept under a name, for everybody.',
    examples: [],
  }),
  exceptions: set({
    schema: exceptionSchema,
    most: LIMITS.exceptions,
    name: 'closed and extra days',
    about: 'Days that are worked on, or not, against their weekday; the id is the day.',
    examples: [
      { id: '2027-05-17', kind: 'closed', name: 'Whit Monday' },
      { id: '2027-05-17', kind: 'extra', name: 'Stocktaking' },
      { id: '2027-05-22', kind: 'extra', name: '' },
    ],
  }),
  capacities: set({
    schema: capacitySchema,
    most: 500,
    name: 'what people can do',
    about: 'Hours a day and days off of people, for the load; the id is the person’s.',
    examples: [
      { id: 'ines', hours: 4, off: ['2027-05-14'] },
      { id: 'ines', hours: null, off: [] },
      { id: 'rana', hours: 6, off: [] },
    ],
  }),
  groups: set({
    schema: groupSchema,
    most: GROUP_LIMITS.groups,
    name: 'groups of people',
    about:
      'People under one name, by account or mail address; `shared`: the role they were let in with, and who was in it then.',
    examples: [
      { id: 'board', name: 'Board', who: ['ines', 'ida@town.example'], shared: null },
      { id: 'board', name: 'The board', who: ['ines'], shared: { role: 'editor', who: ['ines', 'ida@town.example'] } },
      { id: 'hands', name: 'Volunteers', who: [], shared: null },
    ],
  }),
  columnLimits: set({
    schema: columnLimitSchema,
    most: 500,
    name: 'limits of columns',
    about: 'How many cards a column of the board is to hold at most; the id is the column’s.',
    examples: [
      { id: 'state-begun', most: 3 },
      { id: 'state-begun', most: 5 },
      { id: 'person-ines', most: 4 },
    ],
  }),
  steps: set({
    schema: stepSchema,
    most: 300,
    name: 'steps of presenting',
    about: 'The topics that are presented, in an order of their own; none: as the tree is read. The id is the topic’s.',
    examples: [
      { id: 'lift', order: 'a0' },
      { id: 'lift', order: 'a1' },
      { id: 'fit-out', order: 'a0V' },
    ],
  }),
  measures: set({
    schema: measureSchema,
    most: LIMITS.treeMembers,
    name: 'measures',
    about: 'Named quantities that the topics’ figures are of: unit, decimals, how they roll up.',
    examples: [
      {
        id: 'cost',
        order: 'a0',
        name: 'Cost',
        unit: 'EUR',
        decimals: 2,
        rounding: 'half-even',
        rollUp: 'sum',
        by: null,
        hue: null,
        limit: 'most',
        onPlank: true,
      },
      {
        id: 'cost',
        order: 'a0',
        name: 'Outlay',
        unit: 'EUR',
        decimals: 0,
        rounding: 'half-up',
        rollUp: 'sum',
        by: null,
        hue: '2',
        limit: 'most',
        onPlank: false,
      },
      {
        id: 'mark',
        order: 'a1',
        name: 'Mark',
        unit: '',
        decimals: 1,
        rounding: 'half-even',
        rollUp: 'weighted',
        by: 'cost',
        hue: null,
        limit: 'least',
        onPlank: false,
      },
    ],
  }),
  namedValues: set({
    schema: namedValueSchema,
    most: LIMITS.treeMembers,
    name: 'named values',
    about: 'Values that formulas of the whole tree know by a name.',
    examples: [
      { id: 'rate', order: 'a0', name: 'Rate', unit: 'EUR/h', text: '42.5' },
      { id: 'rate', order: 'a0', name: 'Rate', unit: 'EUR/h', text: '=40 × 1.1' },
    ],
  }),
  whatIfs: set({
    schema: whatIfSchema,
    most: 12,
    name: 'what-ifs',
    about: 'Assumptions that are tried beside what is so; the figures that they change name them.',
    examples: [
      { id: 'b', order: 'a0', name: 'Offer B' },
      { id: 'b', order: 'a1', name: 'Offer B' },
    ],
  }),
  handOuts: set({
    schema: keptHandOut,
    most: LIMITS.treeMembers,
    name: 'kept hand-outs',
    about: 'What was handed out, kept under a name to be done again.',
    examples: [],
  }),
  templates: set({
    schema: keptTemplate,
    most: MOST_TEMPLATES,
    name: 'document templates',
    about:
      'Word documents of one’s own, into whose look the tree and its minutes are written, and slides whose theme its slides wear.',
    examples: [{ id: 'town', name: 'The town’s letter', file: '0'.repeat(64) }],
  }),
} as const
export type TreeSet = keyof typeof TREE_SETS
export const TREE_SET_NAMES = Object.keys(TREE_SETS) as readonly TreeSet[]
export type TreeMember<S extends TreeSet = TreeSet> = Readonly<z.infer<(typeof TREE_SETS)[S]['schema']>>

export type TreeFields = Readonly<ValuesOf<typeof TREE_FIELDS>> & { readonly [S in TreeSet]: readonly TreeMember<S>[] }

/** What a tree has of its own when nobody has said anything. */
export const FRESH_FIELDS = {
  ...mapTable(TREE_FIELDS, spec => spec.blank),
  ...mapTable(TREE_SETS, () => []),
} as unknown as TreeFields
