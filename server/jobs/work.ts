import { Ambiguous, type WhichParent } from '#core/formats/csv'
import { readClosedDays } from '#core/formats/closed-days'
import { readReplies, type Reply } from '#core/formats/icalendar'
import type { Left } from '#core/formats/markdown'
import { type Difference, differencesOf } from '#core/compare/differences'
import { mergeOf, takeOver, type ToldPiece } from '#core/compare/merge'
import type { Stamp } from '#core/formats/json'
import { Unreadable } from '#core/capture/nested'
import type { KeptThread } from '#core/talk/kept-talk'
import { filesShown } from '#core/formats/files-shown'
import { applyChanges, type Change, fromSnapshot, type Snapshot, toSnapshot, type Tree } from '#core/tree'
import { type Chances, type ChancesAsked, chancesOf } from '#core/schedule/chances'
import { type Baseline, datesOf } from '#core/schedule/baseline'
import { answerFigures, type FiguresQuestion } from '#core/figures/asked'
import type { ReadTable } from '#core/figures/taking'
import type { NoPlan } from '#core/schedule/compiled'
import { planOf } from '#core/schedule/plan'
import { answerPlan, type PlanQuestion } from '#core/schedule/told'
import { NothingThere } from '#core/handing/cut'
import { TooManyToDraw } from '#core/scene/scene'
import type { IMPORT_FORMATS } from '#core/contract'
import { sidesFrom, type SidesSent } from '#core/compare/sent'
import type { Files, HandOutInput, Made } from '../documents/hand-out'
import { treeFromFile } from '../trees/import'

/*
 * What is worked on apart from the server's own thread: whatever people send that has to be parsed. Each kind takes
 * plain data and gives plain data back, and knows no database. A kind is named here once; the worker finds it by its
 * name.
 */

export interface PlanInput {
  /** The snapshot as JSON in UTF-8. */
  readonly snapshot: Uint8Array
  readonly today: string
}
export interface ChancesInput extends PlanInput {
  readonly asked: ChancesAsked
}
const treeOf = (snapshot: Uint8Array): Tree => fromSnapshot(JSON.parse(new TextDecoder().decode(snapshot)) as Snapshot)

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
  /** Which state of which tree a file of ours holds. */
  readonly of: Stamp | null
}

export const WORK = {
  async import({ format, name, text, parents }: ImportInput): Promise<ImportResult> {
    const { tree, left, talk = [], people = {}, of = null } = await treeFromFile(format, name, text, parents)
    return { snapshot: toSnapshot(tree), left, talk, people, of }
  },
  compare(sides: SidesSent): { pieces: ToldPiece[]; differences: Difference[] } {
    const { here, there, common } = sidesFrom(sides)
    return {
      pieces: Array.from(mergeOf({ here, there, common }).pieces.values(), ({ key, topic, part, by, snag }) => ({
        key,
        topic,
        part,
        by,
        snag,
      })),
      // As it's read from here: what came is here alone.
      differences: differencesOf(there, here, { order: true }),
    }
  },
  /** What is taken over, and the files that the tree shows with it. */
  merge({ sides, take, join }: { sides: SidesSent; take: readonly string[]; join: readonly string[] }): {
    changes: Change[]
    files: string[]
  } {
    const given = sidesFrom(sides)
    const changes = takeOver(mergeOf(given), { take, join })
    applyChanges(given.here, changes)
    return { changes, files: filesShown(given.here) }
  },
  replies({ text }: { readonly text: string }): Reply[] {
    return readReplies(text)
  },
  closedDays({ text, from, until }: { readonly text: string; readonly from: string; readonly until: string }) {
    return readClosedDays(text, from, until)
  },
  plan({
    snapshot,
    today,
    question,
  }: PlanInput & { readonly question: PlanQuestion }): ReturnType<typeof answerPlan> | NoPlan {
    const tree = treeOf(snapshot)
    const plan = planOf(tree, today)
    return typeof plan === 'string' ? plan : answerPlan(tree, plan, question)
  },
  figures({
    snapshot,
    today,
    question,
  }: PlanInput & { readonly question: FiguresQuestion }): ReturnType<typeof answerFigures> {
    return answerFigures(treeOf(snapshot), today, question)
  },
  /** What reads workbooks is large, and read when the first comes. */
  async tables({ bytes, name }: { readonly bytes: Uint8Array; readonly name: string }): Promise<ReadTable[]> {
    const { readTables } = await import('../documents/read-table')
    return readTables(bytes, name)
  },
  planDates({ snapshot, today }: PlanInput): Pick<Baseline, 'finish' | 'tasks'> | NoPlan {
    const plan = planOf(treeOf(snapshot), today)
    return typeof plan === 'string' ? plan : { finish: plan.finish, tasks: datesOf(plan) }
  },
  chances({ snapshot, today, asked }: ChancesInput): Chances | NoPlan {
    const going = chancesOf(treeOf(snapshot), today, asked)
    for (;;) {
      const { done, value } = going.next()
      if (done) return value
    }
  },
  /** What makes documents is large, and read when the first is made. */
  async handOut(input: HandOutInput, need: Need): Promise<Made> {
    const { makeHandOut } = await import('../documents/hand-out')
    return makeHandOut(input, files => need(files) as Promise<Files>)
  },
} as const
export type Kind = keyof typeof WORK
export type Input<K extends Kind> = Parameters<(typeof WORK)[K]>[0]
export type Result<K extends Kind> = Awaited<ReturnType<(typeof WORK)[K]>>
/** Asks the server for more, in the middle of the work. */
export type Need = (what: unknown) => Promise<unknown>

/** What a worker says: that it stands, what it needs, the result, or what is wrong in words that can be shown. */
export type Answer =
  | { readonly kind: 'ready' }
  | { readonly kind: 'need'; readonly what: unknown }
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
export async function work(kind: Kind, input: unknown, need: Need): Promise<Answer> {
  try {
    return { kind: 'done', result: await (WORK[kind] as (input: unknown, need: Need) => unknown)(input, need) }
  } catch (error) {
    if (error instanceof NothingThere || error instanceof TooManyToDraw)
      return { kind: 'refused', code: error instanceof NothingThere ? 'nothing' : 'too-large', message: error.message }
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
