import type { WhichParent } from '#core/formats/csv'
import type { Left } from '#core/formats/markdown'
import type { Stamp } from '#core/formats/json'
import { Unreadable } from '#core/capture/nested'
import type { KeptThread } from '#core/talk/kept-talk'
import type { Snapshot } from '#core/tree'
import type { Baseline } from '#core/schedule/baseline'
import type { ChancesAsked } from '#core/schedule/chances'
import type { FiguresQuestion } from '#core/figures/asked'
import type { ReadTable } from '#core/figures/table'
import type { FileContents } from '#core/formats/contents'
import type { PageHead } from '#core/formats/page-head'
import type { PlanQuestion } from '#core/schedule/told'
import { CannotMake } from '#core/scene/cannot-make'
import type { IMPORT_FORMATS } from '#core/contract'
import type { SidesSent } from '#core/compare/sent'
import type { Files, HandOutInput, Made } from '../documents/hand-out'
import type { DrawnFile } from '../documents/drawn-pictures'
import type { TextFormat } from '../trees/export'
import type { Minutes } from '#core/meeting/minutes'
import type { KeptTemplate } from '#core/handing/choice'
import type { TemplateSaid } from '#core/handing/template'

/*
 * What is worked on apart from the server's own thread: whatever people send that has to be parsed. Each kind takes
 * plain data and gives plain data back, and knows no database. A kind is named here once; the worker finds it by its
 * name. What a kind needs is read when the first of it comes, so that a thread stands at once.
 */

export interface PlanInput {
  /** The snapshot as JSON in UTF-8. */
  readonly snapshot: Uint8Array
  readonly today: string
}
export interface ChancesInput extends PlanInput {
  readonly asked: ChancesAsked
}
export interface ExportInput {
  /** The snapshot as JSON in UTF-8. */
  readonly snapshot: Uint8Array
  readonly format: TextFormat
  readonly people: Readonly<Record<string, string>>
}
export interface MinutesInput {
  readonly minutes: Minutes
  readonly author: string
  /** Those that the tree keeps, and the id of the one that they are written into. */
  readonly templates: readonly KeptTemplate[]
  readonly template: string | null
}
/** A note as it stands, and what is to be joined to it. */
export interface NoteToCheck {
  readonly note: string | null
  readonly updates: readonly string[]
}
export interface ImportInput {
  readonly format: (typeof IMPORT_FORMATS)[number]
  readonly name: string
  readonly text: string
  readonly parents?: Readonly<Record<string, number>> | undefined
}
export interface ContentsInput {
  readonly bytes: Uint8Array
  readonly type: string
  readonly name: string
}
export interface PageInput {
  readonly bytes: Uint8Array
  /** The media type that came with it, which may name an encoding. */
  readonly type: string
  readonly address: string
}
function isEncoding(name: string): boolean {
  try {
    return new TextDecoder(name).encoding !== ''
  } catch {
    return false
  }
}
export interface ImportResult {
  readonly snapshot: Snapshot
  readonly left: readonly Left[]
  readonly talk: readonly KeptThread[]
  readonly people: Readonly<Record<string, string>>
  /** Which state of which tree a file of ours holds. */
  readonly of: Stamp | null
  /** Pictures that its topics show. */
  readonly pictures: readonly DrawnFile[]
}

export const WORK = {
  import: async (input: ImportInput): Promise<ImportResult> => (await import('./kinds/files')).importFile(input),
  replies: async ({ text }: { readonly text: string }) => (await import('#core/formats/icalendar')).readReplies(text),
  closedDays: async ({ text, from, until }: { readonly text: string; readonly from: string; readonly until: string }) =>
    (await import('#core/formats/closed-days')).readClosedDays(text, from, until),
  tables: async ({ bytes, name }: { readonly bytes: Uint8Array; readonly name: string }): Promise<ReadTable[]> =>
    (await import('../documents/read-table')).readTables(bytes, name),
  contents: async ({ bytes, type, name }: ContentsInput): Promise<FileContents> =>
    (await import('../documents/contents')).readContents(bytes, type, name),
  pageHead: async ({ bytes, type, address }: PageInput): Promise<PageHead> => {
    const { decode, decodeAs } = await import('#core/formats/encoding')
    const { readPageHead } = await import('#core/formats/page-head')
    const said = /charset="?([\w-]+)/.exec(type)?.[1]
    const text = said && isEncoding(said) ? decodeAs(bytes, said) : decode(bytes).text
    return readPageHead(text, address)
  },
  shelf: async (asked: { readonly words: string; readonly language: string }) =>
    (await import('../shelf/shelf')).findOnShelf(asked),
  shelfPicture: async (asked: { readonly id: string }) => (await import('../shelf/shelf')).drawFromShelf(asked),
  template: async ({ bytes }: { readonly bytes: Uint8Array }): Promise<TemplateSaid> =>
    (await import('../documents/template')).readSaid(bytes),
  minutes: async ({ minutes, author, templates, template }: MinutesInput, need: Need): Promise<Uint8Array> => {
    const { templateOf } = await import('../documents/template')
    const { minutesAsDocx } = await import('../documents/minutes-docx')
    const filled = await templateOf(templates, template, files => need(files) as Promise<Files>)
    return minutesAsDocx({ minutes, author, template: filled })
  },
  notes: async ({ notes }: { readonly notes: readonly NoteToCheck[] }): Promise<boolean[]> =>
    (await import('./kinds/notes')).checkNotes(notes),
  compare: async (sides: SidesSent) => (await import('./kinds/comparing')).compare(sides),
  merge: async (input: { sides: SidesSent; take: readonly string[]; join: readonly string[] }) =>
    (await import('./kinds/comparing')).merge(input),
  plan: async (input: PlanInput & { readonly question: PlanQuestion }) =>
    (await import('./kinds/planning')).plan(input),
  figures: async (input: PlanInput & { readonly question: FiguresQuestion }) =>
    (await import('./kinds/planning')).figures(input),
  planSince: async (input: PlanInput & { readonly then: Pick<Baseline, 'tasks' | 'finish'> }) =>
    (await import('./kinds/planning')).planSinceThen(input),
  planDates: async (input: PlanInput) => (await import('./kinds/planning')).planDates(input),
  chances: async (input: ChancesInput) => (await import('./kinds/planning')).chances(input),
  export: async (input: ExportInput) => (await import('./kinds/exporting')).exportTree(input),
  warmUp: async (): Promise<void> => (await import('../documents/warm-up')).warmUp(),
  handOut: async (input: HandOutInput, need: Need, soFar: SoFar): Promise<Made> =>
    (await import('../documents/hand-out')).makeHandOut(input, files => need(files) as Promise<Files>, soFar),
} as const
export type Kind = keyof typeof WORK
export type Input<K extends Kind> = Parameters<(typeof WORK)[K]>[0]
export type Result<K extends Kind> = Awaited<ReturnType<(typeof WORK)[K]>>
/** Asks the server for more, in the middle of the work. */
export type Need = (what: unknown) => Promise<unknown>
/** Says how far the work is, 0 to 1. */
export type SoFar = (part: number) => void

/** What a worker says: that it stands, what it needs, how far it is, the result, or what is wrong in words that can be shown. */
export type Answer =
  | { readonly kind: 'ready' }
  | { readonly kind: 'need'; readonly what: unknown }
  | { readonly kind: 'so-far'; readonly part: number }
  | { readonly kind: 'done'; readonly result: unknown }
  | { readonly kind: 'unreadable'; readonly message: string; readonly which?: readonly WhichParent[] }
  | { readonly kind: 'refused'; readonly code: string; readonly message: string }
  | { readonly kind: 'failed'; readonly name: string }

/** What the server says to a thread: a job, or what a job asked for in the middle of it. */
export type Told =
  | { readonly say: 'job'; readonly kind: Kind; readonly input: unknown }
  | { readonly say: 'found'; readonly found: unknown }

/**
 * Does one piece of work, and turns what goes wrong into an answer. A stack that overflows is a file that nests too
 * deeply.
 */
export async function work(kind: Kind, input: unknown, need: Need, soFar: SoFar): Promise<Answer> {
  try {
    const does = WORK[kind] as (input: unknown, need: Need, soFar: SoFar) => unknown
    return { kind: 'done', result: await does(input, need, soFar) }
  } catch (error) {
    if (error instanceof CannotMake) return { kind: 'refused', code: error.code, message: error.message }
    if (error instanceof Unreadable)
      return {
        kind: 'unreadable',
        message: error.message,
        ...('which' in error ? { which: error.which as readonly WhichParent[] } : {}),
      }
    if (error instanceof RangeError && /call stack/i.test(error.message))
      return { kind: 'unreadable', message: 'This file nests too deeply. Nothing was changed.' }
    return {
      kind: 'failed',
      name: error instanceof Error ? `${error.name}: ${error.message.slice(0, 200)}` : 'not an Error',
    }
  }
}
