/*
 * Text compared by words: the fewest words that go and come (E. W. Myers, “An O(ND) Difference Algorithm and Its
 * Variations”, Algorithmica 1, 251–266, 1986, the greedy algorithm of figure 2). A word is a run of letters and digits, a
 * run of white space, or one other character.
 */

/** A run of text: the same in both, only in the first (`gone`), or only in the second (`come`). */
export interface Run {
  readonly kind: 'same' | 'gone' | 'come'
  readonly text: string
}

const WORD = /[\p{L}\p{N}\p{M}_]+|\s+|./gsu
/** Words that go and come, beyond which two texts count as others altogether: the work and the memory grow with its square. */
const MOST = 2000

export const wordsOf = (text: string): string[] => text.match(WORD) ?? []

/** The runs that lead from one text to another; none for two empty ones. Those that go stand before those that come in their place. */
export function wordsBetween(before: string, after: string): Run[] {
  const runs: { kind: Run['kind']; text: string }[] = []
  const found = runsBetween(wordsOf(before), wordsOf(after)).map(({ kind, items }) => ({ kind, text: items.join('') }))
  let [gone, come] = ['', '']
  const flush = (): void => {
    if (gone) runs.push({ kind: 'gone', text: gone })
    if (come) runs.push({ kind: 'come', text: come })
    gone = come = ''
  }
  for (const [i, { kind, text }] of found.entries())
    if (kind === 'gone') gone += text
    else if (kind === 'come') come += text
    // A space between words that all change is read with them.
    else if (gone && come && i < found.length - 1 && text.trim() === '') {
      gone += text
      come += text
    } else {
      flush()
      runs.push({ kind, text })
    }
  flush()
  return runs
}

/** The same for any two lists, by identity. Cost: members times differences. */
export function runsBetween<T>(
  before: readonly T[],
  after: readonly T[],
): { kind: Run['kind']; items: readonly T[] }[] {
  const most = Math.min(before.length, after.length)
  let start = 0
  while (start < most && before[start] === after[start]) start++
  let end = 0
  while (end < most - start && before.at(-1 - end) === after.at(-1 - end)) end++
  const runs: { kind: Run['kind']; items: T[] }[] = []
  const put = (kind: Run['kind'], items: readonly T[]): void => {
    if (items.length === 0) return
    const last = runs.at(-1)
    if (last?.kind === kind) last.items.push(...items)
    else if (kind === 'gone' && last?.kind === 'come' && runs.at(-2)?.kind === 'gone') runs.at(-2)!.items.push(...items)
    else if (kind === 'gone' && last?.kind === 'come') runs.splice(-1, 0, { kind, items: [...items] })
    else runs.push({ kind, items: [...items] })
  }
  put('same', before.slice(0, start))
  const [old, now] = [before.slice(start, before.length - end), after.slice(start, after.length - end)]
  for (const step of stepsBetween(old, now) ?? [...old.map(gone), ...now.map(come)]) put(step.kind, [step.item])
  put('same', before.slice(before.length - end))
  return runs
}

interface Step<T> {
  readonly kind: Run['kind']
  readonly item: T
}
const gone = <T>(item: T): Step<T> => ({ kind: 'gone', item })
const come = <T>(item: T): Step<T> => ({ kind: 'come', item })

/** The shortest script, step by step; null when it has more than `MOST` steps that go or come. */
function stepsBetween<T>(old: readonly T[], now: readonly T[]): Step<T>[] | null {
  const [n, m] = [old.length, now.length]
  const reach = Math.min(n + m, MOST)
  /** For each diagonal, shifted by `reach` + 1, how far along `old` one has come. */
  const far = new Int32Array(2 * reach + 3)
  const trace: Int32Array[] = []
  for (let d = 0; d <= reach; d++) {
    trace.push(far.slice(reach + 1 - d - 1, reach + 1 + d + 2))
    for (let k = -d; k <= d; k += 2) {
      const at = reach + 1 + k
      const down = k === -d || (k !== d && far[at - 1]! < far[at + 1]!)
      let x = down ? far[at + 1]! : far[at - 1]! + 1
      while (x < n && x - k < m && old[x] === now[x - k]) x++
      far[at] = x
      if (x >= n && x - k >= m) return backtrack(old, now, trace)
    }
  }
  return null
}

function backtrack<T>(old: readonly T[], now: readonly T[], trace: readonly Int32Array[]): Step<T>[] {
  const steps: Step<T>[] = []
  let [x, y] = [old.length, now.length]
  for (let d = trace.length - 1; d >= 0; d--) {
    const far = trace[d]!
    const k = x - y
    // Kept from diagonal -d-1 on.
    const at = k + d + 1
    const down = k === -d || (k !== d && far[at - 1]! < far[at + 1]!)
    const k0 = down ? k + 1 : k - 1
    const x0 = d === 0 ? 0 : far[k0 + d + 1]!
    const y0 = d === 0 ? 0 : x0 - k0
    while (x > x0 && y > y0 && x > 0 && y > 0 && old[x - 1] === now[y - 1]) {
      steps.push({ kind: 'same', item: old[--x]! })
      y--
    }
    if (d > 0) steps.push(down ? come(now[--y]!) : gone(old[--x]!))
  }
  return steps.reverse()
}
