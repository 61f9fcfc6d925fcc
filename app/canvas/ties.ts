import type { Layout, Placed } from '#core/arrange/layout'
import type { Rect } from '#core/arrange/place'
import { labelPlace, type Point, roomBetween, type Thread, thread } from '#core/arrange/thread'
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

interface Known {
  readonly mark: string
  readonly thread: Thread
  readonly label: Point
}

/** Cross-links as they run between what is laid out; each way is kept until a plank moves. */
export class TieDrawer {
  private readonly known = new Map<string, Known>()
  private revision = -1

  draw(
    tree: Tree,
    links: readonly CrossLink[],
    layout: Layout,
    { filter, hueOf, colour, at, pulled, lettering = 1 }: TieDrawing,
  ): DrawnTie[] {
    if (this.revision !== layout.revision) this.known.clear()
    this.revision = layout.revision
    const places = new Map<TopicId, Placed | null>()
    const seen = (id: TopicId): Placed | null => {
      for (let up: TopicId | null = id; up !== null; up = tree.topics.get(up)?.parent ?? null) {
        let placed = places.get(up)
        if (placed === undefined) places.set(up, (placed = layout.find(up)))
        if (placed) return placed
      }
      return null
    }
    return links.flatMap(({ from, tie }): DrawnTie[] => {
      const [a, b] = [seen(from), seen(tie.to)]
      if (!a || !b || a.id === b.id || filter.isHidden(from) || filter.isHidden(tie.to)) return []
      const bend = pulled?.id === tie.id && pulled.from === from ? pulled.bend : tie.bend
      return [
        {
          from,
          tie,
          ...(at ? onTheWay(at(a), at(b)) : this.way(layout, `${from}/${tie.id}`, a, b, bend, tie.label, lettering)),
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
    a: Placed,
    b: Placed,
    bend: Point | null,
    label: string,
    lettering: number,
  ): { thread: Thread; label: Point } {
    const mark = `${a.id} ${b.id} ${bend?.x} ${bend?.y} ${label} ${lettering}`
    const known = this.known.get(key)
    if (known?.mark === mark) return known
    const planks = planksIn(layout, roomBetween(a, b, bend && pulledTo(a, b, bend)))
    const made = thread(a, b, planks, bend)
    const width = LETTER * lettering * label.length
    const drawn = { mark, thread: made, label: labelPlace(made, width, LINE * lettering, planks) }
    this.known.set(key, drawn)
    return drawn
  }
}

/** Labels are 12 units tall, and never smaller than 11 px on the screen; in steps, so that ways are kept while zooming. */
export const labelScale = (zoom: number): number => Math.max(1, Math.ceil((11 / 12 / zoom) * 4) / 4)

/** About how wide a letter of a label is, and how tall its line, in canvas units. */
const LETTER = 6.4
const LINE = 15

const pulledTo = (a: Placed, b: Placed, bend: Point): Point => ({
  x: (a.x + a.width / 2 + b.x + b.width / 2) / 2 + bend.x,
  y: (a.y + a.height / 2 + b.y + b.height / 2) / 2 + bend.y,
})

/** While planks glide it goes the plain way; the way round is looked for when they stand. */
function onTheWay(a: Placed, b: Placed): { thread: Thread; label: Point } {
  const made = thread(a, b, [])
  return { thread: made, label: labelPlace(made, 0, 0, []) }
}

function planksIn(layout: Layout, room: Rect): Placed[] {
  const planks: Placed[] = []
  layout.scan(room, 0, { plank: placed => planks.push(placed), line() {}, block() {} })
  return planks
}

/** The notch at an end: a bar across the thread on the plank's edge, or a wedge that points into it. */
export function notch({ points }: Thread, end: 'from' | 'to', pointed: boolean): string {
  const [tip, next] = end === 'from' ? [points[0]!, points[1]!] : [points.at(-1)!, points.at(-2)!]
  const [ux, uy] = [Math.sign(next.x - tip.x), Math.sign(next.y - tip.y)]
  const at = (out: number, side: number): string => `${tip.x + ux * out - uy * side},${tip.y + uy * out + ux * side}`
  return pointed
    ? [at(8, -5.5), at(8, 5.5), at(0, 2), at(0, -2)].join(' ')
    : [at(3, -5), at(3, 5), at(0.5, 5), at(0.5, -5)].join(' ')
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
