import type { Change } from '../tree/change'
import type { TopicId } from '../tree/topic'

/** Why a moment of a tree is kept: named by hand, as a baseline of its plan, or by itself before or after something that alters much. */
export const KEPT_WHY = [
  'named',
  'brought-in',
  'mass',
  'returned',
  'merged',
  'meeting-begun',
  'meeting-ended',
  'baseline',
] as const
export type KeptWhy = (typeof KEPT_WHY)[number]

/** A moment that is kept, so that it's found again. */
export interface KeptMoment {
  /** The number of the edit after which the tree was so. */
  readonly number: number
  readonly why: KeptWhy
  /** A name that somebody gave it, or the title of the meeting; '' for what its kind says. */
  readonly name: string
  /** An account; null when it was kept by itself. */
  readonly by: string | null
  /** ISO 8601 instant at which it was kept. */
  readonly at: string
}

/** Topics that one edit brings in, or alters, from which on the moment before it is kept. */
export const MANY = 30

/** What of an edit makes a moment worth keeping by itself; null for most edits. `topic`: the meeting that it's about. */
export function worthKeeping({
  number,
  changes,
  source,
}: {
  readonly number: number
  readonly changes: readonly Change[]
  readonly source?: { readonly kind: string } | undefined
}): { readonly number: number; readonly why: KeptWhy; readonly topic: TopicId | null } | null {
  for (const change of changes)
    if (change.op === 'put' && change.set === 'meeting' && change.member.kind === 'stage') {
      if (change.member.stage === 'running') return { number: number - 1, why: 'meeting-begun', topic: change.topic }
      if (change.member.stage === 'ended') return { number, why: 'meeting-ended', topic: change.topic }
    }
  if (source?.kind === 'merged') return { number: number - 1, why: 'merged', topic: null }
  if (source?.kind === 'moment') return { number: number - 1, why: 'returned', topic: null }
  const brought = new Set<TopicId>()
  const altered = new Set<TopicId>()
  for (const change of changes)
    if (change.op === 'add') brought.add(change.topic)
    else if (change.op !== 'tree' && 'topic' in change && !brought.has(change.topic)) altered.add(change.topic)
  if (brought.size >= MANY) return { number: number - 1, why: 'brought-in', topic: null }
  return altered.size >= MANY ? { number: number - 1, why: 'mass', topic: null } : null
}

/** The kind of a kept moment, where it has no name. */
export const KEPT_WORDS: Record<KeptWhy, string> = {
  named: 'a moment',
  'brought-in': 'before many topics were brought in',
  mass: 'before many topics were changed at once',
  returned: 'before something was brought back',
  merged: 'before something was taken over',
  'meeting-begun': 'when the meeting began',
  'meeting-ended': 'when the meeting ended',
  baseline: 'as agreed',
}

/** A kept moment in words: its name, or its kind; both for a meeting. */
export function keptInWords({ why, name }: Pick<KeptMoment, 'why' | 'name'>): string {
  if (name === '') return KEPT_WORDS[why]
  return why === 'named' ? name : `${name}, ${KEPT_WORDS[why]}`
}
