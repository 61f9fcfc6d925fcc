import { z } from 'zod'
import { calendarDay, id, words } from './atoms'

/* What a person enters for the plan; what is computed from it is nowhere stored (`core/derive/plan.ts`). */

export const WAIT_KINDS = ['FS', 'SS', 'FF', 'SF'] as const
/** Days of lag or lead at most: ten years. */
export const MOST_LAG = 3660
/** Characters kept of what a topic of another tree, or that tree, is called. */
export const MOST_SAID = 300

/**
 * What is known of a topic of another tree that something here waits for. It's kept with who waits, so that everybody reckons with the
 * same; whoever sees that tree may look again.
 */
export const elsewhereSchema = z.strictObject({
  tree: id,
  /** What it and its tree were called, shortened. */
  title: words(MOST_SAID),
  treeTitle: words(MOST_SAID),
  /** Its days, by the plan of its tree where that has one, else as they were typed; null for none. */
  start: calendarDay.nullable(),
  finish: calendarDay.nullable(),
  state: z.enum(['open', 'begun', 'done']),
  /** When that was so: milliseconds since 1970. */
  asked: z.int().min(0).max(8.64e15),
})
export type Elsewhere = Readonly<z.infer<typeof elsewhereSchema>>

/** What a topic waits for: another topic, or all tasks below it. Kept with the one that waits. */
export const waitSchema = z.strictObject({
  id,
  on: id,
  /** Where `on` is a topic of another tree; without it, it's one of this tree. */
  elsewhere: elsewhereSchema.optional(),
  /** Finish to start, start to start, finish to finish, start to finish. */
  kind: z.enum(WAIT_KINDS),
  /** Days after; a lead is negative. */
  lag: z.number().min(-MOST_LAG).max(MOST_LAG),
  /** Whether the days are those of the calendar, or working days. */
  days: z.enum(['working', 'calendar']),
})
export type Wait = Readonly<z.infer<typeof waitSchema>>

/** Most working days that a task takes. */
export const MOST_DAYS = 10_000

/** Three estimates of a length in working days. */
export const estimateSchema = z
  .strictObject({
    best: z.number().min(0).max(MOST_DAYS),
    likely: z.number().min(0).max(MOST_DAYS),
    worst: z.number().min(0).max(MOST_DAYS),
  })
  .refine(({ best, likely, worst }) => best <= likely && likely <= worst, 'must run from best to worst')
export type Estimate = Readonly<z.infer<typeof estimateSchema>>

/** How a typed start binds the plan. */
export const START_MEANS = ['not-before', 'fixed'] as const
/** How a typed due date binds the plan: a deadline only warns. */
export const DUE_MEANS = ['deadline', 'not-after'] as const

/** A day that is worked on, or not, against its weekday. Its id is the day. */
export const exceptionSchema = z.strictObject({ id: calendarDay, kind: z.enum(['closed', 'extra']), name: words(200) })

/** Working weekdays, Monday 1 to Sunday 7 (ISO 8601). */
export const weekdaysSchema = z
  .array(z.int().min(1).max(7))
  .max(7)
  .refine(days => new Set(days).size === days.length, 'must name each day once')

/** What somebody can do for the plan of a tree: hours a day, and days off. Its id is the person's. */
export const capacitySchema = z.strictObject({
  id,
  /** Hours of a working day; null is as the tree's calendar has it. */
  hours: z.number().min(0).max(24).nullable(),
  off: z.array(calendarDay).max(400),
})
