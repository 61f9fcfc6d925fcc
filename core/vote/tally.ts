import { type Cast, MOST_POINTS, type VoteKind } from '../tree/vote'

/* Counting. What isn't a whole answer isn't counted at all. */

/** The question as far as counting goes. `points`: what each spreads, in a vote by points. */
export interface Asked {
  readonly kind: VoteKind
  readonly choices: readonly string[]
  readonly points: number
}

export const YES_NO: readonly string[] = ['Yes', 'No', 'Abstain']

/** Why this isn't an answer to the question, in words; null when it is. */
export function wrongWith(cast: Cast, { kind, choices, points }: Asked): string | null {
  if (cast.length !== choices.length || cast.some(one => !Number.isInteger(one) || one < 0 || one > MOST_POINTS))
    return 'Say something to each of the choices.'
  const sum = cast.reduce((all, one) => all + one, 0)
  switch (kind) {
    case 'yes-no':
      return sum === 1 ? null : 'Choose one of them.'
    case 'points':
      return sum === points ? null : `Give away ${points} points; that is ${sum}.`
    case 'order':
      return new Set(cast).size === cast.length && Math.min(...cast) === 1 && Math.max(...cast) === cast.length
        ? null
        : 'Put each of them at a place of its own.'
  }
}

/** What a vote has come to so far. */
export interface Tally {
  readonly counts: readonly number[]
  readonly pairs: readonly (readonly number[])[] | null
}

export const nothing = ({ kind, choices }: Pick<Asked, 'kind' | 'choices'>): Tally => ({
  counts: choices.map(() => 0),
  pairs: kind === 'order' ? choices.map(() => choices.map(() => 0)) : null,
})

/** Counts one more answer. */
export function added({ counts, pairs }: Tally, cast: Cast): Tally {
  if (!pairs) return { counts: counts.map((count, i) => count + cast[i]!), pairs }
  const now = pairs.map((row, i) => row.map((count, j) => count + (cast[i]! < cast[j]! ? 1 : 0)))
  // Over how many others a choice is put, summed: what Borda counts.
  return { counts: now.map(row => row.reduce((all, one) => all + one, 0)), pairs: now }
}

export const tally = (asked: Pick<Asked, 'kind' | 'choices'>, casts: readonly Cast[]): Tally =>
  casts.reduce(added, nothing(asked))

/** The choices with the most: one, or several that are level. None when nobody has voted. */
export function foremost({ counts }: Pick<Tally, 'counts'>): number[] {
  const most = Math.max(...counts)
  return most === 0 ? [] : counts.flatMap((count, i) => (count === most ? [i] : []))
}

/** In an order: the choice that more people put before than behind each single other one, if there is one. */
export function beatsAll({ pairs }: Pick<Tally, 'pairs'>): number | null {
  const found = pairs?.findIndex((row, i) => row.every((count, j) => i === j || count > pairs[j]![i]!)) ?? -1
  return found < 0 ? null : found
}
