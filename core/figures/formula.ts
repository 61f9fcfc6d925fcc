import type { Query } from '../tree/query'
import type { TopicId } from '../tree/topic'
import type { Unit } from './units'
import type { Exact, Span } from './values'

/* A formula as it's reckoned with. How it's written: docs/formulas.md. */

/** What is asked of a topic besides its measures. */
export const PROPERTIES = ['start', 'finish', 'due', 'length', 'float', 'work', 'done'] as const
export type Property = (typeof PROPERTIES)[number]

/** Functions of several topics' or several arguments' values. */
export const GATHERINGS = ['sum', 'mean', 'median', 'min', 'max', 'count'] as const
export type Gathering = (typeof GATHERINGS)[number]
export const FUNCTIONS = ['if', 'round up', 'round down', 'round', 'abs', 'workdays', 'workday', 'days'] as const
export type FunctionName = (typeof FUNCTIONS)[number] | Gathering

/** A topic, seen from the one that has the formula. */
export type Place =
  { readonly kind: 'parent' } | { readonly kind: 'centre' } | { readonly kind: 'topic'; readonly id: TopicId }

export type Operator = '+' | '-' | '*' | '/' | '^' | '=' | '<>' | '<' | '<=' | '>' | '>=' | 'and' | 'or'

export type Expression = { readonly span: Span } & (
  | { readonly kind: 'number'; readonly n: Exact; readonly unit: Unit; readonly bare: boolean }
  | { readonly kind: 'day'; readonly day: string }
  | { readonly kind: 'today' }
  | { readonly kind: 'truth'; readonly is: boolean }
  | { readonly kind: 'measure'; readonly id: string }
  | { readonly kind: 'value'; readonly id: string }
  | { readonly kind: 'property'; readonly name: Property }
  | { readonly kind: 'at'; readonly place: Place; readonly of: Expression }
  | { readonly kind: 'minus' | 'not' | 'percent'; readonly of: Expression }
  | { readonly kind: 'binary'; readonly operator: Operator; readonly a: Expression; readonly b: Expression }
  | { readonly kind: 'call'; readonly name: FunctionName; readonly args: readonly Expression[] }
  | List
)

/** The value of an expression for each of several topics, or the topics themselves. */
export interface List {
  readonly kind: 'list'
  readonly span: Span
  readonly of: Expression | null
  readonly scope: 'children' | 'all below'
  readonly when: Query | null
  /** Whether each value is needed, not only what they come to together. */
  readonly each: boolean
}

/** Levels of brackets, functions and signs in one another at most. */
export const MOST_DEEP = 60

/** An expression's parts, in the order in which they stand. */
export function partsOf(expression: Expression): readonly Expression[] {
  switch (expression.kind) {
    case 'at':
    case 'minus':
    case 'not':
    case 'percent':
      return [expression.of]
    case 'binary':
      return [expression.a, expression.b]
    case 'call':
      return expression.args
    case 'list':
      return expression.of ? [expression.of] : []
    default:
      return []
  }
}
