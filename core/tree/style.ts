import type { Field } from './fields'
import type { Change } from './change'
import { STYLE_FIELDS, type StyleField } from './style-fields'
import { BLANK, type Topic, type TopicId } from './topic'
import { topicOf, type Tree } from './tree'

export type Style = Pick<Topic, StyleField>

export const STYLE_NAMES = Object.keys(STYLE_FIELDS) as readonly StyleField[]
export const PLAIN_STYLE: Style = Object.fromEntries(STYLE_NAMES.map(name => [name, BLANK[name]])) as unknown as Style

/** The style somebody gave this topic. */
export function styleOf(topic: Style): Style {
  return Object.fromEntries(STYLE_NAMES.map(name => [name, topic[name]])) as unknown as Style
}

/** A topic's style as it's drawn: its own, and where it has none, its level's, first the tree's and then the look's. */
export function drawnStyle(topic: Topic, level: number, ...levels: readonly (readonly Partial<Style>[])[]): Style {
  const given = levels.map(list => list[level] ?? {})
  if (given.every(style => Object.keys(style).length === 0)) return topic
  const pick = (name: StyleField): unknown => {
    if (topic[name] !== BLANK[name]) return topic[name]
    for (const style of given) if (style[name] !== undefined && style[name] !== BLANK[name]) return style[name]
    return topic[name]
  }
  return Object.fromEntries(STYLE_NAMES.map(name => [name, pick(name)])) as unknown as Style
}

/** The changes that give every topic this style; what the style doesn't say stays. */
export function dress(tree: Tree, ids: Iterable<TopicId>, style: Partial<Style>): Change[] {
  const changes: Change[] = []
  for (const topic of ids) {
    const now = topicOf(tree, topic)
    for (const [field, value] of Object.entries(style))
      if (now[field as StyleField] !== value) changes.push({ op: 'set', topic, field: field as Field, value } as Change)
  }
  return changes
}
