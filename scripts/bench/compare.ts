import { runsBetween } from '../../core/compare/words'
import { differencesOf } from '../../core/compare/differences'
import { mergeOf, silent, takeOver } from '../../core/compare/merge'
import { applyChanges, fromSnapshot, removeAll, setAll, toSnapshot, type Tree } from '../../core/tree'
import { sampleTree } from './samples'
import { ms, print, quantile, random } from './table'

/* Compares two trees that were loaded apart, and merges them; against reading the two from their snapshots in the same run. */

const copyOf = (tree: Tree): Tree => fromSnapshot(JSON.parse(JSON.stringify(toSnapshot(tree))))

/** One topic in ten worded anew, moved or taken away. */
function worked(tree: Tree, seed: number): Tree {
  const copy = copyOf(tree)
  const dice = random(seed)
  const ids = [...copy.topics.keys()].filter(id => id !== copy.centre)
  for (let i = 0; i < ids.length / 10; i++) {
    const id = ids[Math.floor(dice() * ids.length)]!
    const roll = dice()
    try {
      if (roll < 0.6) applyChanges(copy, setAll(copy, [id], 'title', `anew ${i}`).changes)
      else if (roll < 0.9)
        applyChanges(copy, [
          {
            op: 'place',
            topic: id,
            parent: ids[Math.floor(dice() * ids.length)]!,
            order: `a${Math.floor(dice() * 9)}`,
          },
        ])
      else if (copy.children.get(id) === undefined) applyChanges(copy, removeAll(copy, [id]).changes)
    } catch {
      /* it would stand below itself */
    }
  }
  return copy
}

const time = (runs: number, work: () => void): number => {
  const taken: number[] = []
  for (let i = 0; i < runs; i++) {
    const began = performance.now()
    work()
    taken.push(performance.now() - began)
  }
  return quantile(taken, 0.5)
}

for (const [count, most, runs] of [
  [10_000, 150, 7],
  [50_000, 1000, 3],
] as const) {
  const base = sampleTree(count)
  const [here, there] = [worked(base, 3), worked(base, 4)]
  const packed = JSON.stringify(toSnapshot(there))
  const reading = time(runs, () => void fromSnapshot(JSON.parse(packed)))
  const comparing = time(runs, () => void differencesOf(here, there, { order: true }))
  const words = count.toLocaleString('en')
  print({
    what: `compare two trees of ${words} topics`,
    ours: ms(comparing),
    reference: `${ms(reading)} to read one`,
    ratio: comparing / reading,
    goal: `< ${most} ms`,
    met: comparing < most,
  })
  const merging = time(runs, () => {
    const merge = mergeOf({ here, there, common: { here: base, there: base } })
    takeOver(merge, { take: silent(merge) })
  })
  print({
    what: `merge them from a common moment`,
    ours: ms(merging),
    reference: `${ms(reading)} to read one`,
    ratio: merging / reading,
    goal: 'none',
    met: true,
  })
}
const dice = random(9)
const long = Array.from({ length: 5000 }, () => `w${Math.floor(dice() * 400)}`)
const other = long.map(word => (dice() < 0.1 ? `x${word}` : word))
const taken = time(5, () => void runsBetween(long, other))
print({
  what: 'a note of 5,000 words, one in ten anew',
  ours: ms(taken),
  reference: '',
  ratio: 0,
  goal: '< 100 ms',
  met: taken < 100,
})
