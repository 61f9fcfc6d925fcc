import { z } from 'zod'
import type { Change, Field } from './change'
import { BLANK, BORDERS, SHAPES, type Topic, type TopicId } from './topic'
import { topicOf, type Tree } from './tree'

/** A place in the look's palette (0 to 9) or an sRGB colour, #rrggbb. */
export const colour = z.string().regex(/^(#[0-9a-f]{6}|[0-9])$/i)

/** What dresses one topic, and what each accepts. */
export const styleFields = {
  fill: colour.nullable(),
  ink: colour.nullable(),
  textSize: z.enum(['small', 'large', 'huge']).nullable(),
  bold: z.boolean(),
  slanted: z.boolean(),
  underlined: z.boolean(),
  shape: z.enum(SHAPES).nullable(),
  border: z.enum(BORDERS).nullable(),
  edge: colour.nullable(),
  width: z.number().min(60).max(900).nullable(),
} as const
export type StyleField = keyof typeof styleFields
export type Style = Pick<Topic, StyleField>

export const STYLE_NAMES = Object.keys(styleFields) as readonly StyleField[]
export const PLAIN_STYLE: Style = Object.fromEntries(STYLE_NAMES.map(name => [name, BLANK[name]])) as unknown as Style

/** The style somebody gave this topic. */
export function styleOf(topic: Topic): Style {
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
