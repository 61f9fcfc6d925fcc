import { and, desc, eq, gte, inArray, lt, sql } from 'drizzle-orm'
import { type Difference, differencesOf } from '#core/compare/differences'
import type { SaidThen, SittingPage, ToldEdit } from '#core/contract'
import { type HappeningKind, happeningsOf, kindsOf } from '#core/history/happenings'
import { sittingsOf, type Stitch } from '#core/history/sittings'
import { branch as branchOf, upgradeChanges } from '#core/tree'
import { Fault } from '../access/fault'
import { saidBetween } from '../talk/said-then'
import { namesOf } from '../access/names'
import { database } from '../database/connect'
import { edits, editTopics } from '../database/schema'
import { loadTree, readTree } from './held'
import type { LiveTree } from './live-tree'
import { readLog } from './log'

/*
 * The log of edits as people read it: in sittings, in words, and the tree as it was at any number. Reads the log alone; nothing
 * of it is ever written here.
 */

/** Edits that one page of sittings is made of, at most. */
const PAGE = 2000
/** And where their changes have to be looked at. */
const PAGE_BY_KIND = 500
/** Edits that are told in words at once, at most, and happenings of one edit that are told one by one. */
const MOST_TOLD = 300
const MOST_HAPPENINGS = 12
/** Topics of a branch whose edits are looked for, at most. */
const MOST_OF_BRANCH = 5000

/** The tree as it was after an edit, a copy of its own. Throws a `Fault` for a number that hasn't come yet. */
export async function momentOf(treeId: string, number: number, version: number): Promise<LiveTree> {
  if (number > version) throw new Fault(404, 'no-moment', 'That moment hasn’t come yet.')
  const live = await loadTree(database(), treeId, number)
  if (!live) throw new Fault(404, 'no-moment', 'What the tree was then can’t be opened any more.')
  return live
}

export interface Narrowed {
  readonly before?: number | undefined
  readonly person?: string | undefined
  readonly kind?: HappeningKind | undefined
  readonly branch?: string | undefined
  /** ISO 8601 instants, from the one to before the other. */
  readonly since?: string | undefined
  readonly until?: string | undefined
}

/** A page of sittings, newest first, with who was in them by name. `next`: the number to go on before, null at the end. */
export async function sittingsBefore(
  treeId: string,
  version: number,
  narrowed: Narrowed,
): Promise<Omit<SittingPage, 'role'>> {
  const { before, person, kind, branch, since, until } = narrowed
  const by = sql<string>`coalesce(${edits.behalf}, ${edits.userId})`
  const most = kind === undefined ? PAGE : PAGE_BY_KIND
  const below = branch === undefined ? null : await idsBelow(treeId, version, branch)
  const rows = await database()
    .select({
      number: edits.number,
      by,
      at: edits.at,
      format: edits.format,
      ...(kind === undefined ? {} : { changes: edits.changes }),
    })
    .from(edits)
    .where(
      and(
        eq(edits.treeId, treeId),
        ...(before === undefined ? [] : [lt(edits.number, before)]),
        ...(person === undefined ? [] : [eq(by, person)]),
        ...(since === undefined ? [] : [gte(edits.at, new Date(since))]),
        ...(until === undefined ? [] : [lt(edits.at, new Date(until))]),
        ...(below === null
          ? []
          : [
              inArray(
                edits.number,
                database()
                  .select({ number: editTopics.number })
                  .from(editTopics)
                  .where(and(eq(editTopics.treeId, treeId), inArray(editTopics.topicId, below))),
              ),
            ]),
      ),
    )
    .orderBy(desc(edits.number))
    .limit(most)
  const stitches: Stitch[] = rows
    .filter(row => kind === undefined || kindsOf(upgradeChanges(row.format, row.changes!)).has(kind))
    .map(row => ({ number: row.number, by: row.by, at: row.at.getTime() }))
    .reverse()
  const full = rows.length === most
  const sittings = sittingsOf(stitches)
  // The oldest may have begun before this page: it's told whole with the next one, unless it's all there is.
  if (full && sittings.length > 1) sittings.shift()
  const next = full ? (sittings[0]?.from ?? rows.at(-1)!.number) : null
  return {
    sittings: sittings.reverse(),
    next,
    version,
    names: await namesOf(sittings.flatMap(one => one.people.map(part => part.by))),
  }
}

async function idsBelow(treeId: string, version: number, topic: string): Promise<string[]> {
  const live = await readTree(treeId, version)
  if (!live?.tree.topics.has(topic)) throw new Fault(404, 'no-topic', 'That topic isn’t in this tree.')
  const ids: string[] = []
  for (const { id } of branchOf(live.tree, topic)) {
    ids.push(id)
    if (ids.length === MOST_OF_BRANCH) break
  }
  return ids
}

/** What edits did, oldest first. Throws a `Fault` for numbers that aren't there. */
export async function told(
  treeId: string,
  from: number,
  to: number,
): Promise<{ edits: ToldEdit[]; said: SaidThen[]; names: Record<string, string> }> {
  if (to < from) throw new Fault(404, 'no-moment', 'There are no such edits.')
  const live = await loadTree(database(), treeId, from - 1)
  if (!live) throw new Fault(404, 'no-moment', 'What the tree was then can’t be opened any more.')
  const log = await readLog(database(), treeId, from - 1, { until: to, most: MOST_TOLD })
  const found = log.map(({ number, user, behalf, at, source, changes }): ToldEdit => {
    const happenings = happeningsOf(live.tree, changes)
    return {
      number,
      by: behalf ?? user,
      at,
      ...(source === undefined ? {} : { source }),
      happenings: happenings.slice(0, MOST_HAPPENINGS),
      more: Math.max(0, happenings.length - MOST_HAPPENINGS),
    }
  })
  // What was said stands between the edits by its time: before the first of all, and up to the one that follows these.
  const [next] = await readLog(database(), treeId, found.at(-1)?.number ?? from - 1, { most: 1 })
  const said = await saidBetween(
    treeId,
    from === 1 || !found[0] ? new Date(0) : new Date(found[0].at),
    next ? new Date(next.at) : null,
  )
  return { edits: found, said, names: await namesOf([...found, ...said].map(({ by }) => by)) }
}

/** What is different between two moments of a tree, topic by topic. */
export async function differencesBetween(
  treeId: string,
  from: number,
  to: number,
  version: number,
): Promise<{ from: number; to: number; differences: Difference[] }> {
  const before = await momentOf(treeId, from, version)
  const after = to >= version ? await readTree(treeId, version) : await momentOf(treeId, to, version)
  if (!after) throw new Fault(404, 'no-tree', 'There is no such tree.')
  return { from, to: after.version, differences: differencesOf(before.tree, after.tree, { order: true }) }
}
