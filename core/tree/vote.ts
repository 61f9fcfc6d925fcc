import { z } from 'zod'
import { id, words } from './atoms'

/*
 * What a vote on a topic came to, as it's kept with the topic: in the record, in copies of the tree, in its history.
 */

/** 'yes-no': one answer of a few. 'points': each spreads so many over the choices. 'order': each puts the choices in an order. */
export const VOTE_KINDS = ['yes-no', 'points', 'order'] as const
export type VoteKind = (typeof VOTE_KINDS)[number]
/** Choices that one vote has at most. */
export const MOST_CHOICES = 12
/** People who take part at most. */
export const MOST_VOTERS = 200
/** Points that one person spreads at most. */
export const MOST_POINTS = 100

const sum = z
  .int()
  .min(0)
  .max(MOST_VOTERS * MOST_POINTS)
/**
 * What one person says: a number for each choice. 'yes-no': 1 at one choice, 0 at the others. 'points': the points. 'order': the place
 * from 1 on, each once.
 */
export const castSchema = z.array(z.int().min(0).max(MOST_POINTS)).min(2).max(MOST_CHOICES)
export type Cast = readonly number[]

export const voteSchema = z
  .strictObject({
    id,
    question: words(500),
    kind: z.enum(VOTE_KINDS),
    secret: z.boolean(),
    choices: z.array(words(200).min(1)).min(2).max(MOST_CHOICES),
    /** How much each choice got: answers, or points; in an order, over how many others it was put, summed over all who voted. */
    counts: z.array(sum).min(2).max(MOST_CHOICES),
    /** In an order: how many put the choice of the row before the choice of the column. */
    pairs: z.array(z.array(sum).max(MOST_CHOICES)).max(MOST_CHOICES).nullable(),
    /** Who voted. */
    voters: z.array(id).max(MOST_VOTERS),
    /** In an open vote: what each of them said, in the same order. Of a secret one that is nowhere. */
    casts: z.array(castSchema).max(MOST_VOTERS).nullable(),
    /** Who asked, and when it was closed: ms since 1970 UTC. */
    by: id,
    at: z.int().min(0).max(8.64e15),
  })
  .refine(vote => vote.counts.length === vote.choices.length, 'must have a count for each choice')
  .refine(vote => !(vote.secret && vote.casts), 'must not say who voted what in a secret vote')
export type Vote = Readonly<z.infer<typeof voteSchema>>
