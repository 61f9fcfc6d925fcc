import { addDays, daysBetween } from '../schedule/days'
import type { TopicId } from '../tree/topic'
import { type Grove, type Ground, type GroveOnlooker, MOST_BARS } from './grove'
import { Patchwork } from './patchwork'
import { around, type Extents, type Placed, type Rect, type Tick } from './place'
import { halfOf, type Line, plankAt, reachOf, type Spot, type Standing } from './standing'

const GAP = 14
/** From the axis down to the first plank. */
const DROP = 46
/** From the axis up to the first: over the names of its days. */
const RISE = 62

/** How the drawing is best shaped, wide by high: as a screen is. */
const SHAPE = 1.5
/** Shares of the widest scale that are tried, while there are few enough branches to try them. */
const SCALES = [1.4, 1, 0.7, 0.5, 0.35]
const FEW = 150
/** How far what has no date steps aside, so that each one's line passes the others. */
const STEP = 14

/**
 * Along a time axis: each main branch hangs from its date, below the axis or above it, wherever there is room nearer by;
 * days are equally wide, and what has no date waits at the end. Later branches are hung first and as near as they go, so
 * that no line runs through an earlier one. Of several scales the one is taken that shows the whole largest on a screen.
 */
export function timeArrangement(
  ground: Omit<Ground, 'isNested'>,
  dateOf: (id: TopicId) => string | null,
  today?: string,
): Standing {
  const kids = ground.kids(ground.root)
  const dates = new Map(kids.map(id => [id, dateOf(id)]))
  let best: Standing | null = null
  for (const scale of kids.length <= FEW ? SCALES : [0.5]) {
    const one = hungOn(ground, dates, scale, today)
    if (best === null || sizeOf(one) < sizeOf(best)) best = one
  }
  return best!
}

const sizeOf = ({ extents: { left, right, top, bottom } }: Standing): number =>
  Math.max((left + right) / SHAPE, top + bottom)

function hungOn(
  ground: Omit<Ground, 'isNested'>,
  dates: ReadonlyMap<TopicId, string | null>,
  scale: number,
  today: string | undefined,
): Standing {
  const root = ground.size(ground.root)
  const dated = [...dates].flatMap(([id, date]) => (date === null ? [] : [{ id, date }]))
  const undated = [...dates].flatMap(([id, date]) => (date === null ? [id] : []))
  const spots = new Map<TopicId, Spot>()
  const lines: Line[] = []
  const start = root.width / 2 + 40
  const days = [...dated.map(item => item.date), ...(today && dated.length > 0 ? [today] : [])].sort()
  const first = days[0]
  const last = days.at(-1)
  const span = first && last ? Math.max(1, daysBetween(first, last)) : 1
  const perDay = Math.min(140, Math.max(2.5, (260 * Math.max(1, dated.length) ** 0.75 * ground.along * scale) / span))
  const xOf = (date: string): number => start + daysBetween(first!, date) * perDay
  const end = first ? xOf(last!) : start
  const waiting = end + (dated.length > 0 ? 90 : 0)
  const hung: { id: TopicId; x: number }[] = [
    ...dated.map(({ id, date }) => ({ id, x: xOf(date) })),
    ...undated.map((id, i) => ({ id, x: waiting + i * STEP })),
  ]
  const skies = { below: new Skyline(), above: new Skyline() }
  const order = hung.map((item, i) => ({ ...item, i })).sort((a, b) => b.x - a.x || b.i - a.i)
  let furthest = end
  for (const { id, x } of order) {
    const { left, right, top, bottom } = ground.extents(id)
    const size = ground.size(id)
    const near = x - left + size.width / 2
    const room = [near - 4, near + left + right + GAP, top + bottom + GAP * ground.across] as const
    const [below, above] = [skies.below.reach(room[0], room[1], DROP), skies.above.reach(room[0], room[1], RISE)]
    const under = below - DROP <= above - RISE
    skies[under ? 'below' : 'above'].take(...room, under ? below : above)
    const dy = under ? below + top : -above - bottom
    spots.set(id, { dx: x + size.width / 2, dy, direction: 'right' })
    lines.push({ owner: id, points: [x, 0, x, dy] })
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
      ticks: first ? ticksOf(first, last!, perDay, xOf, today, undated.length > 0 ? waiting : null) : [],
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

/** How far from the axis each stretch of it is taken. */
class Skyline {
  private pieces: { from: number; to: number; y: number }[] = []

  /** How far from the axis a stretch is free, `least` at least. */
  reach(from: number, to: number, least: number): number {
    let y = least
    for (const piece of this.pieces) if (piece.from < to && from < piece.to) y = Math.max(y, piece.y)
    return y
  }

  /** Takes room of a height over a stretch, from `y` on. */
  take(from: number, to: number, height: number, y: number): void {
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
