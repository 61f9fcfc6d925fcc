import { readNested } from '../capture/nested'
import { readItems } from '../capture/quick-details'
import { plantAt } from '../tree/actions'
import { applyChanges } from '../tree/apply'
import { MARKERS } from '../tree/markers'
import type { Change } from '../tree/change'
import type { BriefPart, ItemPart } from '../tree/meeting'
import { BLANK, type TopicId } from '../tree/topic'
import { childrenOf, emptyTree, topicOf, type Tree } from '../tree/tree'
import type { Starter, StarterMeeting } from './starters'

/** The parts that make branches meetings with an agenda. */
function meetingsIn(
  tree: Tree,
  meetings: readonly StarterMeeting[],
  lead: string | null,
  newId: () => TopicId,
): Change[] {
  return meetings.flatMap(({ title, musts, items }) => {
    const topic =
      title === null ? tree.centre : childrenOf(tree, tree.centre).find(id => topicOf(tree, id).title === title)!
    const parts: BriefPart[] = [
      { id: 'stage', kind: 'stage', stage: 'planned' },
      ...musts.map((text, i): BriefPart => ({ id: `must${i}`, kind: 'must', order: `a${i}`, text })),
    ]
    if (lead !== null)
      parts.push({ id: newId(), kind: 'person', user: lead, mail: null, name: '', needed: true, role: 'chair' })
    return [
      ...parts.map((member): Change => ({ op: 'put', topic, set: 'meeting', member })),
      ...items.flatMap(({ title: name, intent, minutes, serves, pattern }) => {
        const item = childrenOf(tree, topic).find(id => topicOf(tree, id).title === name)!
        const own: ItemPart[] = [
          { id: 'intent', kind: 'intent', intent },
          { id: 'minutes', kind: 'minutes', minutes },
          ...serves.map((n): ItemPart => ({ id: `must${n}`, kind: 'serves' })),
          ...(pattern.length > 0 ? [{ id: 'pattern' as const, kind: 'pattern' as const, parts: [...pattern] }] : []),
        ]
        return own.map((member): Change => ({ op: 'put', topic: item, set: 'item', member }))
      }),
    ]
  })
}

/** A tree as a starter has it, with its dates counted from `today`. `lead`: who chairs its meetings. */
export function growStarter(
  starter: Starter,
  title: string,
  today: string,
  newId: () => TopicId,
  lead: string | null = null,
): Tree {
  const tree = emptyTree({ ...BLANK, id: newId(), parent: null, order: 'a0', title })
  tree.fields = { ...tree.fields, arrangement: starter.arrangement, look: starter.look, description: starter.purpose }
  const items = readItems(readNested(starter.lines), { people: [], markers: MARKERS, today })
  applyChanges(tree, plantAt(tree, items, { parent: tree.centre, index: 0 }, newId).changes)
  applyChanges(tree, meetingsIn(tree, starter.meetings ?? [], lead, newId))
  return tree
}
