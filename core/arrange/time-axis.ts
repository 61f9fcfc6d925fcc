import { addDays, daysBetween } from '../schedule/days'
import type { TopicId } from '../tree/topic'
import { type Grove, type Ground, type GroveOnlooker, MOST_BARS } from './grove'
import { Patchwork } from './patchwork'
import { type Branch, hangBest } from './hanging'
import { around, type Direction, type Extents, mirrored, type Placed, type Rect, type Tick } from './place'
import { type Line, plankAt, type Standing } from './standing'

/**
 * Along a time axis: each main branch hangs from its date, wherever there is room nearer by; days are equally wide, and
 * what has no date waits at the end.
 *
 * `extents` are those of a branch that runs on; `runsOn` says which can't run the other way.
 */
export function timeArrangement(
  ground: Omit<Ground, 'isNested'>,
  dateOf: (id: TopicId) => string | null,
  today?: string,
  runsOn: (id: TopicId) => boolean = () => false,
): Standing {
  const kids = ground.kids(ground.root).map(id => ({ id, date: dateOf(id) }))
  const dates = kids.flatMap(({ date }) => (date === null ? [] : [date]))
  if (today && dates.length > 0) dates.push(today)
  dates.sort()
  const [first, last] = [dates[0], dates.at(-1)]
  const branches = kids.map(({ id, date }): Branch => ({
    id,
    day: date === null ? null : daysBetween(first!, date),
    size: ground.size(id),
    extents: ground.extents(id),
    runsOn: runsOn(id),
  }))
  const root = ground.size(ground.root)
  const { along, across } = ground
  const span = first && last ? daysBetween(first, last) : 0
  const { perDay, start, waiting, places, extents } = hangBest(branches, { root, span, along, across })
  const xOf = (date: string): number => start + daysBetween(first!, date) * perDay
  const hasUndated = branches.some(({ day }) => day === null)
  return {
    spots: places,
    lines: Array.from(places, ([owner, { x, dx, dy }]): Line => {
      const edge = dx - ground.size(owner).width / 2
      return { owner, points: edge > x ? [x, 0, x, dy, edge, dy] : [x, 0, x, dy] }
    }),
    extents: { ...extents, top: Math.max(extents.top, 26), bottom: Math.max(extents.bottom, 10) },
    axis: {
      y: 0,
      from: root.width / 2,
      to: extents.right,
      ticks: first ? ticksOf(first, last!, perDay, xOf, today, hasUndated ? waiting : null) : [],
    },
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

/** Where all of a time axis stands, found again after any change, and by where it lies. */
export class TimeGrove implements Grove {
  private standing: Standing | null = null
  /** Made when somebody looks. */
  private planks: Patchwork<Placed> | null = null
  private lines: Patchwork<Line> | null = null

  /**
   * `dateOf`: a topic's day, an ISO date; `today`: the present one; `runsOn`: whether a branch is laid out in its own way
   * and can't be turned round. The ground's extents are those of branches that run on.
   */
  constructor(
    private readonly ground: Ground,
    private readonly dateOf: (id: TopicId) => string | null,
    private readonly today: () => string | undefined,
    private readonly runsOn: (id: TopicId) => boolean,
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
    return (this.standing ??= timeArrangement(this.ground, this.dateOf, this.today(), this.runsOn))
  }

  /** Which way a branch runs from its date. The grove must be settled. */
  directionOf(id: TopicId): Direction {
    return this.stand().spots.get(id)?.direction ?? 'right'
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
        const { x, y, width, height } = around(
          placed,
          placed.direction === 'left' ? mirrored(ground.extents(id)) : ground.extents(id),
        )
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
