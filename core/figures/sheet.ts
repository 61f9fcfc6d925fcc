import Papa from 'papaparse'
import type { TopicId } from '../tree/topic'
import { childrenOf, type Tree } from '../tree/tree'
import { roots } from '../tree/walk'
import type { Fixed } from './fixed'

/* The tree as the rows of a sheet, and blocks of cells as other programs take and give them. */

export interface SheetRow {
  readonly id: TopicId
  /** 1 for the centre and loose topics. */
  readonly level: number
}

/** Rows as the tree has them; siblings by a value where that's asked for, those without one last. */
export function sheetRows(
  tree: Tree,
  asked: {
    /** The one branch that is shown, or null. */
    readonly only: TopicId | null
    folded(id: TopicId): boolean
    hidden(id: TopicId): boolean
    readonly sort: { readonly down: boolean; value(id: TopicId): Fixed | null } | null
  },
): SheetRow[] {
  const rows: SheetRow[] = []
  const stack: SheetRow[] = (asked.only === null ? [...roots(tree)] : [asked.only])
    .reverse()
    .map(id => ({ id, level: 1 }))
  while (stack.length > 0) {
    const row = stack.pop()!
    if (asked.hidden(row.id)) continue
    rows.push(row)
    if (asked.folded(row.id)) continue
    const children = asked.sort ? sorted(childrenOf(tree, row.id), asked.sort) : childrenOf(tree, row.id)
    for (let i = children.length - 1; i >= 0; i--) stack.push({ id: children[i]!, level: row.level + 1 })
  }
  return rows
}

/** Topics by a value, those without one last; equal ones stay as they are. */
export function sorted(
  ids: readonly TopicId[],
  { down, value }: { readonly down: boolean; value(id: TopicId): Fixed | null },
): readonly TopicId[] {
  const keyed = ids.map(id => ({ id, value: value(id) }))
  keyed.sort((a, b) => {
    if (a.value === b.value) return 0
    if (a.value === null) return 1
    if (b.value === null) return -1
    return a.value < b.value === down ? 1 : -1
  })
  return keyed.map(({ id }) => id)
}

/** Cells that other programs gave: rows parted by lines, cells by tabs; a cell in quotes may hold both. */
export const blockOf = (text: string): string[][] =>
  Papa.parse<string[]>(text.replace(/\r?\n$/, ''), { delimiter: '\t' }).data

/** Cells for other programs. */
export const blockText = (rows: readonly (readonly string[])[]): string =>
  Papa.unparse(rows as string[][], { delimiter: '\t', newline: '\n' })
