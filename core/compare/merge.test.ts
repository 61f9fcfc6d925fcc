import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChanges, type Change, childrenOf, isLive, noteWords, topicOf, type Tree } from '../tree'
import { copyOf, grow, rolls, seed, shown } from '../../tests/rolled'
import { asked, type Merge, mergeOf, silent, takeOver } from './merge'

const made = (tree: Tree, changes: readonly Change[]): Tree => {
  const copy = copyOf(tree)
  applyChanges(copy, changes)
  return copy
}
const threeWay = (base: Tree, here: Tree, there: Tree): Merge =>
  mergeOf({ here, there, common: { here: base, there: base } })
const keys = (merge: Merge): string[] => [...merge.pieces.keys()]

describe('taking over', () => {
  it('law: of all pieces gives the other tree; between a tree and its copy there are none', () => {
    fc.assert(
      fc.property(rolls(25), rolls(25), rolls(25), (common, one, other) => {
        const base = grow(seed(), common)
        const [here, there] = [grow(copyOf(base), one), grow(copyOf(base), other)]
        expect(keys(mergeOf({ here, there: copyOf(here), common: null }))).toEqual([])
        const merge = mergeOf({ here, there, common: null })
        expect(shown(made(here, takeOver(merge, { take: keys(merge) })))).toEqual(shown(there))
      }),
      { numRuns: 400 },
    )
  })

  it('law: of any pieces can be made, and gives each of them as it is there', () => {
    fc.assert(
      fc.property(rolls(20), rolls(25), rolls(25), fc.array(fc.nat(200)), (common, one, other, picks) => {
        const base = grow(seed(), common)
        const [here, there] = [grow(copyOf(base), one), grow(copyOf(base), other)]
        const merge = mergeOf({ here, there, common: null })
        const all = keys(merge)
        const take = all.length === 0 ? [] : picks.map(n => all[n % all.length]!)
        const after = made(here, takeOver(merge, { take }))
        const left = new Set(keys(mergeOf({ here: after, there, common: null })))
        for (const key of take) {
          const { topic, part } = merge.pieces.get(key)!
          expect(left.has(key), key).toBe(false)
          if (topic !== null && part === 'there') expect(isLive(after, topic)).toBe(isLive(there, topic))
        }
      }),
      { numRuns: 400 },
    )
  })
})

describe('a merge from a common moment', () => {
  it('law: comes to the same from both sides where nothing is asked', () => {
    let quiet = 0
    fc.assert(
      fc.property(rolls(20), rolls(6), rolls(6), (common, one, other) => {
        const base = grow(seed(), common)
        const [here, there] = [one, other].map(side => grow(copyOf(base), side, { sound: true })) as [Tree, Tree]
        const [to, from] = [threeWay(base, here, there), threeWay(base, there, here)]
        expect(asked(to).length > 0).toBe(asked(from).length > 0)
        if (asked(to).length > 0) return
        quiet++
        const merged = made(here, takeOver(to, { take: silent(to) }))
        expect(shown(merged, { ordered: false })).toEqual(
          shown(made(there, takeOver(from, { take: silent(from) })), { ordered: false }),
        )
        // And nothing that either side changed is left to be done.
        expect(silent(threeWay(base, merged, there))).toEqual([])
        expect(silent(threeWay(base, merged, here))).toEqual([])
      }),
      { numRuns: 600 },
    )
    expect(quiet).toBeGreaterThan(100)
  })

  it('law: keeps every change of this side, and whatever is answered can be made', () => {
    fc.assert(
      fc.property(rolls(20), rolls(15), rolls(15), fc.array(fc.boolean()), (common, one, other, answers) => {
        const base = grow(seed(), common)
        const [here, there] = [grow(copyOf(base), one), grow(copyOf(base), other)]
        const merge = threeWay(base, here, there)
        const kept = made(here, takeOver(merge, { take: silent(merge) }))
        for (const { topic, part, by } of merge.pieces.values())
          if (
            topic !== null &&
            by === 'here' &&
            isLive(here, topic) &&
            isLive(kept, topic) &&
            part in topicOf(here, topic)
          )
            expect(topicOf(kept, topic)[part as 'title']).toEqual(topicOf(here, topic)[part as 'title'])
        for (const id of here.topics.keys())
          if (isLive(here, id) && !base.topics.has(id)) expect(isLive(kept, id)).toBe(true)
        const chosen = asked(merge).filter((_, i) => answers[i])
        made(here, takeOver(merge, { take: [...silent(merge), ...chosen.map(({ key }) => key)] }))
      }),
      { numRuns: 400 },
    )
  })

  const at = (parent: string | null, order = 'b0'): Change[] => [{ op: 'place', topic: 'a', parent, order }]
  const cases: [string, Change[], Change[], string[]][] = [
    ['the same on both sides', [title('a', 'x')], [title('a', 'x')], []],
    ['two fields of one topic', [title('a', 'x')], [due('a')], []],
    ['one field', [title('a', 'x')], [title('a', 'y')], ['a title']],
    ['one person each', [person('a', 'ines')], [person('a', 'rana')], []],
    ['gone there, worded anew here', [title('a', 'x')], [gone('a')], ['a there removed-there']],
    ['worded anew there, gone here', [gone('a')], [title('a', 'x')], ['a there removed-here']],
    ['gone there, something new below it here', [add('n', 'a')], [gone('a')], ['a there removed-there']],
    ['gone there, moved out of it here', [{ op: 'place', topic: 'a1', parent: 'b', order: 'a9' }], [gone('a')], []],
    ['gone on both sides', [gone('a')], [gone('a')], []],
    ['moved to two places', at('b'), at('c'), ['a where']],
    ['moved to one place', at('b'), at('b'), []],
    ['each below the other', at('b'), [{ op: 'place', topic: 'b', parent: 'a', order: 'a0' }], ['b where round']],
    ['moved under one that is gone here', [gone('b')], at('b'), ['b there removed-here']],
    ['new under one that is gone here', [gone('b')], [add('n', 'b')], ['b there removed-here']],
  ]
  it.each(cases)('%s', (_, mine, theirs, expected) => {
    const base = made(seed(), [add('a1', 'a')])
    const merge = threeWay(base, made(base, mine), made(base, theirs))
    expect(asked(merge).map(({ key, snag }) => [key, snag].filter(Boolean).join(' '))).toEqual(expected)
  })

  it('asks from both sides where one moved a topic under what it then removed, and the other gave it another place by its key alone', () => {
    const base = seed()
    const one: Change[] = [{ op: 'place', topic: 'a', parent: 'c', order: 'a2' }, gone('c')]
    const other: Change[] = [{ op: 'place', topic: 'a', parent: 'centre', order: 'a2' }]
    for (const [mine, theirs] of [
      [one, other],
      [other, one],
    ] as const)
      expect(asked(threeWay(base, made(base, mine), made(base, theirs))).length).toBeGreaterThan(0)
  })

  it('brings what came into a branch that went, where the other side had moved a part of it out', () => {
    const base = made(seed(), [add('e', 'a'), add('x', 'e'), gone('x')])
    const out: Change[] = [{ op: 'place', topic: 'e', parent: 'centre', order: 'b0' }]
    const away = made(base, [
      add('g', 'e'),
      { op: 'place', topic: 'b', parent: 'g', order: 'a0' },
      back('x'),
      gone('a'),
    ])
    for (const [here, there] of [
      [away, made(base, out)],
      [made(base, out), away],
    ] as const) {
      const merge = threeWay(base, here, there)
      expect(asked(merge)).toEqual([])
      const merged = made(here, takeOver(merge, { take: silent(merge) }))
      expect(['a', 'e', 'g', 'x', 'b'].filter(id => isLive(merged, id))).toEqual(['e', 'g', 'x', 'b'])
      expect(topicOf(merged, 'b').parent).toBe('g')
    }
    // Told as new where it comes, and left out where the whole went.
    expect(keys(threeWay(base, made(base, out), away))).toContain('g there')
    expect(keys(threeWay(base, base, made(base, [add('g', 'e'), gone('a')])))).toEqual(['a there'])
  })

  it('joins a note that both have written in, when that is wanted', () => {
    const base = grow(seed(), [note('b', 0)])
    const here = grow(copyOf(base), [note('b', 5)])
    const there = grow(copyOf(base), [note('b', 7)])
    const merge = threeWay(base, here, there)
    expect(asked(merge).map(({ key }) => key)).toEqual(['b note'])
    const joined = noteWords(topicOf(made(here, takeOver(merge, { take: [], join: ['b note'] })), 'b').note)
    for (const words of ['word 0', 'word 5', 'word 7']) expect(joined).toContain(words)
  })

  it('of a copy that left its dates behind, counts only what was done since on either side', () => {
    const original = made(seed(), [due('a'), title('b', 'Crates')])
    const copied = made(original, [{ op: 'set', topic: 'a', field: 'due', value: null }])
    const there = made(copied, [title('c', 'Learned: order lamps early')])
    const merge = mergeOf({ here: original, there, common: { here: original, there: copied } })
    expect([...merge.pieces.values()].map(({ key, by }) => `${key} ${by}`)).toEqual(['a due neither', 'c title there'])
  })

  it('brings a branch back as it is there, with what it needs to stand on', () => {
    const base = made(seed(), [add('a1', 'a'), add('a2', 'a1')])
    const here = made(base, [gone('a'), title('a2', 'old')])
    const merge = mergeOf({ here, there: base, common: null })
    const after = made(here, takeOver(merge, { take: ['a there'] }))
    expect(isLive(after, 'a2')).toBe(true)
    expect(topicOf(after, 'a2').title).toBe(topicOf(base, 'a2').title)
    expect(childrenOf(after, 'a')).toEqual(['a1'])
  })
})

function title(topic: string, value: string): Change {
  return { op: 'set', topic, field: 'title', value }
}
function due(topic: string): Change {
  return { op: 'set', topic, field: 'due', value: '2027-05-12' }
}
function person(topic: string, member: string): Change {
  return { op: 'put', topic, set: 'people', member }
}
function gone(topic: string): Change {
  return { op: 'remove', topic }
}
function back(topic: string): Change {
  return { op: 'restore', topic }
}
function add(topic: string, parent: string): Change {
  return { op: 'add', topic, parent, order: 'a5', with: { title: topic } }
}
function note(topic: string, pick: number) {
  return { op: 'note' as const, topic, under: null, order: 'a0' as const, pick }
}
