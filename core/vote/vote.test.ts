import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Cast, type Vote, voteSchema } from '../tree/vote'
import { added, beatsAll, foremost, nothing, tally, wrongWith, YES_NO } from './tally'
import { voteInWords } from './words'

const order = (choices: readonly string[], ranking: string): Cast =>
  choices.map(choice => ranking.split(' ').indexOf(choice) + 1)
const times = <T>(count: number, one: T): T[] => Array.from({ length: count }, () => one)

describe('an order', () => {
  /*
   * The capital of Tennessee, as textbooks on voting tell it: 42 % Memphis, 26 % Nashville, 15 % Chattanooga, 17 % Knoxville, each
   * city's voters ordering the rest by how near they are. Values from memory of the common telling.
   */
  const cities = ['Memphis', 'Nashville', 'Chattanooga', 'Knoxville']
  const casts = [
    ...times(42, order(cities, 'Memphis Nashville Chattanooga Knoxville')),
    ...times(26, order(cities, 'Nashville Chattanooga Knoxville Memphis')),
    ...times(15, order(cities, 'Chattanooga Knoxville Nashville Memphis')),
    ...times(17, order(cities, 'Knoxville Chattanooga Nashville Memphis')),
  ]
  const found = tally({ kind: 'order', choices: cities }, casts)

  it('is counted by Borda: Nashville 194, Chattanooga 173, Memphis 126, Knoxville 107', () => {
    expect(found.counts).toEqual([126, 194, 173, 107])
    expect(foremost(found)).toEqual([1])
  })

  it('is counted pair by pair: Nashville is put before each single other', () => {
    expect(found.pairs![1]).toEqual([58, 0, 68, 68])
    expect(found.pairs!.map(row => row[0])).toEqual([0, 58, 58, 58])
    expect(beatsAll(found)).toBe(1)
  })

  it('may go round: then none is before all others (Condorcet’s paradox)', () => {
    const round = tally(
      { kind: 'order', choices: ['a', 'b', 'c'] },
      ['a b c', 'b c a', 'c a b'].map(ranking => order(['a', 'b', 'c'], ranking)),
    )
    expect(round.counts).toEqual([3, 3, 3])
    expect(foremost(round)).toEqual([0, 1, 2])
    expect(beatsAll(round)).toBeNull()
  })

  it('law: what Borda gives a choice is how many others it was put before, whoever voted first', () => {
    const choices = ['a', 'b', 'c', 'd', 'e']
    const ranks = fc.shuffledSubarray([1, 2, 3, 4, 5], { minLength: 5 })
    fc.assert(
      fc.property(fc.array(ranks, { maxLength: 30 }), all => {
        const now = tally({ kind: 'order', choices }, all)
        expect(now.counts).toEqual(choices.map((_, i) => all.reduce((sum, cast) => sum + (5 - cast[i]!), 0)))
        expect(tally({ kind: 'order', choices }, [...all].reverse())).toEqual(now)
        const winner = beatsAll(now)
        if (winner !== null)
          for (const i of choices.keys())
            if (i !== winner)
              expect(all.filter(cast => cast[winner]! < cast[i]!).length).toBeGreaterThan(all.length / 2)
      }),
    )
  })
})

describe('an answer', () => {
  const asked = { choices: ['a', 'b', 'c'], points: 5 }
  it.each([
    ['yes-no', [0, 1, 0], null],
    ['yes-no', [0, 0, 0], 'Choose one of them.'],
    ['yes-no', [1, 1, 0], 'Choose one of them.'],
    ['yes-no', [2, 0, 0], 'Choose one of them.'],
    ['yes-no', [1, 0], 'Say something to each of the choices.'],
    ['points', [5, 0, 0], null],
    ['points', [2, 2, 2], 'Give away 5 points; that is 6.'],
    ['points', [6, -1, 0], 'Say something to each of the choices.'],
    ['points', [2.5, 2.5, 0], 'Say something to each of the choices.'],
    ['order', [2, 3, 1], null],
    ['order', [1, 1, 2], 'Put each of them at a place of its own.'],
    ['order', [0, 1, 2], 'Put each of them at a place of its own.'],
    ['order', [2, 3, 4], 'Put each of them at a place of its own.'],
  ] as const)('to %s: %j', (kind, cast, wrong) => {
    expect(wrongWith(cast, { ...asked, kind })).toBe(wrong)
  })

  it('is added to what was counted before', () => {
    const yes = { kind: 'yes-no' as const, choices: YES_NO }
    expect(added(added(nothing(yes), [1, 0, 0]), [0, 1, 0])).toEqual({ counts: [1, 1, 0], pairs: null })
    expect(foremost(nothing(yes))).toEqual([])
  })
})

describe('what a vote came to', () => {
  const vote: Vote = {
    id: 'v',
    question: 'Carpet?',
    kind: 'yes-no',
    secret: false,
    choices: [...YES_NO],
    counts: [2, 1, 0],
    pairs: null,
    voters: ['ines', 'rana', 'oskar'],
    casts: [
      [1, 0, 0],
      [0, 1, 0],
      [1, 0, 0],
    ],
    by: 'ines',
    at: 1,
  }
  it('is said in a line, by name where it was open', () => {
    expect(voteInWords(vote, id => id)).toBe(
      'Vote “Carpet?”: Yes 2, No 1, Abstain 0. 3 voted (Yes: ines, oskar; No: rana).',
    )
    expect(voteInWords({ ...vote, secret: true, casts: null }, id => id)).toBe(
      'Vote “Carpet?”: Yes 2, No 1, Abstain 0. 3 voted, in secret: ines, rana, oskar.',
    )
    const choices = ['Cork', 'Carpet', 'Oak']
    const casts = [...times(3, [1, 2, 3]), ...times(2, [2, 1, 3])]
    const { counts, pairs } = tally({ kind: 'order', choices }, casts)
    const byOrder: Vote = {
      ...vote,
      question: '',
      kind: 'order',
      choices,
      casts,
      counts: [...counts],
      pairs: pairs!.map(row => [...row]),
    }
    expect(voteInWords(byOrder)).toBe('Vote by order: Cork 8, Carpet 7, Oak 0. 3 voted.')
  })

  it('names the choice that is put before each other where the counts have another first', () => {
    const choices = ['a', 'b', 'c']
    const casts = [...times(3, order(choices, 'a b c')), ...times(2, order(choices, 'b c a'))]
    const { counts, pairs } = tally({ kind: 'order', choices }, casts)
    const byOrder: Vote = {
      ...vote,
      kind: 'order',
      choices,
      casts: null,
      counts: [...counts],
      pairs: pairs!.map(row => [...row]),
    }
    expect(voteInWords(byOrder)).toBe(
      'Vote “Carpet?” by order: b 7, a 6, c 2. “a” is put before each single other. 3 voted.',
    )
  })

  it('never holds who said what in secret', () => {
    expect(voteSchema.safeParse(vote).success).toBe(true)
    expect(voteSchema.safeParse({ ...vote, secret: true }).success).toBe(false)
    expect(voteSchema.safeParse({ ...vote, counts: [1, 2] }).success).toBe(false)
  })
})
