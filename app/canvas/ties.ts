import type { Layout, Placed } from '#core/arrange/layout'
import { meets, type Rect } from '#core/arrange/place'
import { labelPlace, type Point, roomBetween, sameRect, type Thread, thread } from '#core/arrange/thread'
import { LABEL, planksIn, pulledTo } from '#core/arrange/tie-way'
import type { CrossLink } from '#core/derive/cross-links'
import { type Tie, topicOf, type TopicId, type Tree } from '#core/tree'
import { expectField } from '~/focus/typeahead'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/** A cross-link as it's drawn: from one plank to another, or to what stands for them while a fold hides them. */
export interface DrawnTie {
  readonly from: TopicId
  readonly tie: Tie
  readonly thread: Thread
  /** The middle of its label. */
  readonly label: Point
  readonly hue: string
  /** Whether one of its ends is folded away, so that the line leads to what holds it. */
  readonly faint: boolean
  /** Whether a filter dims one of its ends. */
  readonly dim: boolean
}

export interface TieDrawing {
  readonly filter: { isDim(id: TopicId): boolean; isHidden(id: TopicId): boolean }
  hueOf(id: TopicId): string
  /** The colour of a hue that was chosen. */
  colour(hue: string): string
  /** Where a plank is just now, on its way to its place; null when all have arrived. */
  readonly at: ((placed: Placed) => Placed) | null
  /** The one that is being pulled. */
  readonly pulled?: { readonly from: TopicId; readonly id: string; readonly bend: Point } | null
  /** How large labels are drawn, in canvas units a letter of 12. */
  readonly lettering?: number
}

/** A way as it was looked for last, with what it depends on. */
interface Known {
  readonly a: Rect
  readonly b: Rect
  readonly bend: Point | null
  /** The planks around, in one number: another when one of them stands elsewhere. */
  readonly around: number
  readonly planks: readonly Placed[]
  readonly thread: Thread
  /** Where the label stands, and for which words and size. */
  label: Point
  lettered: string
}

/** What of a frame may go into looking for ways, ms; what is left over is done in the next. */
const BUDGET_MS = 6

/**
 * Cross-links as they run between what is laid out. A way is looked for when it comes in sight, and again when a plank near
 * it has moved; where there are too many for one frame, the others keep the way they had, moved along with their ends.
 */
export class TieDrawer {
  private readonly known = new Map<string, Known>()
  private readonly checked = new Map<string, number>()
  /** Whether ways are still to be looked for, in the next frame. */
  behind = false

  constructor(public budget = BUDGET_MS) {}

  /** Those that may be seen in a part of the canvas. */
  draw(
    tree: Tree,
    links: readonly CrossLink[],
    layout: Layout,
    seen: Rect,
    { filter, hueOf, colour, at, pulled, lettering = 1 }: TieDrawing,
  ): DrawnTie[] {
    const until = performance.now() + this.budget
    this.behind = false
    const places = new Map<TopicId, Placed | null>()
    const standIn = (id: TopicId): Placed | null => {
      for (let up: TopicId | null = id; up !== null; up = tree.topics.get(up)?.parent ?? null) {
        let placed = places.get(up)
        if (placed === undefined) places.set(up, (placed = layout.find(up)))
        if (placed) return placed
      }
      return null
    }
    return links.flatMap(({ from, tie }): DrawnTie[] => {
      if (filter.isHidden(from) || filter.isHidden(tie.to)) return []
      const [a, b] = [standIn(from), standIn(tie.to)]
      if (!a || !b || a.id === b.id) return []
      const bend = pulled?.id === tie.id && pulled.from === from ? pulled.bend : tie.bend
      const room = roomBetween(a, b, bend && pulledTo(a, b, bend))
      if (!meets(room, seen)) return []
      return [
        {
          from,
          tie,
          ...(at
            ? plainWay(at(a), at(b))
            : this.way(layout, `${from}/${tie.id}`, { a, b, bend, room, label: tie.label, lettering }, until)),
          hue: tie.hue === null ? hueOf(from) : colour(tie.hue),
          faint: a.id !== from || b.id !== tie.to,
          dim: filter.isDim(from) || filter.isDim(tie.to),
        },
      ]
    })
  }

  private way(
    layout: Layout,
    key: string,
    { a, b, bend, room, label, lettering }: Wanted,
    until: number,
  ): { thread: Thread; label: Point } {
    let known = this.known.get(key)
    if (!known || this.checked.get(key) !== layout.revision || !sameBend(known.bend, bend)) {
      const planks = planksIn(layout, room)
      const around = sumOf(planks)
      if (
        !known ||
        known.around !== around ||
        !sameRect(known.a, a) ||
        !sameRect(known.b, b) ||
        !sameBend(known.bend, bend)
      ) {
        if (performance.now() > until) {
          this.behind = true
          return (known && alongWith(known, a, b)) ?? plainWay(a, b)
        }
        known = { a, b, bend, around, planks, thread: thread(a, b, planks, bend), label: HERE, lettered: '' }
        this.known.set(key, known)
      }
      this.checked.set(key, layout.revision)
    }
    const lettered = `${lettering} ${label}`
    if (known.lettered !== lettered) {
      known.label = labelPlace(
        known.thread,
        LABEL.letter * lettering * label.length,
        LABEL.line * lettering,
        known.planks,
      )
      known.lettered = lettered
    }
    return known
  }
}

interface Wanted {
  readonly a: Placed
  readonly b: Placed
  readonly bend: Point | null
  readonly room: Rect
  readonly label: string
  readonly lettering: number
}

const HERE: Point = { x: 0, y: 0 }
const sameBend = (p: Point | null, q: Point | null): boolean => p?.x === q?.x && p?.y === q?.y

/** A number for where planks stand (FNV-1a over their numbers), so that a move of any of them is noticed. */
function sumOf(planks: readonly Rect[]): number {
  let sum = 0x811c9dc5
  for (const { x, y, width, height } of planks)
    for (const value of [x, y, width, height]) sum = Math.imul(sum ^ Math.round(value * 8), 0x01000193)
  return sum
}

/** The way as it was, moved with its ends when both moved alike; null when they didn't. */
function alongWith({ a, b, thread, label }: Known, nowA: Rect, nowB: Rect): { thread: Thread; label: Point } | null {
  const [dx, dy] = [nowA.x - a.x, nowA.y - a.y]
  if (nowB.x - b.x !== dx || nowB.y - b.y !== dy || nowA.width !== a.width || nowB.width !== b.width) return null
  const moved = ({ x, y }: Point): Point => ({ x: x + dx, y: y + dy })
  return {
    thread: { ...thread, points: thread.points.map(moved), halfway: moved(thread.halfway) },
    label: moved(label),
  }
}

/** Labels are 12 units tall, and never smaller than 11 px on the screen; in steps, so that ways are kept while zooming. */
export const labelScale = (zoom: number): number => Math.max(1, Math.ceil((11 / 12 / zoom) * 4) / 4)

/** The plain way, past whatever stands there: while planks glide, and until the way round has been looked for. */
function plainWay(a: Placed, b: Placed): { thread: Thread; label: Point } {
  const made = thread(a, b, [])
  return { thread: made, label: labelPlace(made, 0, 0, []) }
}

/**
 * Ties topics to another one, each by a cross-link with an arrow there. Where there is one already nothing is added.
 */
export function tieTo(desk: Desk, from: readonly TopicId[], to: TopicId): void {
  if (!desk.guard()) return
  const fresh = from.filter(id => id !== to && !topicOf(desk.tree, id).ties.some(tie => tie.to === to))
  if (fresh.length === 0) {
    desk.say('Those are tied already. Nothing was changed.')
    return
  }
  const made = fresh.map(topic => ({ topic, id: newId() }))
  const done = desk.run({
    changes: made.map(({ topic, id }) => ({
      op: 'put' as const,
      topic,
      set: 'ties' as const,
      member: { id, to, label: '', ends: 'to' as const, bend: null, hue: null },
    })),
  })
  if (!done || made.length > 1) return
  expectField()
  desk.tie.value = made[0]!
}
