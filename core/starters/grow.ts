import { readNested } from '../capture/nested'
import { readItems } from '../capture/quick-details'
import { plantAt } from '../tree/actions'
import { applyChanges } from '../tree/apply'
import { MARKERS } from '../tree/markers'
import { BLANK, type TopicId } from '../tree/topic'
import { emptyTree, type Tree } from '../tree/tree'
import type { Starter } from './starters'

/** A tree as a starter has it, with its dates counted from `today`. */
export function growStarter(starter: Starter, title: string, today: string, newId: () => TopicId): Tree {
  const tree = emptyTree({ ...BLANK, id: newId(), parent: null, order: 'a0', title })
  tree.fields = { ...tree.fields, arrangement: starter.arrangement, look: starter.look, description: starter.purpose }
  const items = readItems(readNested(starter.lines), { people: [], markers: MARKERS, today })
  applyChanges(tree, plantAt(tree, items, { parent: tree.centre, index: 0 }, newId).changes)
  return tree
}
