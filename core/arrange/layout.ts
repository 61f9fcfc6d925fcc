import { Arranged, type Settings } from './arranged'
import { fromMiddleOf, moved } from './from-middle'
import type { Arrangement, Side } from '../tree/fields'
import { timesOf } from '../schedule/times'
import { sidesBelow } from '../tree/split'
import type { TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { looseOf } from '../tree/walk'
import { ForestGrove } from './forest'
import type { Grove, Ground } from './grove'
import { HandGrove } from './hand'
import { around, type Extents, meets, mirrored, type Onlooker, type Placed, type Rect, type Size } from './place'
import { RingGrove } from './ring'
import { halfOf } from './standing'
import type { Plot } from './tidy'
import { TimeGrove } from './time-axis'

export type { Direction, Onlooker, Placed, Rect } from './place'

/** What the arrangement asks of whoever draws. Sizes in canvas units. */
export interface Look {
  size(id: TopicId): Size
  folded(id: TopicId): boolean
  /** Whether a topic, with all below it, is left out; undefined while nothing is. */
  readonly hidden?: ((id: TopicId) => boolean) | undefined
  /** The day on which the plan lets a topic begin; null, and undefined, where there is none. */
  readonly dayOf?: ((id: TopicId) => string | null) | undefined
}

/**
 * A part of the drawing with an arrangement of its own: the centre's, a loose topic's, or that of a branch that was
 * given one.
 */
interface Frame {
  readonly id: TopicId
  readonly arrangement: Arrangement
  readonly grove: Grove
  /** The space it was laid out with. */
  along: number
  across: number
  extents: Extents
  fresh: boolean
}

/**
 * Where each plank of a tree stands, kept up to date change by change: only what was touched and what stands above it
 * is laid out again. Nothing is stored by absolute place, so a branch that is pushed aside costs nothing.
 */
export class Layout extends Arranged {
  private readonly plots = new Map<TopicId, Plot>()
  private readonly frames = new Map<TopicId, Frame>()
  private readonly hiddenCounts = new Map<TopicId, number>()
  private stale = true
  /** Counts up whenever planks may stand elsewhere. */
  revision = 0

  constructor(
    tree: Tree,
    private readonly look: Look,
    override: Partial<Settings> = {},
  ) {
    super(tree, override)
  }

  /** Forgets everything, for instance when fonts, sizes, spacing or the arrangement change. */
  reset(override: Partial<Settings> = this.override): void {
    this.override = override
    this.settings = this.settingsNow()
    for (const plot of this.plots.values()) plot.fresh = false
    for (const frame of this.frames.values()) {
      frame.fresh = false
      frame.grove.forget()
    }
    this.hiddenCounts.clear()
    this.stale = true
    this.revision++
  }

  /** The same drawing with some branches left out: what is there once they've gone. */
  without(branches: ReadonlySet<TopicId>): Layout {
    const { look, override } = this
    const hidden = (id: TopicId): boolean => branches.has(id) || look.hidden?.(id) === true
    const rest = { ...look, size: (id: TopicId) => look.size(id), folded: (id: TopicId) => look.folded(id), hidden }
    return new Layout(this.tree, rest, override)
  }

  /** One branch by itself, from the middle of its plank. */
  alone(id: TopicId): Layout {
    return new Layout(this.tree, this.look, { ...this.override, only: id })
  }

  /** Goes on with another tree object in place of the old one. */
  rebase(tree: Tree): void {
    this.tree = tree
    this.plots.clear()
    this.frames.clear()
    this.reset()
  }

  /** Says that a topic's data, size, fold state or children changed. Unknown and removed ids are fine. */
  touch(ids: Iterable<TopicId | null>): void {
    for (const id of ids) {
      const own = id === null ? undefined : this.plots.get(id)
      if (own) own.framed = this.isFramed(own.id)
      const trail: TopicId[] = []
      for (let at: TopicId | null = id; at !== null; at = this.tree.topics.get(at)?.parent ?? null) {
        trail.push(at)
        const plot = this.plots.get(at)
        if (plot) plot.fresh = false
        const frame = this.frames.get(at)
        if (frame) {
          frame.fresh = false
          frame.grove.touch(trail)
        }
        this.hiddenCounts.delete(at)
      }
    }
    this.stale = true
    this.revision++
  }

  /** Says that the days of topics may be others, which counts on a time axis. */
  daysChanged(): void {
    this.touch([...this.frames.values()].filter(frame => frame.arrangement === 'time').map(frame => frame.id))
  }

  /** The children that can be seen: none while folded. */
  shown(id: TopicId): readonly TopicId[] {
    if (id !== this.root && this.look.folded(id)) return []
    const kids = childrenOf(this.tree, id)
    const { hidden } = this.look
    return hidden ? kids.filter(kid => !hidden(kid)) : kids
  }

  /** How many topics are hidden below a folded topic. */
  hidden(id: TopicId): number {
    let count = this.hiddenCounts.get(id)
    if (count === undefined) {
      count = 0
      const stack = [...childrenOf(this.tree, id)]
      while (stack.length > 0) {
        count++
        for (const child of childrenOf(this.tree, stack.pop()!)) stack.push(child)
      }
      this.hiddenCounts.set(id, count)
    }
    return count
  }

  // — Laying out

  private frameOf(id: TopicId, arrangement: Arrangement = this.arrangementOf(id) ?? 'right'): Frame {
    let frame = this.frames.get(id)
    if (frame?.fresh && frame.arrangement === arrangement) return frame
    const [along, across] = [this.spaceOf(id, 'along'), this.spaceOf(id, 'across')]
    if (frame?.arrangement !== arrangement || frame.along !== along || frame.across !== across)
      this.frames.set(
        id,
        (frame = {
          id,
          arrangement,
          grove: this.groveOf(id, arrangement),
          along,
          across,
          extents: halfOf({ width: 0, height: 0 }),
          fresh: false,
        }),
      )
    frame.fresh = true
    frame.extents = frame.grove.settle()
    if (frame.grove.directionOf) this.turn(id, frame.grove)
    return frame
  }

  /** Lays the branches that a frame turns round out the other way. */
  private turn(id: TopicId, grove: Grove): void {
    for (const kid of this.shown(id)) {
      if (grove.directionOf!(kid) === 'left') this.turned.add(kid)
      else this.turned.delete(kid)
      this.nestedFrame(kid)
    }
  }

  private isWide(id: TopicId): boolean {
    return id === this.root || topicOf(this.tree, id).parent === null
  }

  /** On which side of a topic each of its children stands, folded, left out or not. */
  private sideBelow(id: TopicId): (kid: TopicId) => Side {
    const sides = sidesBelow(this.tree, id)
    const sideOf = new Map(childrenOf(this.tree, id).map((kid, i) => [kid, sides[i]!]))
    return kid => sideOf.get(kid)!
  }

  private groundOf(id: TopicId, arrangement: Arrangement): Ground {
    const spaceOf = (way: 'along' | 'across'): number => this.spaceOf(id, way)
    const isNested = (kid: TopicId): boolean => kid !== id && this.isNestedIn(arrangement, kid)
    return {
      root: id,
      get along() {
        return spaceOf('along')
      },
      get across() {
        return spaceOf('across')
      },
      isNested,
      kids: at => (isNested(at) ? [] : this.shown(at)),
      size: at => this.look.size(at),
      extents: at => {
        if (!isNested(at)) return halfOf(this.look.size(at))
        const { extents } = this.nestedFrame(at)
        return this.runsBack(at) ? mirrored(extents) : extents
      },
    }
  }

  private groveOf(id: TopicId, arrangement: Arrangement): Grove {
    const ground = this.groundOf(id, arrangement)
    switch (arrangement) {
      case 'around':
        return new RingGrove(
          ground,
          () => this.sideBelow(id),
          () => this.readsUp(id, 'left'),
        )
      case 'time':
        return new TimeGrove(
          ground,
          at => this.dateOf(at),
          () => this.settings.today,
          at => this.isFramed(at),
        )
      case 'hand':
        return new HandGrove(ground, at => {
          const { x, y } = topicOf(this.tree, at)
          return x === null || y === null ? null : { dx: x, dy: y }
        })
      default:
        return new ForestGrove(
          Object.assign(ground, {
            plots: this.plots,
            shown: (at: TopicId) => this.shown(at),
            isWide: () => this.isWide(id),
            directionOf: () => (arrangement === 'both' ? this.sideBelow(id) : arrangement),
            readsUp: () => this.readsUp(id, 'left'),
          }),
        )
    }
  }

  /** The frame of a topic that stands in another's frame. */
  private nestedFrame(id: TopicId): Frame {
    return this.frameOf(id, topicOf(this.tree, id).arrangement ?? (this.turned.has(id) ? 'left' : 'right'))
  }

  /** A topic's day on a time axis, with its time where it has one: the plan's, its own, or the earliest below it. */
  private dateOf(id: TopicId): string | null {
    const topic = topicOf(this.tree, id)
    const own = this.look.dayOf?.(id) ?? topic.start ?? topic.due
    if (own !== null) {
      const { time } = timesOf(topic, own, own)
      return time === null ? own : `${own}T${time}`
    }
    let earliest: string | null = null
    for (const kid of childrenOf(this.tree, id)) {
      const date = this.dateOf(kid)
      if (date !== null && (earliest === null || date < earliest)) earliest = date
    }
    return earliest
  }

  private settle(): void {
    if (!this.stale) return
    this.stale = false
    this.settings = this.settingsNow()
    this.frameOf(this.root)
    if (this.root === this.tree.centre) for (const loose of looseOf(this.tree)) this.frameOf(loose)
  }

  // — Looking

  private rootPlank(): Placed {
    const { width, height } = this.look.size(this.root)
    return { id: this.root, x: -width / 2, y: -height / 2, width, height, direction: 'right' }
  }

  /** Loose topics stand where they were put; those without a place queue up below the tree. */
  private *loose(): Generator<{ placed: Placed; frame: Frame }> {
    if (this.root !== this.tree.centre) return
    let queueY = Math.max(this.frameOf(this.root).extents.bottom, 40) + 60
    const { hidden } = this.look
    for (const id of looseOf(this.tree)) {
      if (hidden?.(id)) continue
      const topic = topicOf(this.tree, id)
      const frame = this.frameOf(id)
      const { width, height } = this.look.size(id)
      let { x, y } = topic
      if (x === null || y === null) {
        x = -width / 2
        y = queueY + frame.extents.top - height / 2
        queueY += frame.extents.top + frame.extents.bottom + 30
      }
      yield { placed: { id, x, y, width, height, direction: 'right' }, frame }
    }
  }

  /** Where one topic stands, or null while a fold or the tray hides it. Cost: its depth and the siblings on the way. */
  find(id: TopicId): Placed | null {
    this.settle()
    const path: TopicId[] = []
    for (let at: TopicId | null = id; at !== null; at = this.tree.topics.get(at)?.parent ?? null) {
      path.unshift(at)
      if (at === this.root) break
    }
    const start = path[0]!
    let placed: Placed | null = null
    if (start === this.root) placed = this.rootPlank()
    else for (const item of this.loose()) if (item.placed.id === start) placed = item.placed
    if (!placed) return null
    let frame = this.frames.get(start)!
    for (let i = 1; i < path.length;) {
      // As far as this frame goes; then on in the one that stands there.
      let last = i
      while (last < path.length - 1 && !this.isNestedIn(frame.arrangement, path[last]!)) last++
      const at = frame.grove.find(path.slice(i, last + 1))
      if (!at) return null
      placed = moved(at, placed)
      i = last + 1
      if (i < path.length) frame = this.frames.get(path[last]!)!
    }
    return placed
  }

  private isNestedIn(arrangement: Arrangement, id: TopicId): boolean {
    return arrangement === 'time' || this.isFramed(id)
  }

  /** How much room a branch takes across, with its space around it. */
  tallness(id: TopicId): number {
    this.settle()
    const plot = this.plots.get(id)
    return plot ? plot.high - plot.low : this.look.size(id).height
  }

  /** The rectangle around everything that is shown. */
  bounds(): Rect {
    this.settle()
    const whole = around(this.rootPlank(), this.frameOf(this.root).extents)
    let { x: x1, y: y1 } = whole
    let x2 = x1 + whole.width
    let y2 = y1 + whole.height
    for (const { placed, frame } of this.loose()) {
      const one = around(placed, frame.extents)
      x1 = Math.min(x1, one.x)
      x2 = Math.max(x2, one.x + one.width)
      y1 = Math.min(y1, one.y)
      y2 = Math.max(y2, one.y + one.height)
    }
    return { x: x1, y: y1, width: x2 - x1, height: y2 - y1 }
  }

  /**
   * Shows what lies in `view`. A branch whose height is under `grain` canvas units is one block.
   * Cost: what is in sight, plus a glance at each sibling of it.
   */
  scan(view: Rect, grain: number, onlooker: Onlooker): void {
    this.settle()
    this.showFrame(view, grain, onlooker, this.rootPlank(), this.frameOf(this.root))
    for (const { placed, frame } of this.loose()) this.showFrame(view, grain, onlooker, placed, frame)
  }

  private showFrame(view: Rect, grain: number, onlooker: Onlooker, placed: Placed, frame: Frame): void {
    const whole = around(placed, frame.extents)
    if (!meets(view, whole)) return
    if (whole.height < grain && whole.width < grain * 20) {
      onlooker.block(whole, placed.id)
      return
    }
    if (meets(view, placed)) onlooker.plank(placed)
    const [x, y] = [placed.x + placed.width / 2, placed.y + placed.height / 2]
    frame.grove.scan(
      x === 0 && y === 0 ? view : { ...view, x: view.x - x, y: view.y - y },
      grain,
      fromMiddleOf(placed, onlooker, at => this.showFrame(view, grain, onlooker, at, this.frames.get(at.id)!)),
    )
  }
}
