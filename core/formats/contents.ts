import type { ReadTable } from '../figures/table'

/*
 * What a document of an office program holds, as it can be shown in place: words, tables and pictures, and nothing that runs. How it looked in
 * its own program isn't kept.
 */

export interface Run {
  readonly text: string
  readonly strong?: true
  readonly slanted?: true
  /** A web or mail address. */
  readonly link?: string
}
/** A picture drawn anew, small enough to be shown, as a data address. */
export interface ShownPicture {
  readonly src: string
  readonly words: string
}
export type Block =
  | { readonly kind: 'heading'; readonly level: number; readonly runs: readonly Run[] }
  | { readonly kind: 'paragraph'; readonly runs: readonly Run[] }
  /** An item of a list; `mark`: what stands before it. */
  | { readonly kind: 'item'; readonly level: number; readonly mark: string; readonly runs: readonly Run[] }
  | { readonly kind: 'table'; readonly rows: readonly (readonly string[])[] }
  | ({ readonly kind: 'picture' } & ShownPicture)

export interface Slide {
  readonly title: string
  readonly lines: readonly { readonly level: number; readonly text: string }[]
  readonly pictures: readonly ShownPicture[]
  /** What its speaker says. */
  readonly notes: string
}

/** `left`: what of it isn't shown, in words. */
export type FileContents =
  | { readonly kind: 'document'; readonly blocks: readonly Block[]; readonly left: readonly string[] }
  | { readonly kind: 'sheets'; readonly sheets: readonly ReadTable[] }
  | { readonly kind: 'slides'; readonly slides: readonly Slide[]; readonly left: readonly string[] }

export const wordsOf = (runs: readonly Run[]): string => runs.map(({ text }) => text).join('')

const OFFICE = 'application/vnd.openxmlformats-officedocument.'
const BY_TYPE: Readonly<Record<string, FileContents['kind']>> = {
  [`${OFFICE}wordprocessingml.document`]: 'document',
  [`${OFFICE}spreadsheetml.sheet`]: 'sheets',
  [`${OFFICE}presentationml.presentation`]: 'slides',
}
/** Packed, and no more is known where what it is stands far behind in the file. */
const PACKED_BY_NAME: readonly (readonly [RegExp, FileContents['kind']])[] = [
  [/\.docx$/i, 'document'],
  [/\.xlsx$/i, 'sheets'],
  [/\.pptx$/i, 'slides'],
]
const TEXT_BY_NAME: readonly (readonly [RegExp, FileContents['kind']])[] = [
  [/\.(?:csv|tsv)$/i, 'sheets'],
  [/\.x?html?$/i, 'document'],
]

/** As what a file can be shown in place, by its media type and, where that says only text or packed, by its name; null for what can't. */
export function contentsKindOf({
  type,
  name,
}: {
  readonly type: string
  readonly name: string
}): FileContents['kind'] | null {
  const byType = BY_TYPE[type]
  if (byType) return byType
  const byName =
    type === 'application/zip' ? PACKED_BY_NAME : /^text\/|^application\/xhtml\+xml$/.test(type) ? TEXT_BY_NAME : []
  return byName.find(([ending]) => ending.test(name))?.[1] ?? null
}
