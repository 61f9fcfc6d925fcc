import { rivalsOf, markerSetsOf } from '../tree/markers'
import type { Change, Initial } from '../tree/change'
import { finished } from '../schedule/turns'
import { isTask, taskState, type Topic } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import type { ColumnValue } from './board'

/* What it means for a card to stand in a column: what is changed when it's moved there, and what is born with it there. */

const set = (topic: Topic, field: 'done' | 'began' | 'ended' | 'priority', value: unknown): Change[] =>
  topic[field] === value ? [] : [{ op: 'set', topic: topic.id, field, value } as Change]

/**
 * The changes that take a card from one column to another, nothing where it stands there already. What else it has stays: of
 * two people only the one whose column it leaves goes. `today`: what is under way by this has begun on that day. `by`: whoever moves it;
 * what comes again stands open for its next turn when it's done.
 */
export function cardMoved(
  tree: Tree,
  id: string,
  from: ColumnValue,
  to: ColumnValue,
  today: string,
  by: string | null,
): Change[] {
  const topic = topicOf(tree, id)
  if (JSON.stringify(from) === JSON.stringify(to)) return []
  switch (to.kind) {
    case 'state': {
      if (taskState(topic) === to.state) return []
      switch (to.state) {
        case 'open':
          return [...set(topic, 'done', 0), ...set(topic, 'began', null), ...set(topic, 'ended', null)]
        case 'begun':
          return [
            ...(topic.done === 100 ? set(topic, 'done', 0) : []),
            ...(topic.began === null ? set(topic, 'began', today) : []),
            ...set(topic, 'ended', null),
          ]
        case 'done':
          return finished(tree, topic, today, by)
      }
    }
    // eslint-disable-next-line no-fallthrough -- every state has returned
    case 'priority':
      return [...stays(topic, to.level === null, { priority: null }), ...set(topic, 'priority', to.level)]
    case 'person':
      return [
        ...stays(topic, to.id === null, {
          people: topic.people.filter(id => from.kind !== 'person' || id !== from.id),
        }),
        ...gone(topic, 'people', from.kind === 'person' ? from.id : null),
        ...come(topic, 'people', to.id),
      ]
    case 'marker': {
      const rivals = to.id === null ? [] : rivalsOf(to.id, markerSetsOf(tree.fields))
      const leaving = new Set([...rivals, ...(from.kind === 'marker' && from.id !== null ? [from.id] : [])])
      return [
        ...stays(topic, to.id === null, {}),
        ...[...leaving].filter(marker => marker !== to.id).flatMap(marker => gone(topic, 'markers', marker)),
        ...come(topic, 'markers', to.id),
      ]
    }
  }
}

/** What leaves its last column is a task all the same: a progress of nothing says so, where nothing else does. */
function stays(topic: Topic, leaves: boolean, left: Partial<Topic>): Change[] {
  return leaves && !isTask({ ...topic, ...left }) ? set(topic, 'done', 0) : []
}
const gone = (topic: Topic, name: 'people' | 'markers', member: string | null): Change[] =>
  member !== null && topic[name].includes(member) ? [{ op: 'take', topic: topic.id, set: name, member }] : []
const come = (topic: Topic, name: 'people' | 'markers', member: string | null): Change[] =>
  member === null || topic[name].includes(member) ? [] : [{ op: 'put', topic: topic.id, set: name, member }]

/** What a topic is given that is made in a column, so that it stands there. */
export function bornIn(value: ColumnValue, today: string): Initial {
  switch (value.kind) {
    case 'state':
      return value.state === 'done' ? { done: 100 } : value.state === 'begun' ? { done: 0, began: today } : { done: 0 }
    case 'priority':
      return value.level === null ? { done: 0 } : { priority: value.level }
    case 'person':
      return value.id === null ? { done: 0 } : { people: [value.id] }
    case 'marker':
      return value.id === null ? { done: 0 } : { markers: [value.id] }
  }
}
