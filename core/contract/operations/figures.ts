import { z } from 'zod'
import { MOST_FORMULA } from '../../tree/figure'
import { idSchema, operation, tree } from '../operation'

const whatIf = idSchema.optional()

/** What is worked out of a tree's figures. */
export const FIGURES = {
  readFigures: operation(
    'GET',
    '/api/trees/{id}/figures',
    'viewer',
    'Measures, named values, and what topics come to in each measure, in reading order: numbers as they’re stored (per cent as the share), formulas as they’re typed in English, faults in words. `whatIf`: under an assumption of the tree. `moment`: as the tree was after that edit. `topic`: of that topic alone.',
    {
      params: tree,
      query: z.object({ whatIf, moment: z.coerce.number().int().min(0).optional(), topic: idSchema.optional() }),
    },
  ),
  readTables: operation(
    'POST',
    '/api/trees/{id}/figures/tables',
    'editor',
    'Reads a workbook (.xlsx) or text with separators, sent as it is, for taking figures from it: its sheets as rows of cells, with what was left of it in words. Nothing is changed by it.',
    { params: tree, query: z.object({ name: z.string().max(300).default('Table') }) },
  ),
  evaluateFigure: operation(
    'POST',
    '/api/trees/{id}/figures/evaluate',
    'viewer',
    'What a formula would come to if a topic had it in a measure, or why it can’t be worked out, and where in it that lies. Nothing is changed by it.',
    {
      params: tree,
      body: z.strictObject({
        topic: idSchema,
        measure: idSchema,
        formula: z
          .string()
          .min(1)
          .max(MOST_FORMULA + 1),
        /** In whose signs numbers are written (BCP 47). */
        locale: z
          .string()
          .max(35)
          .regex(/^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$/)
          .default('en-GB'),
        whatIf,
      }),
    },
  ),
} as const
