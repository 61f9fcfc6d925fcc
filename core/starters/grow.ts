import { readNested } from '../capture/nested'
import { readItems } from '../capture/quick-details'
import { ordersBehind, PLAIN } from '../figures/beginnings'
import { criterionTurned } from '../figures/choosing-changes'
import { plantAt } from '../tree/actions'
import { applyChanges } from '../tree/apply'
import { MARKERS } from '../tree/markers'
import type { Change } from '../tree/change'
import type { Measure } from '../tree/figure'
import type { BriefPart, ItemPart } from '../tree/meeting'
import { BLANK, type TopicId } from '../tree/topic'
import { childrenOf, emptyTree, topicOf, type Tree } from '../tree/tree'
import type { Starter, StarterMeasures, StarterMeeting } from './starter'

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

/** The main branch of a title, which a starter's own lines have. */
const branchCalled = (tree: Tree, title: string): TopicId =>
  childrenOf(tree, tree.centre).find(id => topicOf(tree, id).title === title)!

/** Measures, with what the centre makes of them and what is chosen by them. */
function measuresIn(tree: Tree, { of, centre, choice }: StarterMeasures, newId: () => TopicId): void {
  const orders = ordersBehind([], of.length)
  const measures = of.map((one, i): Measure => ({ ...PLAIN, ...one, id: newId(), order: orders[i]!, onPlank: true }))
  applyChanges(
    tree,
    measures.map((member): Change => ({ op: 'tree-put', set: 'measures', member })),
  )
  const [first] = measures
  if (centre && first) {
    const terms = centre.map(({ sign, of: title }, i) => {
      const figure = `{m:${first.id}} of {t:${branchCalled(tree, title)}}`
      return i === 0 && sign === '+' ? figure : `${sign} ${figure}`
    })
    const member = {
      id: first.id,
      measure: first.id,
      whatIf: null,
      text: `=${terms.join(' ')}`,
      target: null,
      range: null,
    }
    applyChanges(tree, [{ op: 'put', topic: tree.centre, set: 'figures', member }])
  }
  if (choice !== undefined)
    for (const measure of measures) applyChanges(tree, criterionTurned(tree, branchCalled(tree, choice), measure))
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
  if (starter.measures) measuresIn(tree, starter.measures, newId)
  return tree
}
