import { freeGround } from '#core/arrange/free'
import type { Placed } from '#core/arrange/place'
import {
  addAt,
  besideSlot,
  type Change,
  childrenOf,
  indent,
  insertBelow,
  lastChild,
  moveAlong,
  moveTo,
  outdent,
  removeAll,
  shorten,
  type Slot,
  takeApart,
  topicOf,
  type TopicId,
  wrapIn,
} from '#core/tree'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'
import type { Offer } from '~/desk/offer'

/* New topics, and branches that go elsewhere: what people do to the shape of the tree. */

export function addSibling(desk: Desk, where: 'before' | 'after'): void {
  if (desk.editing.value) desk.keep()
  const at = desk.focus.value
  desk.beginTyping(addAt(desk.tree, besideSlot(desk.tree, at, where), newId))
}

export function addChild(desk: Desk): void {
  if (desk.editing.value) desk.keep()
  const at = desk.focus.value
  desk.beginTyping(addAt(desk.tree, lastChild(desk.tree, at), newId), at)
}

/** Room for a first title: what is new has none yet. */
const ROOM = { width: 160, height: 28 } as const

/** A topic on its own, where somebody pointed or on the nearest free ground. */
export function addLoose(desk: Desk, x: number, y: number): void {
  const place = desk.layout ? freeGround(desk.layout, { x, y }, ROOM) : { x, y }
  desk.beginTyping(addAt(desk.tree, { parent: null, index: Infinity }, newId, place))
}

export function wrapSelection(desk: Desk): void {
  desk.beginTyping(wrapIn(desk.tree, desk.selected(), newId))
}

export function insertBetween(desk: Desk): void {
  desk.beginTyping(insertBelow(desk.tree, desk.focus.value, newId), desk.focus.value)
}

export function moveSelection(desk: Desk, how: 'up' | 'down' | 'in' | 'out'): void {
  if (!desk.guard()) return
  const ids = desk.selected()
  const step =
    how === 'up' || how === 'down'
      ? moveAlong(desk.tree, ids, (how === 'up') === runsUp(desk, desk.focus.value) ? 1 : -1)
      : how === 'in'
        ? indent(desk.tree, ids)
        : outdent(desk.tree, ids)
  if (!desk.run(step)) return
  // Moved under a topic that one has folded, the selection would be out of sight.
  desk.unfoldTo(desk.focus.value)
  desk.reveal(desk.focus.value)
}

/** Whether the order of a topic's siblings runs up the screen, as on the left of the centre. */
function runsUp(desk: Desk, id: TopicId): boolean {
  const placed = desk.layout?.find(id)
  const { parent } = topicOf(desk.tree, id)
  return placed != null && parent !== null && desk.layout!.readsUp(parent, placed.direction)
}

/** Puts branches in a slot. `keepHue`: they keep the colour they have instead of taking on the new branch's. */
export function land(
  desk: Desk,
  ids: Iterable<TopicId>,
  slot: Slot,
  place?: { x: number; y: number },
  keepHue = false,
): void {
  if (!desk.guard()) return
  const step = moveTo(desk.tree, ids, slot)
  const hues = keepHue
    ? step.made.flatMap((topic): Change[] =>
        topicOf(desk.tree, topic).hue === null
          ? [{ op: 'set', topic, field: 'hue', value: desk.dressing.chosenHueOf(topic) }]
          : [],
      )
    : []
  const placing = place
    ? step.made.flatMap((topic, i): Change[] => [
        { op: 'set', topic, field: 'x', value: place.x },
        { op: 'set', topic, field: 'y', value: place.y + i * 60 },
      ])
    : []
  if (slot.parent && desk.isFolded(slot.parent)) desk.toggleFold([slot.parent])
  desk.session.make([...step.changes, ...placing, ...hues])
}

/** Moves topics that stand by hand: each by so much, counted from its parent; loose ones on the canvas. */
export function shift(
  desk: Desk,
  moves: ReadonlyMap<TopicId, { readonly x: number; readonly y: number }>,
  find: (id: TopicId) => Placed | null,
): void {
  if (!desk.guard()) return
  const changes: Change[] = []
  for (const [topic, by] of moves) {
    const placed = find(topic)
    const { parent } = topicOf(desk.tree, topic)
    if (!placed) continue
    const above = parent === null ? null : find(parent)
    const from = above
      ? {
          x: placed.x + placed.width / 2 - above.x - above.width / 2,
          y: placed.y + placed.height / 2 - above.y - above.height / 2,
        }
      : { x: placed.x, y: placed.y }
    changes.push(
      { op: 'set', topic, field: 'x', value: round(from.x + by.x) },
      { op: 'set', topic, field: 'y', value: round(from.y + by.y) },
    )
  }
  desk.run({ changes })
}

export function removeSelection(desk: Desk): void {
  if (!desk.guard()) return
  const ids = desk.selected()
  const step = removeAll(desk.tree, ids)
  if (step.made.length === 0) {
    desk.say('The centre names the tree. It can be renamed, not removed.')
    return
  }
  const first = topicOf(desk.tree, step.made[0]!)
  const siblings = childrenOf(desk.tree, first.parent).filter(id => !step.made.includes(id))
  const at = childrenOf(desk.tree, first.parent).indexOf(first.id)
  const next = siblings[Math.min(at, siblings.length - 1)] ?? first.parent ?? desk.tree.centre
  const name = step.made.length === 1 ? `“${shorten(first.title)}”` : `${step.made.length} branches`
  const isEmpty = step.made.every(id => childrenOf(desk.tree, id).length === 0)
  if (!desk.run(step)) return
  desk.select(next)
  desk.say(`Removed ${name}.`, true, isEmpty ? null : keepingBelow(desk, step.made, next))
}

/** What was just taken away with things below it, and where one stands since: for a moment its children can be kept instead. */
const taken = new WeakMap<Desk, { readonly offer: Offer; readonly next: TopicId; readonly until: number }>()
/** How long the notice stands, ms. */
const STANDS_MS = 9000

/** Only the topics themselves go: what hung below moves up to where they were. */
function keepingBelow(desk: Desk, ids: readonly TopicId[], next: TopicId): Offer {
  const made = desk.session.lastMade!
  const offer = {
    name: 'Keep what is below',
    run: () => {
      desk.session.takeBack(made)
      const step = takeApart(desk.tree, ids)
      const empty = ids.filter(id => childrenOf(desk.tree, id).length === 0)
      if (desk.run({ changes: [...step.changes, ...removeAll(desk.tree, empty).changes] }) && step.made.length > 0)
        desk.selectAll(step.made)
    },
    holds: () => desk.session.canTakeBack(made),
  }
  taken.set(desk, { offer, next, until: Date.now() + STANDS_MS })
  return offer
}

/** Keeps what was below the topic that was removed just now; false where none was. */
export function keepBelow(desk: Desk): boolean {
  const just = taken.get(desk)
  taken.delete(desk)
  if (!just || just.next !== desk.focus.value || Date.now() > just.until || !just.offer.holds?.()) return false
  just.offer.run()
  return true
}

const round = (value: number): number => Math.round(value * 10) / 10
