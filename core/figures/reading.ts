import type { TopicId } from '../tree/topic'
import type { Expression } from './formula'
import type { Span } from './values'

/* What reading a formula asks for and gives. */

/** Something that has a name in formulas. */
export interface Named {
  readonly id: string
  readonly name: string
}

/** What words can mean in a typed formula. */
export interface FormulaNames {
  readonly measures: readonly Named[]
  readonly values: readonly Named[]
  readonly markers: readonly Named[]
  readonly people: readonly Named[]
  /** Topics whose title, or the end of whose path (`Fit-out / Lift`), is so; at most a few. */
  topicsCalled(words: string): readonly TopicId[]
  /** A number as it's typed, in the form in which it's stored; null for none. */
  readNumber(text: string): string | null
  /** Whether a space parts thousands. */
  readonly spaced: boolean
}

/** What a piece of a formula is, for colour, and to put names in place of ids. */
export interface Piece extends Span {
  readonly kind: 'number' | 'unit' | 'measure' | 'value' | 'topic' | 'marker' | 'person' | 'function' | 'word'
  /** The id it names. */
  readonly id?: string
}

export interface Read {
  readonly expression: Expression
  readonly pieces: readonly Piece[]
  /** The formula in the form in which it's stored. */
  readonly stored: string
}

/** A formula that can't be read, with the place and words for it. */
export class FormulaError extends Error {
  constructor(
    message: string,
    readonly span: Span,
  ) {
    super(message)
  }
}
