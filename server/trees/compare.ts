import { and, eq } from 'drizzle-orm'
import type { Principal } from '#core/contract'
import type { OtherSide } from '#core/contract/operations/trees'
import type { SidesSent } from '#core/compare/sent'
import type { Stamp } from '#core/formats/json'
import { type Change, fromSnapshot, isTreeChange, topicOf, toSnapshot, type Tree } from '#core/tree'
import { Fault } from '../access/fault'
import { needRole, roleOn } from '../access/roles'
import { database } from '../database/connect'
import { treeEpochs } from '../database/schema'
import { shareFiles } from '../files/store'
import { runJob } from '../jobs/runner'
import { newEditId, submit } from './door'
import { loadTree, readTree } from './held'
import { momentOf } from './history'
import { commonPoints, type Point } from './kin'
import { readLog } from './log'

/*
 * A tree compared with another state, and what is taken over from it. The states are gathered here; comparing and merging is
 * done in a thread of its own.
 */

export interface Gathered {
  readonly sides: SidesSent
  /** The number of the state here. */
  readonly number: number
  readonly other: { readonly title: string; readonly tree: string | null; readonly number: number | null }
}

interface Asking {
  readonly treeId: string
  readonly version: number
  readonly epoch: string
  readonly person: string
}

const titleOf = (tree: Tree): string => topicOf(tree, tree.centre).title

/** Gathers both states with their common moment. Throws a `Fault` for what one may not see, and for what has no topic in common. */
export async function gather(asking: Asking, other: OtherSide, here?: number): Promise<Gathered> {
  const { treeId, version } = asking
  const mine =
    here === undefined || here >= version ? await readTree(treeId, version) : await momentOf(treeId, here, version)
  if (!mine) throw new Fault(404, 'no-tree', 'There is no such tree.')
  // A held tree goes on while the other side is fetched.
  const [sent, number, title] = [toSnapshot(mine.tree), mine.version, titleOf(mine.tree)]
  if (other.kind === 'moment') {
    const then = await momentOf(treeId, other.number, version)
    const older = other.number <= number ? 'there' : 'here'
    return {
      sides: { here: sent, there: toSnapshot(then.tree), common: { here: older, there: older } },
      number,
      other: { title, tree: treeId, number: other.number },
    }
  }
  if (other.kind === 'file') return fromFile(asking, other.text, { sent, number, title })
  const found = await needRole(other.tree, asking.person, 'viewer')
  const theirs =
    other.number === undefined || other.number >= found.version
      ? await readTree(other.tree, found.version)
      : await momentOf(other.tree, other.number, found.version)
  if (!theirs) throw new Fault(404, 'no-tree', 'There is no such tree.')
  needCommon(mine.tree, theirs.tree)
  const there = { sent: toSnapshot(theirs.tree), point: { tree: other.tree, number: theirs.version } }
  const points = await commonPoints({ tree: treeId, number }, there.point, asking.person)
  return {
    sides: {
      here: sent,
      there: there.sent,
      common: points && (await statesAt(points, { tree: treeId, number }, there.point)),
    },
    number,
    other: { title: titleOf(theirs.tree), tree: other.tree, number: theirs.version },
  }
}

async function statesAt({ a, b }: { a: Point; b: Point }, here: Point, there: Point): Promise<SidesSent['common']> {
  const same = (one: Point, two: Point): boolean => one.tree === two.tree && one.number === two.number
  const state = async (point: Point) => {
    if (same(point, here)) return 'here'
    if (same(point, there)) return 'there'
    const live = await loadTree(database(), point.tree, point.number)
    return live ? toSnapshot(live.tree) : null
  }
  const first = await state(a)
  const second = same(a, b) ? first : await state(b)
  return first && second && { here: first, there: second }
}

async function fromFile(
  { treeId, version, epoch, person }: Asking,
  text: string,
  mine: { sent: SidesSent['here']; number: number; title: string },
): Promise<Gathered> {
  const { snapshot, of } = await runJob('import', { format: 'json', name: 'file', text }, { person })
  const theirs = fromSnapshot(snapshot)
  needCommon(fromSnapshot(mine.sent), theirs)
  const known = of?.tree === treeId ? await numberNow(treeId, epoch, of) : null
  const point = known !== null && known <= version ? known : null
  const common =
    point === null || point > mine.number ? null : toSnapshot((await momentOf(treeId, point, version)).tree)
  return {
    sides: { here: mine.sent, there: snapshot, common: common && { here: common, there: common } },
    number: mine.number,
    other: { title: titleOf(theirs) || mine.title, tree: null, number: null },
  }
}

/**
 * The newest edit of a tree that a file has, by the tree's own numbers. What a file got after the backup was taken from which the tree was
 * restored since, the tree never had. Null for an epoch that isn't one of the tree's, as after texts were taken out of it for good: a
 * common moment that has them no more would bring them back.
 */
async function numberNow(treeId: string, epoch: string, of: Stamp): Promise<number | null> {
  if (of.epoch === epoch) return of.number
  const [former] = await database()
    .select({ until: treeEpochs.until })
    .from(treeEpochs)
    .where(and(eq(treeEpochs.treeId, treeId), eq(treeEpochs.epoch, of.epoch)))
  return former ? Math.min(of.number, former.until) : null
}

function needCommon(mine: Tree, theirs: Tree): void {
  if (mine.centre === theirs.centre) return
  throw new Fault(
    422,
    'strangers',
    'These two don’t come from one copy: they have no topic in common, so there is nothing to compare.',
  )
}

/**
 * Takes pieces over, as one edit. Throws a `Fault` when somebody has changed one of them since it was compared, and when nothing
 * of it is different any more.
 */
export async function merge(
  asking: Asking,
  principal: Principal,
  other: OtherSide,
  { at, take, join }: { at: number; take: readonly string[]; join: readonly string[] },
): Promise<{ number: number }> {
  if (at > asking.version) throw new Fault(409, 'no-moment', 'That moment hasn’t come yet. Nothing was changed.')
  const chosen = [...take, ...join].map(key => key.slice(0, key.indexOf(' ')))
  await needUnchanged(asking.treeId, at, chosen)
  const { sides, other: from } = await gather(asking, other)
  const { changes, files } = await runJob('merge', { sides, take, join }, { person: asking.person })
  if (changes.length === 0) throw new Fault(409, 'same', 'Nothing of that is different any more.')
  // Rights may have gone while it was worked out, and others gone on; and more came along than what was chosen.
  await needUnchanged(asking.treeId, at, [...chosen, ...changes.map(touchedTopic)])
  if (from.tree !== null && !(await roleOn(from.tree, asking.person)))
    throw new Fault(404, 'no-tree', 'You have no role in that tree any more. Nothing was changed.')
  // What hangs on topics must be here before they are; what stays behind, stays.
  if (from.tree !== null && from.tree !== asking.treeId) await shareFiles(from.tree, asking.treeId, files)
  const { news } = await submit(asking.treeId, principal, {
    id: newEditId(),
    changes,
    source: { kind: 'merged', tree: from.tree, number: from.number },
  })
  return { number: news.number }
}

/** Edits after a comparison that are looked through; after more of them one compares anew. */
const MOST_SINCE = 2000

/** The topic that a change is about; '' is the tree itself, as in the keys of pieces. */
const touchedTopic = (change: Change): string => (isTreeChange(change) ? '' : change.topic)

/** Refuses to write over what was changed after the comparison. */
async function needUnchanged(treeId: string, at: number, topics: readonly string[]): Promise<void> {
  const mine = new Set(topics)
  const since = await readLog(database(), treeId, at, { most: MOST_SINCE })
  const touched = since.some(({ changes }) => changes.some(change => mine.has(touchedTopic(change))))
  if (touched || since.length === MOST_SINCE)
    throw new Fault(
      409,
      'moved-on',
      'Somebody has changed some of this since you compared. Compare anew; nothing was changed.',
    )
}
