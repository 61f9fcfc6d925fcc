import { addDays, daysBetween } from '../schedule/days'
import type { TopicId } from '../tree/topic'
import { type Grove, type Ground, type GroveOnlooker, MOST_BARS } from './grove'
import { Patchwork } from './patchwork'
import { around, type Extents, type Placed, type Rect, type Tick } from './place'
import { halfOf, type Line, plankAt, reachOf, type Spot, type Standing } from './standing'

const GAP = 14
/** From the axis down to the first plank. */
const DROP = 46

/**
 * Along a time axis: each main branch hangs from its date, days are equally wide, and what has no date waits at the
 * end. Later branches are hung first and as high as they go, so that no line runs through an earlier one.
 */
export function timeArrangement(
  ground: Omit<Ground, 'isNested'>,
  dateOf: (id: TopicId) => string | null,
  today?: string,
): Standing {
  const kids = ground.kids(ground.root)
  const root = ground.size(ground.root)
  const dated = kids.flatMap(id => (dateOf(id) === null ? [] : [{ id, date: dateOf(id)! }]))
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
  const hung: { id: TopicId; x: number }[] = [...dated.map(({ id, date }) => ({ id, x: xOf(date) }))]
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
    spots,
    lines,
    extents: grow(
      reachOf(halfOf(root), spots, id => ground.extents(id)),
      to,
    ),
    axis: {
      y: 0,
      from: root.width / 2,
      to,
      ticks: first ? ticksOf(first, last!, perDay, xOf, today, undated.length > 0 ? end + 90 : null) : [],
    },
  }
}

function grow(extents: Standing['extents'], right: number): Standing['extents'] {
  return {
    ...extents,
    right: Math.max(extents.right, right),
    top: Math.max(extents.top, 26),
    bottom: Math.max(extents.bottom, 10),
  }
}

function ticksOf(
  first: string,
  last: string,
  perDay: number,
  xOf: (date: string) => number,
  today: string | undefined,
  undatedAt: number | null,
): Tick[] {
  const ticks: Tick[] = []
  const unit = perDay > 34 ? 'day' : perDay > 1.6 ? 'month' : 'year'
  for (let date = first; date <= last && ticks.length < 400; date = addDays(date, 1)) {
    const isMonth = date.endsWith('-01')
    if (unit === 'day' || date === first || (unit === 'month' ? isMonth : date.endsWith('-01-01')))
      ticks.push({ x: xOf(date), date, unit: unit === 'day' ? 'day' : isMonth || date !== first ? unit : 'day' })
  }
  // The first day's own mark gives way to a month's that stands too near.
  if (ticks.length > 1 && ticks[1]!.x - ticks[0]!.x < 60 && unit !== 'day') ticks.shift()
  if (today && today >= first && today <= last) ticks.push({ x: xOf(today), date: today, unit: 'today' })
  if (undatedAt !== null) ticks.push({ x: undatedAt, date: '', unit: 'none' })
  return ticks
}

/** How far down each stretch of the axis is taken. */
class Skyline {
  private pieces: { from: number; to: number; y: number }[] = []

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

/** Where all of a time axis stands, found again after any change, and by where it lies. */
export class TimeGrove implements Grove {
  private standing: Standing | null = null
  /** Made when somebody looks. */
  private planks: Patchwork<Placed> | null = null
  private lines: Patchwork<Line> | null = null

  /** `dateOf`: a topic's day, an ISO date; `today`: the present one. */
  constructor(
    private readonly ground: Ground,
    private readonly dateOf: (id: TopicId) => string | null,
    private readonly today: () => string | undefined,
  ) {}

  touch(): void {
    this.forget()
  }

  forget(): void {
    this.standing = this.planks = this.lines = null
  }

  settle(): Extents {
    return this.stand().extents
  }

  private stand(): Standing {
    return (this.standing ??= timeArrangement(this.ground, this.dateOf, this.today()))
  }

  private plank(id: TopicId): Placed | null {
    const spot = this.stand().spots.get(id)
    return spot ? plankAt(id, this.ground.size(id), spot) : null
  }

  find([id, ...further]: readonly TopicId[]): Placed | null {
    return id === undefined || further.length > 0 ? null : this.plank(id)
  }

  scan(view: Rect, grain: number, onlooker: GroveOnlooker): void {
    const { ground } = this
    const { lines: all, spots, axis } = this.stand()
    const planks = (this.planks ??= new Patchwork(
      Array.from(spots.keys(), id => {
        const placed = this.plank(id)!
        const { x, y, width, height } = around(placed, ground.extents(id))
        return [placed, [x, y, x + width, y + height]] as const
      }),
    ))
    // Far out, where lines are finer than a pixel and planks lie side by side, a share of them looks like all of them.
    const stride = grain > 0 ? Math.ceil(planks.size / MOST_BARS) : 1
    if (stride === 1) {
      this.lines ??= new Patchwork(all.map(line => [line, boxOf(line.points)] as const))
      this.lines.visit(view, ({ owner, points }) => onlooker.line(owner, points))
    }
    if (axis) onlooker.axis?.(axis.y, axis.from, axis.to, axis.ticks)
    const show = (placed: Placed): void =>
      ground.isNested(placed.id) ? onlooker.frame(placed) : onlooker.plank(placed)
    planks.visit(view, show, stride)
    // The big titles are written over the bars, so the first level is never left out.
    if (stride > 1) for (const id of ground.kids(ground.root)) onlooker.plank(this.plank(id)!)
  }
}

function boxOf(points: readonly number[]): readonly [number, number, number, number] {
  let [x1, y1, x2, y2] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let i = 0; i < points.length; i += 2) {
    x1 = Math.min(x1, points[i]!)
    x2 = Math.max(x2, points[i]!)
    y1 = Math.min(y1, points[i + 1]!)
    y2 = Math.max(y2, points[i + 1]!)
  }
  return [x1, y1, x2, y2]
}
