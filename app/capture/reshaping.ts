import { freeGround } from '#core/arrange/free'
import { kindNamed, placeNamed } from '#core/schedule/word-order'
import {
  childrenOf,
  joinTopics,
  moveTo,
  reverseChildren,
  sortChildren,
  sortChildrenBy,
  type SortKey,
  splitTopic,
  takeApart,
  topicOf,
  type Step,
  type TopicId,
} from '#core/tree'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'
import { keepBelow } from './building'

/** Runs a step that may have nothing to do, and says so when it hasn't; then selects what came of it. */
function reshape(desk: Desk, step: Step, nothing: string): void {
  if (!desk.guard()) return
  if (step.changes.length === 0) desk.say(nothing)
  else if (desk.run(step) && step.made.length > 0) desk.selectAll(step.made)
}

export function sort(desk: Desk, key: SortKey): void {
  const parent = desk.focus.value
  if (!desk.guard()) return
  const step = sortChildren(desk.tree, parent, key, ownLocale())
  if (step.made.length < 2) desk.say('There is nothing to sort under this topic.')
  else desk.run(step)
}

/** In the order that words in the titles name: days of the week, months, or first, second, third. */
export function sortByWords(desk: Desk): void {
  const parent = desk.focus.value
  if (!desk.guard()) return
  const locale = ownLocale()
  const kind = kindNamed(
    childrenOf(desk.tree, parent).map(id => topicOf(desk.tree, id).title),
    locale,
  )
  if (kind) desk.run(sortChildrenBy(desk.tree, parent, ({ title }) => placeNamed(title, kind, locale)))
  else desk.say('No two topics under this one name a weekday, a month, or which one they are.')
}

export function reverse(desk: Desk): void {
  if (desk.guard()) desk.run(reverseChildren(desk.tree, desk.focus.value))
}

export function join(desk: Desk): void {
  reshape(desk, joinTopics(desk.tree, desk.selected()), 'Select two topics or more with the same parent to join them.')
}

export function split(desk: Desk): void {
  reshape(
    desk,
    splitTopic(desk.tree, desk.focus.value, newId),
    'This title has one line and one sentence: there is nothing to split it at.',
  )
}

/** Right after a topic was removed with all below it, that's what is meant: only the topic goes. */
export function apart(desk: Desk): void {
  if (keepBelow(desk)) return
  reshape(desk, takeApart(desk.tree, desk.selected()), 'Only a topic with topics under it can be taken apart.')
}

/** Makes branches loose, near where they stand, each as a whole on ground that is free once they've gone. */
export function detach(desk: Desk): void {
  if (!desk.guard()) return
  const { layout, tree } = desk
  const places = new Map<TopicId, { x: number; y: number }>()
  const rest = layout?.without(new Set(desk.selected()))
  for (const id of desk.selected()) {
    const placed = layout?.find(id)
    if (!layout || !rest || !placed) continue
    const whole = layout.alone(id).bounds()
    const [before, above] = [-whole.x - placed.width / 2, -whole.y - placed.height / 2]
    const { x, y } = freeGround(rest, { x: placed.x + 40 - before, y: placed.y - above }, whole)
    places.set(id, { x: Math.round(x + before), y: Math.round(y + above) })
  }
  const step = moveTo(
    tree,
    desk.selected().filter(id => topicOf(tree, id).parent !== null),
    { parent: null, index: Infinity },
  )
  if (step.changes.length === 0) {
    desk.say('The centre and loose topics hang on nothing.')
    return
  }
  desk.run({
    changes: [
      ...step.changes,
      ...step.made.flatMap(topic =>
        places.has(topic)
          ? [
              { op: 'set' as const, topic, field: 'x' as const, value: places.get(topic)!.x },
              { op: 'set' as const, topic, field: 'y' as const, value: places.get(topic)!.y },
            ]
          : [],
      ),
    ],
  })
}

/** Draws a loose topic as another centre, or as a plain loose topic again. */
export function toggleCentre(desk: Desk): void {
  const topic = topicOf(desk.tree, desk.focus.value)
  if (topic.parent !== null || topic.id === desk.tree.centre)
    desk.say('Only a loose topic can become another centre. Detach it first.')
  else desk.set('arrangement', topic.arrangement === null ? 'both' : null, [topic.id])
}
