import type { z } from 'zod'

/** How a value stands in a column, an attribute or a cell. */
export type Plain = 'text' | 'day' | 'number' | 'whole' | 'truth'

/** Everything that is said of a field, in the one place where it's said. Whatever handles fields reads it from here. */
export interface FieldSpec<S extends z.ZodType = z.ZodType> {
  /** What a change, a file or a message may set it to. */
  readonly schema: S
  /** What it is when nobody has said anything. */
  readonly blank: z.output<S>
  /** What a person calls it, in the middle of a sentence. */
  readonly name: string
  /** For the list of fields in the docs. */
  readonly about: string
  /** True for what says where a topic stands or how it's unfolded, not what it is: comparing passes over it. */
  readonly standing?: true
  /** False for what a copy begins without. */
  readonly copied?: false
  /** Where queries ask for it: the kind of its column. Fields without one travel together as JSON. */
  readonly column?: Plain
  /** How it's written in OPML; without, it stays behind there. */
  readonly opml?: Plain | 'json'
  /** What it was called in earlier files. */
  readonly was?: string
  /** The headings by which a table's column is known to hold it, the first of them written. */
  readonly headings?: readonly [string, ...string[]]
  /** Values for the docs and for the laws, which roll every one of them. The blank one comes by itself. */
  readonly examples: readonly z.output<S>[]
}

export const field = <S extends z.ZodType>(spec: FieldSpec<S>): FieldSpec<S> => spec

/** What a table of fields gives: each name with its value. */
export type ValuesOf<T extends Readonly<Record<string, FieldSpec>>> = { [F in keyof T]: z.output<T[F]['schema']> }

/** A set: members that merge when two people add at once, each known by its id, or by itself where it is one. */
export interface SetSpec<S extends z.ZodType = z.ZodType> {
  readonly schema: S
  /** Members at most. */
  readonly most: number
  /** What a person calls it, in the middle of a sentence. */
  readonly name: string
  readonly about: string
  /** What a copy takes along of it; everything where it isn't said. */
  readonly inCopies?: (members: readonly z.output<S>[]) => readonly z.output<S>[]
  /** `json`: a column of its own; `rows`: a table of its own, a row a member. Without: with the fields that have no column. */
  readonly column?: 'json' | 'rows'
  /** How it's written in OPML: `words` are joined by spaces. */
  readonly opml?: 'json' | 'words'
  readonly examples: readonly z.output<S>[]
}

export const set = <S extends z.ZodType>(spec: SetSpec<S>): SetSpec<S> => spec

/** The entries of a table with the names it has. */
export function entriesOf<T extends object>(table: T): [keyof T & string, T[keyof T]][] {
  return Object.entries(table) as [keyof T & string, T[keyof T]][]
}

/** Another table with the same names. */
export function mapTable<T extends object, R>(
  table: T,
  make: (spec: T[keyof T], name: keyof T & string) => R,
): { [K in keyof T]: R } {
  return Object.fromEntries(entriesOf(table).map(([name, spec]) => [name, make(spec, name)])) as { [K in keyof T]: R }
}

/** The schemas of a table, under the same names. */
export function schemasOf<T extends Readonly<Record<string, { readonly schema: z.ZodType }>>>(
  table: T,
): { [K in keyof T]: T[K]['schema'] } {
  return mapTable(table, spec => spec.schema) as { [K in keyof T]: T[K]['schema'] }
}
