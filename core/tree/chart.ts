import { z } from 'zod'
import { id } from './atoms'
import { measureSchema, PERIODS } from './figure'
import { orderKey } from './order-key'

/** The ways a branch is charted in one measure. */
export const CHART_KINDS = ['bars', 'share', 'rings', 'target', 'steps', 'time', 'years'] as const
export type ChartKind = (typeof CHART_KINDS)[number]
/** Charts that hang on one topic at most. */
export const MOST_CHARTS = 12

const asked = {
  kind: z.enum(CHART_KINDS),
  measure: measureSchema.shape.id,
  /** What a series is gathered by. */
  each: z.enum(PERIODS),
}
/** A chart that hangs on a topic, of the branch below it. */
export const chartSchema = z.strictObject({ id, order: orderKey, ...asked })
export type HungChart = Readonly<z.infer<typeof chartSchema>>
export type ChartAsked = Pick<HungChart, keyof typeof asked>

/** A chart that a kept view shows: of which branch. */
export const shownChart = z.strictObject({ at: id, ...asked })
export type ShownChart = Readonly<z.infer<typeof shownChart>>
