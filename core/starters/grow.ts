import { readNested } from '../capture/nested'
import { readDetails } from '../capture/quick-details'
import { plantAt } from '../tree/actions'
import { applyChanges } from '../tree/apply'
import { MARKERS } from '../tree/markers'
import type { OutlineItem } from '../tree/outline'
import { BLANK, type TopicId } from '../tree/topic'
import { emptyTree, type Tree } from '../tree/tree'
import type { Starter } from './starters'

/** A tree as a starter has it, with its dates counted from `today`. */
export function growStarter(starter: Starter, title: string, today: string, newId: () => TopicId): Tree {
  const tree = emptyTree({ ...BLANK, id: newId(), parent: null, order: 'a0', title })
  tree.fields = { ...tree.fields, arrangement: starter.arrangement, look: starter.look, description: starter.purpose }
  const read = (item: OutlineItem): OutlineItem => {
    const { title: said, details } = readDetails(item.title, { people: [], markers: MARKERS, today })
    return { title: said, ...(Object.keys(details).length > 0 ? { details } : {}), children: item.children.map(read) }
  }
  applyChanges(tree, plantAt(tree, readNested(starter.lines).map(read), { parent: tree.centre, index: 0 }, newId).changes)
  return tree
}
