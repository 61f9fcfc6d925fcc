import { addDays, daysBetween } from '../schedule/days'
import type { TopicId } from '../tree/topic'
import { type Grove, type Ground, type GroveOnlooker, MOST_BARS } from './grove'
import { Patchwork } from './patchwork'
import { type Branch, hangBest } from './hanging'
import { around, type Direction, type Extents, mirrored, type Placed, type Rect, type Tick } from './place'
import { type Line, plankAt, type Standing } from './standing'

/**
 * Along a time axis: each main branch hangs from its date, wherever there is room nearer by; days are equally wide, and
 * what has no date waits at the end. Where all of it lies within two days and something has a time of day, hours are
 * equally wide; what has none then stands at the beginning of its day.
 *
 * `dateOf`: a topic's day, ISO 8601, with its time where it has one, "2027-06-05T07:30".
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
  const byHours = isByHours(dates)
  if (today && dates.length > 0 && !byHours) dates.push(today)
  dates.sort()
  const first = dates[0] && startOfUnit(dates[0], byHours)
  const last = dates.at(-1)
  const between = byHours ? hoursBetween : (from: string, to: string) => daysBetween(from.slice(0, 10), to.slice(0, 10))
  const branches = kids.map(({ id, date }): Branch => ({
    id,
    at: date === null ? null : between(first!, date),
    size: ground.size(id),
    extents: ground.extents(id),
    runsOn: runsOn(id),
  }))
  const root = ground.size(ground.root)
  const { along, across } = ground
  const span = first && last ? between(first, last) : 0
  const { perUnit, start, waiting, places, extents } = hangBest(branches, { root, span, along, across })
  const xOf = (date: string): number => start + between(first!, date) * perUnit
  const undatedAt = branches.some(({ at }) => at === null) ? waiting : null
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
      ticks: !first
        ? []
        : byHours
          ? hoursOf(first, last!, perUnit, xOf, undatedAt)
          : ticksOf(first, last!.slice(0, 10), perUnit, xOf, today, undatedAt),
    },
  }
}

/** Whether the axis is one of hours. `dates` without the present day. */
function isByHours(dates: readonly string[]): boolean {
  if (!dates.some(date => date.length > 10)) return false
  const days = dates.map(date => date.slice(0, 10)).sort()
  return daysBetween(days[0]!, days.at(-1)!) <= 1
}

const wholeMoment = (date: string): string => (date.length > 10 ? date : `${date}T00:00`)
/** The day, or on an axis of hours the full hour. */
const startOfUnit = (date: string, byHours: boolean): string =>
  byHours ? `${wholeMoment(date).slice(0, 13)}:00` : date.slice(0, 10)
const hoursBetween = (from: string, to: string): number =>
  (Date.parse(`${wholeMoment(to)}Z`) - Date.parse(`${wholeMoment(from)}Z`)) / 3_600_000

/** The marks of an axis of hours: the first with its day, as each midnight; further apart where an hour is narrow. */
function hoursOf(
  first: string,
  last: string,
  perHour: number,
  xOf: (date: string) => number,
  undatedAt: number | null,
): Tick[] {
  const ticks: Tick[] = []
  const every = perHour >= 48 ? 1 : perHour >= 16 ? 3 : 6
  for (let hour = 0; hour <= Math.ceil(hoursBetween(first, last)); hour++) {
    const date = new Date(Date.parse(`${first}Z`) + hour * 3_600_000).toISOString().slice(0, 16)
    const at = Number(date.slice(11, 13))
    if (hour === 0 || at === 0) ticks.push({ x: xOf(date), date: at === 0 ? date.slice(0, 10) : date, unit: 'day' })
    else if (at % every === 0) ticks.push({ x: xOf(date), date, unit: 'hour' })
  }
  if (undatedAt !== null) ticks.push({ x: undatedAt, date: '', unit: 'none' })
  return ticks
}

function ticksOf(
  first: string,
  last: string,
  perUnit: number,
  xOf: (date: string) => number,
  today: string | undefined,
  undatedAt: number | null,
): Tick[] {
  const ticks: Tick[] = []
  const unit = perUnit > 34 ? 'day' : perUnit > 1.6 ? 'month' : 'year'
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
    if (axis) onlooker.axis?.(axis.y, axis.from, axis.to, axis.ticks, ground.root)
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
