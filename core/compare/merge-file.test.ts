import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { afterAll, expect, it } from 'vitest'
import { applyChanges, type Change, childrenOf, emptyTree, keysAt, newTopic, topicOf, type Tree } from '../tree'
import { copyOf } from '../../tests/rolled'
import { asked, mergeOf, silent, takeOver } from './merge'

/*
 * Checked against `git merge-file` (git 2, RCS merge): flat lists, whose lines are topics; edits that stand apart, or meet at the
 * very same line; no moves. There the two ask about the same lines, and where neither asks they come to the same list.
 */

const folder = mkdtempSync(join(tmpdir(), 'merge-'))
afterAll(() => rmSync(folder, { recursive: true }))

/** What a side does at the n-th line: nothing, words it anew, takes it away, or puts one in after it. */
type Edit = 'none' | 'word' | 'drop' | 'put'
const LINES = 32
/** Edits closer than this are one to git, which joins conflicts that lie near each other. */
const APART = 8

function list(): Tree {
  const tree = emptyTree({ ...newTopic('centre', null, 'a0'), title: 'Move' })
  const { keys } = keysAt([], 0, LINES)
  applyChanges(
    tree,
    keys.map((order, i): Change => ({
      op: 'add',
      topic: `t${i}`,
      parent: 'centre',
      order,
      with: { title: `line ${i}` },
    })),
  )
  return tree
}
function edited(tree: Tree, side: string, edits: ReadonlyMap<number, Edit>): Tree {
  const copy = copyOf(tree)
  const orders = childrenOf(tree, 'centre').map(id => topicOf(tree, id).order)
  for (const [i, edit] of edits) {
    const topic = `t${i}`
    if (edit === 'word') applyChanges(copy, [{ op: 'set', topic, field: 'title', value: `line ${i} of ${side}` }])
    if (edit === 'drop') applyChanges(copy, [{ op: 'remove', topic }])
    if (edit === 'put')
      applyChanges(copy, [
        {
          op: 'add',
          topic: `${side}${i}`,
          parent: 'centre',
          order: keysAt(orders, i + 1, 1).keys[0]!,
          with: { title: `${side} after ${i}` },
        },
      ])
  }
  return copy
}
const linesOf = (tree: Tree): string[] => childrenOf(tree, 'centre').map(id => topicOf(tree, id).title)

function git(base: Tree, here: Tree, there: Tree): { conflicts: number; lines: string[] } {
  const paths = [here, base, there].map((tree, i) => {
    const path = join(folder, `${i}.txt`)
    writeFileSync(
      path,
      linesOf(tree)
        .map(line => `${line}\n`)
        .join(''),
    )
    return path
  })
  const { status, stdout } = spawnSync('git', ['merge-file', '-p', ...paths], { encoding: 'utf8' })
  return { conflicts: status ?? -1, lines: stdout.split('\n').slice(0, -1) }
}

it('asks where git merge-file does, and comes to the same list where neither asks', () => {
  const edit = fc.constantFrom<Edit>('none', 'word', 'drop', 'put')
  const sides = fc.array(fc.tuple(edit, edit), { minLength: LINES / APART, maxLength: LINES / APART })
  fc.assert(
    fc.property(sides, all => {
      // Where both put in at one place git asks for their order, and beside a line that is changed too; here the keys tell.
      const apart = all.map(([a, b]): [Edit, Edit] => (a === 'put' ? [a, 'none'] : b === 'put' ? ['none', b] : [a, b]))
      const base = list()
      const of = (which: 0 | 1): Map<number, Edit> => new Map(apart.map((pair, i) => [i * APART + 3, pair[which]]))
      const [here, there] = [edited(base, 'here', of(0)), edited(base, 'there', of(1))]
      const merge = mergeOf({ here, there, common: { here: base, there: base } })
      const other = git(base, here, there)
      expect(asked(merge)).toHaveLength(other.conflicts)
      if (other.conflicts > 0) return
      const merged = copyOf(here)
      applyChanges(merged, takeOver(merge, { take: silent(merge) }))
      expect(linesOf(merged)).toEqual(other.lines)
    }),
    { numRuns: 80 },
  )
})
