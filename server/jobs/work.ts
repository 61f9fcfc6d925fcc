import { Ambiguous, type WhichParent } from '#core/formats/csv'
import { readReplies, type Reply } from '#core/formats/icalendar'
import type { Left } from '#core/formats/markdown'
import { Unreadable } from '#core/capture/nested'
import type { KeptThread } from '#core/talk/kept-talk'
import { type Snapshot, toSnapshot } from '#core/tree'
import type { IMPORT_FORMATS } from '#core/contract'
import { treeFromFile } from '../trees/import'

/*
 * What is worked on apart from the server's own thread: whatever people send that has to be parsed. Each kind takes
 * plain data and gives plain data back, and knows no database. A kind is named here once; the worker finds it by its
 * name.
 */

export interface ImportInput {
  readonly format: (typeof IMPORT_FORMATS)[number]
  readonly name: string
  readonly text: string
  readonly parents?: Readonly<Record<string, number>> | undefined
}
export interface ImportResult {
  readonly snapshot: Snapshot
  readonly left: readonly Left[]
  readonly talk: readonly KeptThread[]
  readonly people: Readonly<Record<string, string>>
}

export const WORK = {
  import({ format, name, text, parents }: ImportInput): ImportResult {
    const { tree, left, talk = [], people = {} } = treeFromFile(format, name, text, parents)
    return { snapshot: toSnapshot(tree), left, talk, people }
  },
  replies({ text }: { readonly text: string }): Reply[] {
    return readReplies(text)
  },
} as const
export type Kind = keyof typeof WORK
export type Input<K extends Kind> = Parameters<(typeof WORK)[K]>[0]
export type Result<K extends Kind> = ReturnType<(typeof WORK)[K]>

/** What a worker answers: the result, or what is wrong in words that can be shown. */
export type Answer =
  | { readonly kind: 'done'; readonly result: unknown }
  | { readonly kind: 'unreadable'; readonly message: string; readonly which?: readonly WhichParent[] }
  | { readonly kind: 'failed'; readonly name: string }

/**
 * Does one piece of work, and turns what goes wrong into an answer. A stack that overflows is a file that nests too
 * deeply.
 */
export function work(kind: Kind, input: unknown): Answer {
  try {
    return { kind: 'done', result: WORK[kind](input as never) }
  } catch (error) {
    if (error instanceof Ambiguous) return { kind: 'unreadable', message: error.message, which: error.which }
    if (error instanceof Unreadable) return { kind: 'unreadable', message: error.message }
    if (error instanceof RangeError && /call stack/i.test(error.message))
      return { kind: 'unreadable', message: 'This file nests too deeply. Nothing was changed.' }
    return {
      kind: 'failed',
      name: error instanceof Error ? `${error.name}: ${error.message.slice(0, 200)}` : 'not an Error',
    }
  }
}
