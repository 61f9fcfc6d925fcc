import { nanoid } from 'nanoid'
import { type Arrangement, BLANK, emptyTree, type Tree } from '#core/tree'

/** A tree with nothing but its centre. */
export function newTree(title: string, arrangement: Arrangement): Tree {
  const tree = emptyTree({ ...BLANK, id: nanoid(12), parent: null, order: 'a0', title })
  tree.fields = { ...tree.fields, arrangement }
  return tree
}
