import { daysBetween } from '../schedule/days'
import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { itemsOf } from './agenda'
import { briefOf, dayOf, seriesOf } from './brief'
import { actionFigures, medianLife } from './carry'
import { deliveredOf, type Tally, tallyOf } from './delivered'
import { heldIn } from './next'
import { entriesOf } from './record'

/*
 * What a series of meetings shows over time.
 */

export interface SeriesRow {
  readonly id: TopicId
  readonly title: string
  readonly day: string
  readonly raised: number
  readonly closed: number
  readonly overdue: number
  readonly invited: number
  readonly came: number
  /** Whole minutes. */
  readonly planned: number
  readonly actual: number
  /** How the things that had to be settled turned out. */
  readonly delivered: Tally
}

export interface LoggedDecision {
  readonly id: TopicId
  readonly title: string
  readonly day: string
  readonly meeting: string
  readonly item: string
  readonly by: string | null
  readonly name: string
}

/** How much longer an item took than planned, over all its meetings: items of one title are one. */
export interface ItemOverrun {
  readonly title: string
  readonly times: number
  readonly planned: number
  readonly actual: number
}

export interface SeriesFigures {
  readonly rows: readonly SeriesRow[]
  readonly decisions: readonly LoggedDecision[]
  readonly overruns: readonly ItemOverrun[]
  /** Days from raised to done, the half of the closed ones at most; null when none was closed. */
  readonly median: number | null
  readonly open: number
  /** Days that the actions still open have lived up to `today`. */
  readonly openDays: readonly number[]
}

const minutes = (ms: number): number => Math.round(ms / 60_000)

/**
 * The figures of the series that a meeting stands in. `closedOn`: the day an action was done (ISO 8601), null while
 * it's open.
 */
export function seriesFigures(
  tree: Tree,
  meeting: TopicId,
  closedOn: (id: TopicId) => string | null,
  today: string,
): SeriesFigures {
  const ids = seriesOf(tree, meeting).filter(id => briefOf(topicOf(tree, id)).stage === 'ended')
  const held = heldIn(tree, ids)
  const actions = actionFigures(held, closedOn)
  const rows = actions.map(({ id, day, raised, closed, overdue }): SeriesRow => {
    const brief = briefOf(topicOf(tree, id))
    const items = itemsOf(tree, id)
    return {
      id,
      day,
      raised,
      closed,
      overdue,
      title: topicOf(tree, id).title,
      invited: brief.people.length,
      came: brief.people.filter(({ came }) => came).length,
      planned: items.reduce((sum, item) => sum + (item.minutes ?? 0), 0),
      actual: minutes(items.reduce((sum, { spent }) => sum + spent, 0)),
      delivered: tallyOf(deliveredOf(tree, id)),
    }
  })
  const decisions = ids
    .flatMap(id => {
      const itemOfLine = new Map(itemsOf(tree, id).map(item => [item.id, item.title]))
      const under = (topic: TopicId): string => {
        for (let at: TopicId | null = topic; at !== null && at !== id; at = tree.topics.get(at)?.parent ?? null)
          if (itemOfLine.has(at)) return itemOfLine.get(at)!
        return ''
      }
      return entriesOf(tree, id)
        .filter(({ entry }) => entry!.kind === 'decision')
        .map(topic => ({
          id: topic.id,
          title: topic.title,
          day: dayOf(briefOf(topicOf(tree, id))),
          meeting: topicOf(tree, id).title,
          item: under(topic.id),
          by: topic.entry!.by,
          name: topic.entry!.name,
        }))
    })
    .reverse()
  const byTitle = new Map<string, ItemOverrun>()
  for (const id of ids) {
    for (const item of itemsOf(tree, id)) {
      if (item.minutes === null || item.spent === 0) continue
      const key = item.title.trim().toLowerCase()
      const before = byTitle.get(key) ?? { title: item.title, times: 0, planned: 0, actual: 0 }
      byTitle.set(key, {
        ...before,
        times: before.times + 1,
        planned: before.planned + item.minutes,
        actual: before.actual + minutes(item.spent),
      })
    }
  }
  const lives = held.flatMap(one =>
    one.raised
      .filter(({ kind }) => kind === 'action')
      .map(({ id, settled }) => ({ raised: one.day, closed: settled ? closedOn(id) : null, settled })),
  )
  const openDays = lives
    .filter(({ settled }) => !settled)
    .map(({ raised }) => Math.max(0, daysBetween(raised, today)))
    .sort((a, b) => b - a)
  return {
    rows,
    decisions,
    overruns: [...byTitle.values()].sort((a, b) => b.actual - b.planned - (a.actual - a.planned)),
    median: medianLife(lives),
    open: openDays.length,
    openDays,
  }
}
