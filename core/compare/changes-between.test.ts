import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChanges, type Change, Refused, sameNote, topicOf, type Tree } from '../tree'
import { changesBetween } from './changes-between'
import { copyOf, grow, rolls, seed, shown } from '../../tests/rolled'

describe('changes between two states', () => {
  it('law: made on the one they give the other, in every field; between a state and itself there are none', () => {
    fc.assert(
      fc.property(rolls(25), rolls(25), rolls(25), (common, one, other) => {
        const base = grow(seed(), common)
        const a = grow(copyOf(base), one)
        const b = grow(copyOf(base), other)
        expect(changesBetween(a, a)).toEqual([])
        const made = copyOf(a)
        applyChanges(made, changesBetween(a, b))
        expect(shown(made)).toEqual(shown(b))
        expect(changesBetween(made, b).filter(change => change.op !== 'note')).toEqual([])
        for (const { id, note } of b.topics.values()) expect(sameNote(topicOf(made, id).note, note)).toBe(true)
      }),
      { numRuns: 600 },
    )
  })

  it('of one branch leave everything else, and the branch where it stands', () => {
    fc.assert(
      fc.property(rolls(20), rolls(20), (common, later) => {
        const then = grow(seed(), common)
        const now = grow(copyOf(then), later)
        const outside = (tree: Tree): unknown[] =>
          [...tree.topics.values()]
            .filter(({ id }) => {
              for (let at: string | null = id; at !== null; at = tree.topics.get(at)!.parent)
                if (at === 'a') return false
              return true
            })
            .map(({ id, title, done }) => [id, title, done])
        const before = outside(now)
        const stood = topicOf(now, 'a')
        let changes: Change[]
        try {
          changes = changesBetween(now, then, 'a')
          applyChanges(now, changes)
        } catch (error) {
          // The branch now lies below one that belongs into it: it's told, and nothing is changed.
          expect(error).toBeInstanceOf(Refused)
          return
        }
        expect(topicOf(now, 'a')).toMatchObject({
          parent: stood.parent,
          order: stood.order,
          title: topicOf(then, 'a').title,
        })
        const ids = new Set(outside(now).map(one => (one as [string])[0]))
        expect(before.filter(one => ids.has((one as [string])[0]))).toEqual(
          outside(now).filter(one => before.some(old => (old as [string])[0] === (one as [string])[0])),
        )
      }),
      { numRuns: 300 },
    )
  })

  it('says no when that moment had no such branch', () => {
    expect(() => changesBetween(seed(), seed(), 'z')).toThrow(RangeError)
  })
})
