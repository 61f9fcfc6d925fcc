import type { Change } from '../tree/change'
import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { itemsOf, sayItem, takeItem } from './agenda'
import { briefOf, type Run, sayPart } from './brief'

/*
 * How a meeting moves on. Time is told by whoever calls (the server), so that it is counted once for everybody. Each
 * move counts up `step`; a move names the step it was made from, and one that comes late, because another chair pressed
 * first, does nothing.
 */

export type Move =
  | { readonly to: 'begin' | 'next' | 'back' | 'pause' | 'go-on' | 'end' | 'reopen' }
  | { readonly to: 'item'; readonly item: TopicId }

export type Moved =
  | { readonly kind: 'moved'; readonly changes: readonly Change[]; readonly step: number }
  /** Somebody else has moved on already, or there is nothing to move: nothing is wrong and nothing changes. */
  | { readonly kind: 'already' }
  | { readonly kind: 'refused'; readonly words: string }

const refused = (words: string): Moved => ({ kind: 'refused', words })

/** Adds what has run since the last move to the current item. */
function counted(tree: Tree, meeting: TopicId, run: Run, now: number): Change[] {
  if (run.since === null || run.current === null) return []
  const item = itemsOf(tree, meeting).find(({ id }) => id === run.current)
  return item
    ? [sayItem(item.id, { id: 'spent', kind: 'spent', ms: Math.min(1e9, item.spent + Math.max(0, now - run.since)) })]
    : []
}

/**
 * The changes of one move. `from`: the step that whoever moved had before them; null for the beginning. `now`: ms since
 * 1970 UTC.
 * `version`: the number the tree has now, kept so that what changed since can be told.
 */
export function moveOn(
  tree: Tree,
  meeting: TopicId,
  move: Move,
  from: number | null,
  now: number,
  by: string,
  version: number,
): Moved {
  const brief = briefOf(topicOf(tree, meeting))
  const { run, stage } = brief
  const items = itemsOf(tree, meeting)
  if (move.to === 'begin') {
    if (stage === 'running') return { kind: 'already' }
    if (stage === 'ended')
      return refused('This meeting has ended. What was said stays; the next one can be made from it.')
    if (stage === 'cancelled') return refused('This meeting was cancelled. Plan it again first.')
    if (items.length === 0) return refused('There is no agenda yet: lay it out first.')
    const step = (run?.step ?? 0) + 1
    return {
      kind: 'moved',
      step,
      changes: [
        sayPart(meeting, { id: 'stage', kind: 'stage', stage: 'running' }),
        sayPart(meeting, {
          id: 'run',
          kind: 'run',
          step,
          current: items[0]!.id,
          since: now,
          began: now,
          ended: null,
          version,
          by,
        }),
      ],
    }
  }
  if (!run || stage === 'planned' || stage === 'cancelled') return refused('This meeting hasn’t begun.')
  if (stage === 'ended' && move.to !== 'reopen')
    return move.to === 'end' ? { kind: 'already' } : refused('This meeting has ended.')
  if (stage === 'running' && move.to === 'reopen') return { kind: 'already' }
  if (from !== null && from !== run.step) return { kind: 'already' }
  const next = (changed: Partial<Run>, also: readonly Change[] = []): Moved => ({
    kind: 'moved',
    step: run.step + 1,
    changes: [
      ...counted(tree, meeting, run, now),
      ...also,
      sayPart(meeting, { ...run, step: run.step + 1, by, ...changed }),
    ],
  })
  const at = run.current === null ? items.length : items.findIndex(({ id }) => id === run.current)
  const going = run.since === null ? null : now
  /**
   * On to the next that hasn't been dealt with, from the first again at the end; the first of all where the current
   * one was taken off the agenda.
   */
  const after = (): TopicId | null => {
    const open = items.filter(item => !item.closed && item.id !== run.current)
    return (open.find(item => items.indexOf(item) > at) ?? open[0])?.id ?? null
  }
  const closing: readonly Change[] =
    run.current !== null && at >= 0 ? [sayItem(run.current, { id: 'closed', kind: 'closed', at: now })] : []
  /** Whatever is taken up again hasn't been dealt with after all. */
  const opening = (id: TopicId | undefined): readonly Change[] =>
    items.some(item => item.id === id && item.closed) ? [takeItem(id!, 'closed')] : []
  switch (move.to) {
    case 'pause':
      return run.since === null ? { kind: 'already' } : next({ since: null })
    case 'go-on':
      return run.since !== null ? { kind: 'already' } : next({ since: now })
    case 'next':
      return run.current === null ? { kind: 'already' } : next({ current: after(), since: going }, closing)
    case 'back': {
      if (at === 0) return { kind: 'already' }
      const before = items[Math.max(0, (at < 0 ? items.length : at) - 1)]?.id
      return next({ current: before ?? null, since: going }, opening(before))
    }
    case 'item':
      return !items.some(({ id }) => id === move.item)
        ? refused('That item isn’t on the agenda any more.')
        : run.current === move.item
          ? { kind: 'already' }
          : next({ current: move.item, since: going }, opening(move.item))
    // Ended by mistake: it goes on where it was, and what passed in between isn't counted.
    case 'reopen': {
      const moved = next({ since: now, ended: null }) as Extract<Moved, { kind: 'moved' }>
      return {
        ...moved,
        changes: [...moved.changes, sayPart(meeting, { id: 'stage', kind: 'stage', stage: 'running' })],
      }
    }
    case 'end': {
      const moved = next({ since: null, ended: now }) as Extract<Moved, { kind: 'moved' }>
      return { ...moved, changes: [...moved.changes, sayPart(meeting, { id: 'stage', kind: 'stage', stage: 'ended' })] }
    }
  }
}
