import type { Layout, Placed, Rect } from '#core/arrange/layout'
import { type Direction, meets } from '#core/arrange/place'
import type { Wear } from '#core/dress/wear'
import type { Mark } from '#core/history/marks'
import { childrenOf, depthOf, placeOf, topicOf, type TopicId } from '#core/tree'
import type { Desk, Drawn } from '~/desk/desk'
import { rankOf } from '#core/scene/face'
import type { Passage } from '~/files/passage'
import { browserRuler } from '~/desk/ruler'
import { Paper } from './paper'
import { LEAST_PX, type Post, putUp, type Wanted } from './signposts'
import type { Viewport } from './viewport'

/** Below this zoom planks are bars drawn on the paper, and the document holds only what has the focus. */
export const FAR_OUT = 0.38

/** From this zoom on every title can be read as it stands, the smallest of a main branch's too. */
const SMALL = 0.95

/** A plank as the document shows it; one that hasn't changed is the very same object. */
export interface ShownPlank {
  readonly id: TopicId
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  readonly direction: Direction
  /** How far behind it the spine of its bracket stands. */
  readonly spine: number
  readonly rank: 'centre' | 'main' | 'plain'
  readonly drawn: Drawn
  readonly hue: string
  readonly wear: Wear
  readonly z: number
  readonly dim: boolean
  /** Whether it steps back behind the branch that is presented. */
  readonly behind: boolean
  readonly hit: boolean
  /** What is pointed out about it, in a word; empty for most. */
  readonly mark: Mark | ''
  readonly level: number
  readonly position: number
  readonly siblings: number
  readonly children: number
  readonly folded: boolean
  readonly hidden: number
  readonly selected: boolean
  readonly focused: boolean
  readonly editing: boolean
  readonly others: string
}

/** What a canvas shows of its layout at this moment: planks in the document, brackets and far bars on the paper. */
export class Sight {
  private known = new Map<TopicId, ShownPlank>()
  /** The names of the big branches where their planks can't be read, on the screen. */
  posts: readonly Post[] = []
  private colours = { quiet: '', sun: '' }

  constructor(
    private readonly desk: Desk,
    private readonly layout: Layout,
    private readonly view: Viewport,
    private readonly passage: Passage,
  ) {}

  /** Puts on the look's colours, for the canvas of this element alone. */
  wear(at: CSSStyleDeclaration): void {
    const style = getComputedStyle(document.documentElement)
    const of = (name: string): string => style.getPropertyValue(name).trim()
    this.colours = { quiet: of('--quiet'), sun: of('--sun') }
    const { wear } = this.desk.dressing
    for (const [name, value] of Object.entries({
      page: wear.page,
      surface: wear.plank,
      ink: wear.ink,
      centre: wear.centre,
      'on-centre': wear.onCentre,
      edge: `${Math.max(2, wear.line * 1.9)}px`,
    }))
      at.setProperty(`--${name}`, value)
    this.known.clear()
  }

  find(id: TopicId): ShownPlank | undefined {
    return this.known.get(id)
  }

  /** Draws the paper, and returns the planks that the document has to hold. */
  draw(context: CanvasRenderingContext2D): readonly ShownPlank[] {
    const { desk, layout, view, passage, colours } = this
    const { dressing, finding } = desk
    const far = view.zoom < FAR_OUT
    const small = view.zoom < SMALL
    const part = passage.part()
    const others = othersAt(desk)
    const next = new Map<TopicId, ShownPlank>()
    const wanted: Wanted[] = []
    const taken: (Rect & { id: TopicId })[] = []
    const focus = desk.focus.value
    const editing = desk.editing.value?.id
    const sheet = new Paper(context, view)
    const add = (standing: Placed): void => {
      const made = this.plank(passage.at(standing, part), others)
      const before = this.known.get(made.id)
      next.set(made.id, before && same(before, made) ? before : made)
    }
    const inView = view.seen()
    /** Asks for a post, if it's a name to be put up and can't be read as it stands. */
    const want = (id: TopicId, at: Rect, direction: Direction, hue: string): void => {
      const rank = rankOf(desk.tree, topicOf(desk.tree, id))
      const focused = far && id === focus
      if (id === editing || (rank === 'plain' && !focused)) return
      const { guise, plank } = desk.drawnOf(id)
      if (plank.face.size * view.zoom >= LEAST_PX) return
      const title = guise.number ? `${guise.number} ${guise.topic.title}` : guise.topic.title
      wanted.push({ id, title, rect: view.onScreen(at), centre: rank === 'centre', direction, hue, focused })
    }
    layout.scan(passage.running ? wider(view.seen()) : view.seen(), far ? 3 / view.zoom : 0, {
      plank(placed) {
        const hue = desk.isDim(placed.id) ? colours.quiet : dressing.hueOf(placed.id)
        const at = passage.at(placed, part)
        if (small && meets(at, inView)) {
          want(placed.id, at, placed.direction, hue)
          if (!far) taken.push({ id: placed.id, ...view.onScreen(at) })
        }
        if (far) sheet.bar(finding.isHit(placed.id) ? colours.sun : hue, at)
        else add(placed)
      },
      line: (owner, points) =>
        sheet.line(owner === layout.root ? colours.quiet : dressing.hueOf(owner), points, desk.isDim(owner)),
      block(rect, id) {
        sheet.bar(dressing.hueOf(id), rect)
        if (meets(rect, inView)) want(id, rect, 'down', dressing.hueOf(id))
      },
      axis: (y, from, to, ticks, of) =>
        sheet.axis({ y, from, to, ticks, under: desk.planks.figures?.onAxis(of, ticks) }),
    })
    sheet.draw(dressing.wear, colours.quiet, colours.sun, part)
    this.posts = putUp(wanted, taken, browserRuler)
    // What has the focus stays in the document wherever it is, so that the keyboard and the screen reader never lose it.
    for (const id of [focus, editing]) {
      const placed = id && !next.has(id) ? layout.find(id) : null
      if (placed) add(placed)
    }
    // The one whose title is typed is the last in the document from the first letter to the last: moved while it has
    // the focus, it would lose it.
    const typed = editing && next.get(editing)
    if (typed) {
      next.delete(typed.id)
      next.set(typed.id, typed)
    }
    this.known = next
    return [...next.values()]
  }

  private plank(placed: Placed, others: Others): ShownPlank {
    const { desk, layout } = this
    const { id } = placed
    const topic = topicOf(desk.tree, id)
    const isCentre = id === desk.tree.centre
    const folded = id !== layout.root && desk.isFolded(id)
    return {
      id,
      x: placed.x,
      y: placed.y,
      width: placed.width,
      height: placed.height,
      direction: placed.direction,
      spine: layout.spineBehind(id, placed.direction),
      drawn: desk.drawnOf(id),
      rank: rankOf(desk.tree, topic),
      hue: desk.dressing.hueOf(id),
      z: topic.z,
      wear: desk.dressing.wear,
      level: depthOf(desk.tree, id) + 1,
      position: isCentre ? 1 : placeOf(desk.tree, id) + 1,
      siblings: isCentre ? 1 : childrenOf(desk.tree, topic.parent).length,
      children: childrenOf(desk.tree, id).length,
      folded,
      hidden: folded ? layout.hidden(id) : 0,
      selected: desk.selection.value.has(id),
      focused: desk.focus.value === id,
      editing: desk.editing.value?.id === id,
      dim: desk.finding.isDim(id),
      behind: desk.showing.isBehind(id),
      hit: desk.finding.isHit(id),
      mark: desk.marks.value.get(id) ?? '',
      others: others.has(id) ? JSON.stringify(others.get(id)) : '',
    }
  }
}

type Others = ReadonlyMap<TopicId, readonly { name: string; hue: string; typing: boolean }[]>

/** Who else is at which topic. */
function othersAt(desk: Desk): Others {
  const at = new Map<TopicId, { name: string; hue: string; typing: boolean }[]>()
  for (const person of desk.status.present) {
    const id = person.typing ?? person.selected[0]
    if (id)
      at.set(id, [
        ...(at.get(id) ?? []),
        { name: person.name.split(' ')[0]!, hue: hueOf(person.id), typing: person.typing !== null },
      ])
  }
  return at
}

/** A sight with a margin: what glides in from outside is there in time. */
function wider(rect: Rect): Rect {
  return { x: rect.x - rect.width / 2, y: rect.y - rect.height / 2, width: rect.width * 2, height: rect.height * 2 }
}

function same(a: ShownPlank, b: ShownPlank): boolean {
  for (const key in b) if (a[key as keyof ShownPlank] !== b[key as keyof ShownPlank]) return false
  return true
}
