import { z } from 'zod'
import { words } from './atoms'
import { numeral } from './figure'

/*
 * What a filter asks: single conditions, joined by and/or, each of which may be turned round. As data, so that it can
 * be kept under a name, shared, and said as a sentence.
 */

const id = z.string().regex(/^[\w-]{1,40}$/)
const day = z.iso.date()

/** What may hang on a topic. */
export const SUBSTANCE = [
  'note',
  'link',
  'file',
  'checklist',
  'place',
  'sketch',
  'cross-link',
  'picture',
  'vote',
] as const
export const TALK_STATES = ['some', 'open', 'settled', 'names-me'] as const
export type SubstanceKind = (typeof SUBSTANCE)[number]
/** `untied`: no cross-link leads from or to it. `lone-marker`: one of its markers stands nowhere else. `unopened`: one of its files was opened by nobody. */
export const KINDS = [
  'task',
  'reference',
  'annex',
  'loose',
  'parent',
  'leaf',
  'untied',
  'lone-marker',
  'unopened',
  'again',
] as const
export const STATES = ['open', 'not-begun', 'under-way', 'done'] as const
/** `tight`: its float is under so many working days. `late`: it ends after its due date. `slipped`, `agreed`: by the newest baseline. */
export const PLANNED = ['critical', 'tight', 'late', 'slipped', 'agreed', 'waits', 'ready', 'overloaded'] as const
/** `over`, `under`: a number. `wrong`: it can’t be worked out. */
export const FIGURED = ['over', 'under', 'off', 'some', 'none', 'wrong'] as const
export const DUE = ['late', 'today', 'within', 'before', 'after', 'on', 'some', 'none'] as const

const turned = { not: z.boolean().optional() }

/** One condition. `me` stands for whoever looks. */
export const conditionSchema = z.discriminatedUnion('about', [
  z.strictObject({
    about: z.literal('text'),
    words: words(200),
    where: z.enum(['anywhere', 'title', 'note']),
    ...turned,
  }),
  z.strictObject({ about: z.literal('marker'), marker: id, ...turned }),
  z.strictObject({
    about: z.literal('person'),
    person: z.union([id, z.enum(['me', 'nobody', 'somebody'])]),
    ...turned,
  }),
  /** Of somebody in a group of the tree's or one's own. */
  z.strictObject({ about: z.literal('group'), group: id, ...turned }),
  /** `within`: from today to so many days on. `before`, `after`, `on`: a day. */
  z.strictObject({
    about: z.literal('due'),
    is: z.enum(DUE),
    days: z.int().min(0).max(3650).optional(),
    day: day.optional(),
    ...turned,
  }),
  z.strictObject({ about: z.literal('state'), is: z.enum(STATES), ...turned }),
  z.strictObject({
    about: z.literal('done'),
    least: z.int().min(0).max(100),
    most: z.int().min(0).max(100),
    ...turned,
  }),
  z.strictObject({ about: z.literal('priority'), most: z.int().min(1).max(5), ...turned }),
  /** Levels below the centre. */
  z.strictObject({
    about: z.literal('depth'),
    least: z.int().min(0).max(400),
    most: z.int().min(0).max(400),
    ...turned,
  }),
  z.strictObject({ about: z.literal('kind'), is: z.enum(KINDS), ...turned }),
  /** Changed since a day, or in the last so many days; by anybody, or by one person. */
  z.strictObject({
    about: z.literal('changed'),
    since: day.optional(),
    days: z.int().min(0).max(3650).optional(),
    by: z.union([id, z.literal('me')]).optional(),
    ...turned,
  }),
  /** What is computed of it; never where the tree has no plan. */
  z.strictObject({
    about: z.literal('plan'),
    is: z.enum(PLANNED),
    days: z.int().min(0).max(3650).optional(),
    ...turned,
  }),
  /** What it comes to in a measure; `off`: over its target, or short of it. */
  z.strictObject({
    about: z.literal('figure'),
    measure: id,
    is: z.enum(FIGURED),
    value: numeral.optional(),
    ...turned,
  }),
  z.strictObject({ about: z.literal('has'), what: z.enum(SUBSTANCE), ...turned }),
  /** What was said on it; `by`: only what one person said. */
  z.strictObject({
    about: z.literal('talk'),
    is: z.enum(TALK_STATES),
    by: z.union([id, z.literal('me')]).optional(),
    ...turned,
  }),
])
export type Condition = Readonly<z.infer<typeof conditionSchema>>

export interface Group {
  readonly join: 'all' | 'any'
  readonly not?: boolean | undefined
  readonly of: readonly Query[]
}
export type Query = Condition | Group

const MOST_NESTED = 6
const MOST_CONDITIONS = 60

function groupSchema(levels: number): z.ZodType<Query> {
  const inner = levels > 0 ? z.union([conditionSchema, groupSchema(levels - 1)]) : conditionSchema
  return z.strictObject({
    join: z.enum(['all', 'any']),
    of: z.array(inner as z.ZodType<Query>).max(MOST_CONDITIONS),
    ...turned,
  }) as z.ZodType<Query>
}

/** A filter as it's kept: groups six deep and sixty conditions at most. */
export const querySchema: z.ZodType<Query> = z
  .union([conditionSchema as z.ZodType<Query>, groupSchema(MOST_NESTED)])
  .refine(query => countConditions(query) <= MOST_CONDITIONS, `must have ${MOST_CONDITIONS} conditions at most`)

export function isGroup(query: Query): query is Group {
  return 'join' in query
}

export function countConditions(query: Query): number {
  return isGroup(query) ? query.of.reduce((sum, one) => sum + countConditions(one), 0) : 1
}

/** What a filter may ask that the tree itself doesn't say. */
export type Besides = 'changes' | 'talk' | 'opened' | 'plan' | 'agreed' | 'groups'

/** Whether a filter asks for it: when and by whom something was changed, what was said, who opened a file, who is in a group, what the plan says, what was agreed of it. */
export function asksFor(query: Query, what: Besides): boolean {
  if (isGroup(query)) return query.of.some(one => asksFor(one, what))
  switch (what) {
    case 'changes':
      return query.about === 'changed'
    case 'talk':
      return query.about === 'talk'
    case 'opened':
      return query.about === 'kind' && query.is === 'unopened'
    case 'groups':
      return query.about === 'group'
    case 'plan':
      return query.about === 'plan'
    case 'agreed':
      return query.about === 'plan' && (query.is === 'slipped' || query.is === 'agreed')
  }
}
