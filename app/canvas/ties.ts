import type { Layout, Placed } from '#core/arrange/layout'
import { bow, type Bow, type Point } from '#core/arrange/bow'
import type { CrossLink } from '#core/derive/cross-links'
import { type Tie, topicOf, type TopicId, type Tree } from '#core/tree'
import { expectField } from '~/focus/typeahead'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/** A cross-link as it's drawn: from one plank to another, or to what stands for them while a fold hides them. */
export interface DrawnTie {
  readonly from: TopicId
  readonly tie: Tie
  readonly bow: Bow
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
  /** Where a plank is just now, on its way to its place. */
  at(placed: Placed): Placed
  /** The one whose bow is being pulled. */
  readonly pulled?: { readonly from: TopicId; readonly id: string; readonly bend: Point } | null
}

/** Cross-links as they run between what is laid out. */
export function drawTies(
  tree: Tree,
  links: readonly CrossLink[],
  layout: Layout,
  { filter, hueOf, colour, at, pulled }: TieDrawing,
): DrawnTie[] {
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
    return [
      {
        from,
        tie,
        bow: bow(at(a), at(b), pulled?.id === tie.id && pulled.from === from ? pulled.bend : tie.bend),
        hue: tie.hue === null ? hueOf(from) : colour(tie.hue),
        faint: a.id !== from || b.id !== tie.to,
        dim: filter.isDim(from) || filter.isDim(tie.to),
      },
    ]
  })
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
