import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { addAt, applyChanges, BLANK, emptyTree, type Tree } from '../../core/tree'
import { Folds } from './folds'

const kept = new Map<string, string>()
const left = new Set<() => void>()
beforeEach(() => {
  kept.clear()
  left.clear()
  vi.useFakeTimers()
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => {
      kept.set(key, value)
    },
  })
  vi.stubGlobal('window', {
    addEventListener: (_: string, heard: () => void) => left.add(heard),
    removeEventListener: (_: string, heard: () => void) => left.delete(heard),
    setTimeout: (work: () => void, ms: number) => setTimeout(work, ms),
  })
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

function grow(): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0' })
  for (const [id, parent] of [
    ['A', 'c'],
    ['A1', 'A'],
    ['A1a', 'A1'],
    ['B', 'c'],
  ] as const)
    applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id, { folded: id === 'B' }).changes)
  return tree
}

describe('one’s own folds', () => {
  it('that are lent come back as they were, and only those are kept meanwhile', () => {
    const tree = grow()
    const folds = new Folds(() => tree, 't', 'ines')
    folds.set('A1', true)
    vi.advanceTimersByTime(400)
    const before = kept.get('sun-porch-folds/ines/t')
    const back = folds.lend()
    folds.set('A', true)
    folds.set('A1', false)
    folds.openTo(1)
    for (const leave of left) leave()
    vi.advanceTimersByTime(400)
    expect(kept.get('sun-porch-folds/ines/t')).toBe(before)
    expect(folds.isFolded('A')).toBe(true)
    back()
    expect([folds.isFolded('A'), folds.isFolded('A1')]).toEqual([false, true])
    folds.set('A', true)
    vi.advanceTimersByTime(400)
    expect(kept.get('sun-porch-folds/ines/t')).not.toBe(before)
  })

  it('say nothing at first: the tree’s own fold counts, and the centre never folds', () => {
    const folds = new Folds(grow, 't', 'u')
    expect(['c', 'A', 'B'].map(id => folds.isFolded(id))).toEqual([false, false, true])
  })
  it('open to a depth for all topics at once, then one by one on top of it', () => {
    const tree = grow()
    const folds = new Folds(() => tree, 't', 'u')
    folds.openTo(1)
    expect(['c', 'A', 'A1', 'B'].map(id => folds.isFolded(id))).toEqual([false, true, true, true])
    folds.set('A', false)
    expect(folds.isFolded('A')).toBe(false)
    folds.openTo(2)
    expect(['A', 'A1', 'B'].map(id => folds.isFolded(id))).toEqual([false, true, false])
    folds.openTo(0)
    expect(['A', 'A1', 'B'].map(id => folds.isFolded(id))).toEqual([false, false, false])
  })
  it('are kept by person and tree, also when the page is left at once', () => {
    const tree = grow()
    const folds = new Folds(() => tree, 't', 'u')
    folds.set('A', true)
    for (const leave of left) leave()
    expect(new Folds(() => tree, 't', 'u').isFolded('A')).toBe(true)
    expect(new Folds(() => tree, 't', 'somebody-else').isFolded('A')).toBe(false)
    expect(new Folds(() => tree, 'another', 'u').isFolded('A')).toBe(false)
    folds.close()
    expect(left.size).toBe(3)
  })
  it('are kept a moment after each fold, and what can’t be read is as if nothing had been folded', () => {
    const tree = grow()
    const folds = new Folds(() => tree, 't', 'u')
    folds.set('A', true)
    expect(kept.size).toBe(0)
    vi.advanceTimersByTime(400)
    expect(kept.size).toBe(1)
    for (const key of kept.keys()) kept.set(key, '{')
    expect(new Folds(() => tree, 't', 'u').isFolded('A')).toBe(false)
  })
})
