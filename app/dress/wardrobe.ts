import {
  type Change,
  childrenOf,
  dress,
  type Look,
  lookOf,
  LOOKS,
  PLAIN_STYLE,
  type Style,
  styleOf,
  topicOf,
} from '#core/tree'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/** The style last copied, for all trees open in this browser. */
const copied = shallowRef<Style | null>(null)

export function copyStyle(desk: Desk): void {
  copied.value = styleOf(topicOf(desk.tree, desk.focus.value))
  desk.say('Copied the style.')
}

export function pasteStyle(desk: Desk): void {
  if (!copied.value) desk.say('No style has been copied yet.')
  else wear(desk, copied.value)
}

/** Gives the selection a style; with `branches`, everything below it too. */
export function wear(desk: Desk, style: Partial<Style>, branches = false): void {
  if (!desk.guard()) return
  const ids = new Set(desk.selected())
  if (branches) {
    const stack = [...ids]
    while (stack.length > 0) {
      for (const kid of childrenOf(desk.tree, stack.pop()!)) {
        if (ids.has(kid)) continue
        ids.add(kid)
        stack.push(kid)
      }
    }
  }
  desk.run({ changes: dress(desk.tree, ids, style) })
}

/** Takes every style of its own from the selection. */
export function undress(desk: Desk): void {
  wear(desk, PLAIN_STYLE)
}

/** What every topic of a level has that has no style of its own. */
export function wearLevel(desk: Desk, level: number, style: Partial<Style>): void {
  if (!desk.guard()) return
  const levels = [...desk.tree.fields.levels]
  while (levels.length <= level) levels.push({})
  levels[level] = Object.fromEntries(
    Object.entries({ ...levels[level], ...style }).filter(
      ([name, value]) => value !== PLAIN_STYLE[name as keyof Style],
    ),
  )
  desk.run({ changes: [{ op: 'tree', field: 'levels', value: levels }] })
}

export function looksOf(desk: Desk): readonly Look[] {
  return [...LOOKS, ...desk.tree.fields.looks]
}

export function wearLook(desk: Desk, look: string): void {
  if (desk.guard()) desk.run({ changes: [{ op: 'tree', field: 'look', value: look }] })
}

/** Keeps what the tree wears now, its level styles too, under a name; the tree wears that from now on. */
export function saveLook(desk: Desk, name: string): void {
  if (!desk.guard()) return
  const now = lookOf(desk.tree.fields)
  const id = newId()
  const depth = Math.max(now.levels.length, desk.tree.fields.levels.length)
  const levels = Array.from({ length: depth }, (_, i) => ({ ...now.levels[i], ...desk.tree.fields.levels[i] }))
  desk.run({
    changes: [
      { op: 'tree-put', set: 'looks', member: { ...now, id, name, levels } },
      { op: 'tree', field: 'look', value: id },
      { op: 'tree', field: 'levels', value: [] },
    ],
  })
}

export function changeLook(desk: Desk, look: Look): void {
  if (desk.guard()) desk.run({ changes: [{ op: 'tree-put', set: 'looks', member: look }] })
}

export function dropLook(desk: Desk, id: string): void {
  if (!desk.guard()) return
  const back: Change[] = desk.tree.fields.look === id ? [{ op: 'tree', field: 'look', value: 'porch' }] : []
  desk.run({ changes: [...back, { op: 'tree-take', set: 'looks', member: id }] })
}
