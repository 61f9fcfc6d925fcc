import type { Tree } from '../tree/tree'
import { tellFigures, type ToldFigures, type ToldValue, tryFormula } from './told'

/** What is asked of a tree's figures from outside. */
export type FiguresQuestion =
  | { readonly kind: 'all'; readonly whatIf: string | null; readonly topic: string | null }
  | {
      readonly kind: 'try'
      readonly topic: string
      readonly measure: string
      readonly formula: string
      readonly locale: string
      readonly whatIf: string | null
    }

/** The answer, as it's known on a day (ISO 8601). */
export const answerFigures = (tree: Tree, today: string, question: FiguresQuestion): ToldFigures | ToldValue =>
  question.kind === 'all' ? tellFigures(tree, today, question) : tryFormula(tree, today, question)
