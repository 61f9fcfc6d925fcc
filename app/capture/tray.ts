import { readItems } from '#core/capture/quick-details'
import { readNested } from '#core/capture/nested'
import {
  type Change,
  childrenOf,
  isWithin,
  lastChild,
  moveTo,
  type OutlineItem,
  plantAt,
  topicOf,
  type TopicId,
  trayOf,
} from '#core/tree'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/** Adds what was written or pasted to the tray: a line each, with what hangs below it by its indent. Throws `Unreadable`. */
export function addLines(desk: Desk, text: string): number {
  return addItems(desk, text.includes('\n') ? readNested(text) : [{ title: text.trim(), children: [] }])
}

export function addItems(desk: Desk, items: readonly OutlineItem[]): number {
  if (!desk.guard()) return 0
  const lines = readItems(items, desk.known())
    .filter(item => item.title !== '' || item.children.length > 0)
    .map(item => ({ ...item, details: { ...item.details, tray: true } }))
  if (lines.length === 0) return 0
  const step = plantAt(desk.tree, lines, { parent: null, index: Infinity }, newId)
  desk.run(step)
  return lines.length
}

/** Files lines, in the order they have, as the last topics under another. */
export function file(desk: Desk, ids: readonly TopicId[], under: TopicId): boolean {
  if (!desk.guard()) return false
  const inOrder = trayOf(desk.tree).filter(id => ids.includes(id))
  return desk.run(moveTo(desk.tree, inOrder, lastChild(desk.tree, under)))
}

/** Takes the selected branches off the tree and puts them in the tray. */
export function toTray(desk: Desk): void {
  if (!desk.guard()) return
  const step = moveTo(desk.tree, desk.selected(), { parent: null, index: Infinity })
  if (step.made.length === 0) {
    desk.say('The centre can’t go in the tray.')
    return
  }
  const before = topicOf(desk.tree, step.made[0]!)
  const next =
    childrenOf(desk.tree, before.parent).find(id => !step.made.some(gone => isWithin(desk.tree, id, gone))) ??
    before.parent ??
    desk.tree.centre
  if (
    desk.run({
      changes: [
        ...step.changes,
        ...step.made.map((topic): Change => ({ op: 'set', topic, field: 'tray', value: true })),
      ],
    })
  )
    desk.select(next)
}
