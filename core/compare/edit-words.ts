import { type Change, isTreeChange, type TreeChange } from '../tree/change'
import { FIELDS } from '../tree/fields'
import { SETS } from '../tree/sets'
import { shorten } from '../tree/title'
import type { Tree } from '../tree/tree'
import { TREE_FIELDS, TREE_SETS } from '../tree/tree-fields'

/** How many of an edit's parts are named. */
const MOST = 3

function treeWords(change: TreeChange): string {
  return change.op === 'tree'
    ? `the tree’s ${TREE_FIELDS[change.field].name}`
    : `the tree’s ${TREE_SETS[change.set].name}`
}

function words(tree: Tree, change: Change): string {
  if (isTreeChange(change)) return treeWords(change)
  const title = change.op === 'add' ? (change.with?.title ?? '') : (tree.topics.get(change.topic)?.title ?? '')
  const named = `“${shorten(title || 'untitled', 60)}”`
  switch (change.op) {
    case 'add':
      return `the new topic ${named}`
    case 'remove':
      return `removing ${named}`
    case 'restore':
      return `bringing ${named} back`
    case 'place':
      return `moving ${named}`
    case 'set':
      return change.field === 'title'
        ? `the title “${shorten(String(change.value) || 'untitled', 200)}”`
        : `${FIELDS[change.field].name} of ${named}`
    case 'note':
      return `words in the note of ${named}`
    default:
      return `${SETS[change.set].name} of ${named}`
  }
}

/** What an edit was, for the person who made it: “the title “Order lamps”, due date of “Order lamps””. */
export function editInWords(tree: Tree, changes: readonly Change[]): string {
  const said = [...new Set(changes.map(change => words(tree, change)))]
  return said.length > MOST ? `${said.slice(0, MOST).join(', ')} and ${said.length - MOST} more` : said.join(', ')
}
