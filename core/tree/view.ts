import { z } from 'zod'
import { whole, words } from './atoms'
import { boardShape } from './board'
import { shownChart } from './chart'
import { querySchema } from './query'

/** Columns that the outline can show beside the title. */
export const COLUMNS = [
  ...(['number', 'markers', 'people', 'start', 'due', 'length', 'done', 'priority'] as const),
  // What the plan computes; empty where there is none.
  ...(['begins', 'ends', 'float'] as const),
  'signs',
] as const
export type Column = (typeof COLUMNS)[number]
/** A column of figures: of the measure whose address follows. */
export type FigureColumn = `m:${string}`
export type AnyColumn = Column | FigureColumn
export const isFigureColumn = (column: string): column is FigureColumn => column.startsWith('m:')
export const measureOf = (column: FigureColumn): string => column.slice(2)
export const figureColumnOf = ({ id }: { readonly id: string }): FigureColumn => `m:${id}`
const figureColumn = z.string().regex(/^m:[\w-]{1,40}$/) as unknown as z.ZodType<FigureColumn>
/** Columns of figures that the outline shows at once. */
export const MOST_FIGURES = 8

export const GROUPINGS = ['person', 'marker', 'state', 'due'] as const
export type Grouping = (typeof GROUPINGS)[number]

/** What the outline shows and in which order; nothing of it changes the tree. */
export const outlineShape = z.strictObject({
  columns: z.array(z.union([z.enum(COLUMNS), figureColumn])).max(COLUMNS.length + MOST_FIGURES),
  sort: z
    .strictObject({
      by: z.union([
        z.enum(['title', 'start', 'due', 'length', 'done', 'priority', 'begins', 'ends', 'float']),
        figureColumn,
      ]),
      down: z.boolean(),
    })
    .nullable(),
  group: z.enum(GROUPINGS).nullable(),
})
export type OutlineShape = Readonly<z.infer<typeof outlineShape>>

/** A way to look at a tree under a name: a filter, what becomes of the rest, the view, and how deep. */
export const savedView = z.strictObject({
  id: z.string().regex(/^[\w-]{1,40}$/),
  name: z.string().trim().min(1).max(120).refine(whole, 'must be well-formed text'),
  query: querySchema.nullable(),
  text: words(200),
  rest: z.enum(['dim', 'hide']),
  view: z.enum(['canvas', 'outline', 'schedule', 'board', 'figures']),
  depth: z.int().min(1).max(6).nullable(),
  outline: outlineShape.nullable(),
  board: boardShape.nullable().optional(),
  /** The chart that the figures show; without one their sheet. */
  chart: shownChart.nullable().optional(),
})
export type SavedView = Readonly<z.infer<typeof savedView>>
