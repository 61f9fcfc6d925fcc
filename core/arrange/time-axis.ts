import { addDays, daysBetween } from '../schedule/days'
import type { TopicId } from '../tree/topic'
import type { Tick } from './place'
import { type Ground, halfOf, type Line, reachOf, type Spot, type Standing } from './standing'

const GAP = 14
/** From the axis down to the first plank. */
const DROP = 46

/**
 * Along a time axis: each main branch hangs from its date, days are equally wide, and what has no date waits at the end.
 * Later branches are hung first and as high as they go, so that no line runs through an earlier one.
 */
export function timeArrangement(ground: Ground, dateOf: (id: TopicId) => string | null, today?: string): Standing {
  const kids = ground.kids(ground.root)
  const root = ground.size(ground.root)
  const dated = kids.flatMap(id => dateOf(id) === null ? [] : [{ id, date: dateOf(id)! }])
  const undated = kids.filter(id => dateOf(id) === null)
  const spots = new Map<TopicId, Spot>()
  const lines: Line[] = []
  const start = root.width / 2 + 40
  const days = [...dated.map(item => item.date), ...(today && dated.length > 0 ? [today] : [])].sort()
  const first = days[0]
  const last = days.at(-1)
  const span = first && last ? Math.max(1, daysBetween(first, last)) : 1
  const perDay = Math.min(140, Math.max(2.5, (260 * Math.max(1, dated.length) ** 0.75 * ground.along) / span))
  const xOf = (date: string): number => start + daysBetween(first!, date) * perDay
  const end = first ? xOf(last!) : start
  const hung: { id: TopicId, x: number }[] = [...dated.map(({ id, date }) => ({ id, x: xOf(date) }))]
  let x = end + (dated.length > 0 ? 90 : 0)
  for (const id of undated) {
    hung.push({ id, x })
    const { left, right } = ground.extents(id)
    x += left + right + GAP * 2
  }
  const sky = new Skyline()
  const order = hung.map((item, i) => ({ ...item, i })).sort((a, b) => b.x - a.x || b.i - a.i)
  let furthest = end
  for (const item of order) {
    const { left, right, top, bottom } = ground.extents(item.id)
    const size = ground.size(item.id)
    const lead = left - size.width / 2
    const near = item.x - lead
    const y = sky.add(near - 4, near + left + right + GAP, DROP, top + bottom + GAP * ground.across)
    spots.set(item.id, { dx: item.x + size.width / 2, dy: y + top, direction: 'right' })
    lines.push({ owner: item.id, points: [item.x, 0, item.x, y + top] })
    furthest = Math.max(furthest, near + left + right)
  }
  const to = furthest + 20
  return {
    spots, lines, extents: grow(reachOf(halfOf(root), spots, id => ground.extents(id)), to),
    axis: { y: 0, from: root.width / 2, to, ticks: first ? ticksOf(first, last!, perDay, xOf, today, undated.length > 0 ? end + 90 : null) : [] },
  }
}

function grow(extents: Standing['extents'], right: number): Standing['extents'] {
  return { ...extents, right: Math.max(extents.right, right), top: Math.max(extents.top, 26), bottom: Math.max(extents.bottom, 10) }
}

function ticksOf(first: string, last: string, perDay: number, xOf: (date: string) => number, today: string | undefined, undatedAt: number | null): Tick[] {
  const ticks: Tick[] = []
  const unit = perDay > 34 ? 'day' : perDay > 1.6 ? 'month' : 'year'
  for (let date = first; date <= last && ticks.length < 400; date = addDays(date, 1)) {
    const isMonth = date.endsWith('-01')
    if (unit === 'day' || date === first || (unit === 'month' ? isMonth : date.endsWith('-01-01'))) ticks.push({ x: xOf(date), date, unit: unit === 'day' ? 'day' : isMonth || date !== first ? unit : 'day' })
  }
  // The first day's own mark gives way to a month's that stands too near.
  if (ticks.length > 1 && ticks[1]!.x - ticks[0]!.x < 60 && unit !== 'day') ticks.shift()
  if (today && today >= first && today <= last) ticks.push({ x: xOf(today), date: today, unit: 'today' })
  if (undatedAt !== null) ticks.push({ x: undatedAt, date: '', unit: 'none' })
  return ticks
}

/** How far down each stretch of the axis is taken. */
class Skyline {
  private pieces: { from: number, to: number, y: number }[] = []

  /** Takes room of a height over a stretch, as high as it goes below `least`; returns where it begins. */
  add(from: number, to: number, least: number, height: number): number {
    let y = least
    for (const piece of this.pieces) if (piece.from < to && from < piece.to) y = Math.max(y, piece.y)
    const kept: typeof this.pieces = []
    for (const piece of this.pieces) {
      if (piece.to <= from || piece.from >= to) {
        kept.push(piece)
        continue
      }
      if (piece.from < from) kept.push({ ...piece, to: from })
      if (piece.to > to) kept.push({ ...piece, from: to })
    }
    kept.push({ from, to, y: y + height })
    this.pieces = kept
    return y
  }
}
