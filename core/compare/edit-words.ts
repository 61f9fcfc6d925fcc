import { type Change, isTreeChange, type TreeChange } from '../tree/change'
import { shorten } from '../tree/title'
import type { Tree } from '../tree/tree'

/** How many of an edit's parts are named. */
const MOST = 3

const FIELD_WORDS: Readonly<Record<string, string>> = {
  x: 'place',
  y: 'place',
  z: 'layer',
  done: 'progress',
  hue: 'colour',
  entry: 'kind in the record',
  page: 'page',
}

function treeWords(change: TreeChange): string {
  return change.op === 'tree'
    ? `the tree’s ${change.field}`
    : `the tree’s ${change.set === 'markerSets' ? 'marker sets' : change.set}`
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
        : `${FIELD_WORDS[change.field] ?? change.field} of ${named}`
    case 'note':
      return `words in the note of ${named}`
    default:
      return `${change.set === 'item' || change.set === 'meeting' ? 'the meeting' : change.set} of ${named}`
  }
}

/** What an edit was, for the person who made it: “the title “Order lamps”, due of “Order lamps””. */
export function editInWords(tree: Tree, changes: readonly Change[]): string {
  const said = [...new Set(changes.map(change => words(tree, change)))]
  return said.length > MOST ? `${said.slice(0, MOST).join(', ')} and ${said.length - MOST} more` : said.join(', ')
}
