import { toSnapshot } from '#core/tree'
import { treeFromFile } from '../../trees/import'
import type { ImportInput, ImportResult } from '../work'

/** A file that somebody sent, as a tree. */
export async function importFile({ format, name, text, parents }: ImportInput): Promise<ImportResult> {
  const read = await treeFromFile(format, name, text, parents)
  const { tree, left, talk = [], people = {}, of = null, pictures = [] } = read
  return { snapshot: toSnapshot(tree), left, talk, people, of, pictures }
}
