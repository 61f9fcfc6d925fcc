import type { Change } from '../tree/change'
import type { TopicId } from '../tree/topic'
import { isLive, type Tree } from '../tree/tree'
import { differencesOf } from './differences'
import { isOrderOfMembers, type Piece, pieceKey, piecesBetween } from './pieces'
import { Taken } from './take-over'

/*
 * Merging three ways: what only one side changed since the common moment goes in by itself, what both changed is asked.
 * Where there's no common moment everything is asked.
 */

/** Two states of a tree, one of which is to take over from the other. */
export interface Sides {
  readonly here: Tree
  readonly there: Tree
  /**
   * What each was at the common moment; the same tree for two moments or files of one, what a copy was when it was made for
   * one that was copied with some of its details left out. Null where there is none.
   */
  readonly common: { readonly here: Tree; readonly there: Tree } | null
}

/** Which side has changed a piece since the common moment. `neither`: they never were the same. */
export type Author = 'here' | 'there' | 'both' | 'neither'

/** Why a piece that only one side changed is asked all the same. */
export type Snag =
  /** Over there it was removed, here something of it or below it was changed. */
  | 'removed-there'
  /** Here it was removed, over there something of it or below it was changed. */
  | 'removed-here'
  /** Both places, or both references, would lead round in a circle. */
  | 'round'

export interface MergePiece extends Piece {
  readonly by: Author
  readonly snag: Snag | null
}

/** A piece as it's told: without the changes it's made of. */
export type ToldPiece = Omit<MergePiece, 'changes'>

export interface Merge extends Sides {
  /** All that is different, by key, topics from the top down as they stand over there. */
  readonly pieces: ReadonlyMap<string, MergePiece>
  /** These, and what came in the other side's trash: it goes in where it isn't in the trash then. */
  readonly all: ReadonlyMap<string, MergePiece>
}

/** Topics that one sees to have been moved, or to have come. */
const movedIn = (from: Tree, to: Tree): ReadonlySet<TopicId> =>
  new Set(
    differencesOf(from, to, { order: true })
      .filter(({ kind }) => kind === 'moved' || kind === 'added')
      .map(({ id }) => id),
  )

/** What is different between two sides, and by whom. Cost: all topics of both, and of the common moment. */
export function mergeOf(sides: Sides): Merge {
  const { here, there, common } = sides
  if (!common) {
    const pieces = new Map<string, MergePiece>()
    for (const [key, piece] of piecesBetween(here, there)) pieces.set(key, { ...piece, by: 'neither', snag: null })
    return { ...sides, pieces, all: pieces }
  }
  const pieces = piecesBetween(here, there, { unseen: true })
  const mine = piecesBetween(common.here, here, { unseen: true })
  const theirs = piecesBetween(common.there, there, { unseen: true })
  const moved = { mine: movedIn(common.here, here), theirs: movedIn(common.there, there) }
  const authors = new Map<string, Author>()
  for (const [key, { topic, part }] of pieces) {
    // Of what came on a side all is that side's.
    const came = (before: Tree, after: Tree): boolean =>
      topic !== null && !before.topics.has(topic) && after.topics.has(topic)
    const [a, b] = isOrderOfMembers(part)
      ? [false, false]
      : [mine.has(key) || came(common.here, here), theirs.has(key) || came(common.there, there)]
    authors.set(
      key,
      a && b && part === 'where' ? placedBy(sides, topic!, moved) : a ? (b ? 'both' : 'here') : b ? 'there' : 'neither',
    )
  }
  const snags = new Map<string, Snag>()
  const after = findSnags(sides, pieces, authors, snags, topicsOf(mine), topicsOf(theirs))
  const dead = deathsIn(after)
  const all = new Map<string, MergePiece>()
  const seen = new Map<string, MergePiece>()
  for (const [key, piece] of pieces) {
    const made = { ...piece, by: authors.get(key)!, snag: snags.get(key) ?? null }
    all.set(key, made)
    if (!piece.unseen || (after.keys.has(key) && dead(piece.topic!) === null)) seen.set(key, made)
  }
  return { ...sides, pieces: seen, all }
}

/**
 * Who counts as having moved a topic that stands by another key on both sides. A key alone, which others needed room for, moves
 * nothing that one sees; where neither side moved it the lower key is kept, so that both sides come to the same. What went to the
 * trash with what it was moved under was moved all the same.
 */
function placedBy(
  { here, there, common }: Sides,
  topic: TopicId,
  moved: { readonly mine: ReadonlySet<TopicId>; readonly theirs: ReadonlySet<TopicId> },
): Author {
  const [a, b] = [moved.mine.has(topic), moved.theirs.has(topic)]
  if (a !== b) return a ? 'here' : 'there'
  const [mine, other] = [here.topics.get(topic)!, there.topics.get(topic)!]
  if (a) return 'both'
  if (mine.parent !== other.parent) {
    const kept = (tree: Tree, now: TopicId | null): boolean => tree.topics.get(topic)?.parent === now
    const [stays, goes] = [kept(common!.here, mine.parent), kept(common!.there, other.parent)]
    return stays === goes ? 'both' : stays ? 'there' : 'here'
  }
  return other.order < mine.order ? 'there' : 'here'
}

const topicsOf = (pieces: ReadonlyMap<string, Piece>): ReadonlySet<TopicId> =>
  new Set([...pieces.values()].flatMap(({ topic }) => topic ?? []))

/** Tries what would go in by itself, and asks about what would end badly: until nothing does. What goes in then. */
function findSnags(
  { here, there }: Sides,
  pieces: ReadonlyMap<string, Piece>,
  authors: Map<string, Author>,
  snags: Map<string, Snag>,
  mine: ReadonlySet<TopicId>,
  theirs: ReadonlySet<TopicId>,
): Taken {
  const ask = (topic: TopicId, part: string, snag: Snag): boolean => {
    const key = pieceKey(topic, part)
    if (!pieces.has(key) || snags.has(key)) return false
    snags.set(key, snag)
    authors.set(key, 'both')
    return true
  }
  for (;;) {
    let more = false
    const after = new Taken(
      here,
      there,
      pieces,
      [...authors].filter(([, by]) => by === 'there').map(([key]) => key),
    )
    for (const key of after.keys) {
      const { topic, part } = pieces.get(key)!
      if (topic === null || (part !== 'where' && part !== 'reference')) continue
      const { path, round } = after.chain(topic, part === 'where' ? after.parentOf : after.referenceOf)
      if (round) for (const id of path) if (after.has(id, part)) more = ask(id, part, 'round') || more
    }
    if (more) continue
    const dead = deathsIn(after)
    const cause = (id: TopicId, snag: Snag, decides: (key: string) => boolean): boolean => {
      const by = dead(id)
      if (by === null) return false
      if (decides(pieceKey(by, 'there'))) return ask(by, 'there', snag)
      // It wasn't removed but moved to where the trash is.
      const moved = after.chain(id, after.parentOf).path.find(one => decides(pieceKey(one, 'where')))
      return moved !== undefined && ask(moved, 'where', snag)
    }
    for (const id of theirs)
      if (isLive(there, id))
        more = cause(id, 'removed-here', key => pieces.has(key) && authors.get(key) !== 'there') || more
    for (const id of mine) if (isLive(here, id)) more = cause(id, 'removed-there', key => after.keys.has(key)) || more
    if (!more) return after
  }
}

/** For each topic the one at or above it that is in the trash; null when it lives. */
function deathsIn(after: Taken): (topic: TopicId) => TopicId | null {
  const known = new Map<TopicId, TopicId | null>()
  return function dead(topic) {
    const { path } = after.chain(topic, after.parentOf)
    const found = path.find(id => known.has(id) || after.isRemoved(id))
    const by = found === undefined ? null : known.has(found) ? known.get(found)! : found
    for (const id of path) {
      known.set(id, by)
      if (id === found) break
    }
    return by
  }
}

/** Takes what came in the other side's trash and isn't in the trash any more, since what it came into lives on. */
function bringUnseen({ all, there }: Merge, taken: Taken): void {
  const unseen = [...all.values()].filter(
    ({ unseen, by, topic }) => unseen && by === 'there' && !there.topics.get(topic!)!.removed,
  )
  for (let more = unseen.length > 0; more;) {
    more = false
    for (const { key, topic, part } of unseen) {
      if (taken.keys.has(key)) continue
      const { path } = taken.chain(topic!, id => (taken.knows(id) ? taken.parentOf(id) : there.topics.get(id)?.parent))
      if (path.slice(1).every(id => taken.knows(id) && !taken.isRemoved(id))) more = taken.take(topic!, part) || more
    }
    if (more) taken.complete()
  }
}

/** What one wants of a merge. */
export interface Choice {
  /** Pieces that are made what they are over there. */
  readonly take: Iterable<string>
  /** Notes that keep what both sides have typed; only where both were one note at the common moment. */
  readonly join?: Iterable<string>
}

/** Pieces that go in by themselves. */
export const silent = (merge: Merge): string[] =>
  [...merge.pieces.values()].filter(({ by }) => by === 'there').map(({ key }) => key)

/** Pieces that are asked: both sides changed them. */
export const asked = (merge: Merge): MergePiece[] => [...merge.pieces.values()].filter(({ by }) => by === 'both')

/** The changes that take over what is chosen, with what that can't be without, as one edit of `here`. Unknown keys are left out. */
export function takeOver(merge: Merge, { take, join = [] }: Choice): Change[] {
  const joined = new Set(join)
  const taken = new Taken(
    merge.here,
    merge.there,
    merge.all,
    [...take].filter(key => !joined.has(key)),
  ).complete()
  bringUnseen(merge, taken)
  const notes = [...joined].flatMap((key): Change[] => {
    const piece = merge.pieces.get(key)
    const note = piece?.topic ? merge.there.topics.get(piece.topic)?.note : null
    return piece?.part === 'note' && note && !taken.keys.has(key)
      ? [{ op: 'note', topic: piece.topic!, update: note }]
      : []
  })
  return [...taken.changes(), ...notes]
}
