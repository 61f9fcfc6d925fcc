import { addDays } from '../schedule/days'
import type { OutlineItem } from '../tree/outline'
import type { Topic } from '../tree/topic'
import { childrenOf, emptyTree, swapTopic, topicOf, type Tree } from '../tree/tree'
import { branch } from '../tree/walk'

/** What of a branch a copy takes along. Everything else always comes. */
export interface CopyChoice {
  readonly notes: boolean
  readonly people: boolean
  readonly dates: boolean
  /** Done % and standing. */
  readonly progress: boolean
  /** Days by which the copy's dates are moved; 0 leaves them. */
  readonly shift: number
}

export const WHOLE: CopyChoice = { notes: true, people: true, dates: true, progress: true, shift: 0 }

/** A copy of items as the choice says. Lengths stay when dates go: they are estimates, not dates. */
export function copyItems(items: readonly OutlineItem[], choice: CopyChoice): OutlineItem[] {
  return items.map((item) => {
    const { note, people, start, due, done, ...rest } = item.details ?? {}
    const moved = (day: string | null | undefined): string | undefined => day ? addDays(day, choice.shift) : undefined
    const details = Object.fromEntries(Object.entries({
      ...rest,
      note: choice.notes ? note : undefined,
      people: choice.people ? people : undefined,
      start: choice.dates ? moved(start) : undefined,
      due: choice.dates ? moved(due) : undefined,
      done: choice.progress ? done : undefined,
    }).filter(([, value]) => value !== undefined && value !== null))
    return { title: item.title, ...(Object.keys(details).length > 0 ? { details } : {}), children: copyItems(item.children, choice) }
  })
}

/** A whole tree copied as the choice says, with the same addresses inside; what lies in the trash stays behind. */
export function copyTree(tree: Tree, choice: CopyChoice): Tree {
  const copy = emptyTree(topicOf(tree, tree.centre))
  copy.fields = tree.fields
  const moved = (day: string | null): string | null => day !== null && choice.dates ? addDays(day, choice.shift) : null
  const copied = (topic: Topic): Topic => ({
    ...topic,
    note: choice.notes ? topic.note : null,
    people: choice.people ? topic.people : [],
    start: moved(topic.start),
    due: moved(topic.due),
    done: choice.progress ? topic.done : null,
  })
  for (const root of [tree.centre, ...childrenOf(tree, null)]) {
    for (const topic of branch(tree, root)) swapTopic(copy, topic.id, topic.id === tree.centre ? topic : undefined, copied(topic))
  }
  return copy
}
