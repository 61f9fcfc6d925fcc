import { Layout } from '../arrange/layout'
import type { Rect, Tick } from '../arrange/place'
import { plankOf, type Plank, type Ruler } from '../arrange/plank'
import { CrossLinks } from '../derive/cross-links'
import { Dressing } from '../dress/dressing'
import { signalsOf } from '../dress/signals'
import type { TopicSign } from '../talk/thread'
import { markerOf } from '../tree/markers'
import type { TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { countTopics } from '../tree/walk'
import { CannotMake } from './cannot-make'
import { contentOf, rankOf, signsOf, smallPrintOf, type SmallPrint } from './face'
import { plankShapes } from './plank-shapes'
import { linePath, type Scene, type Shape } from './shapes'
import type { BetweenMarks } from '../figures/on-axis'
import { axisShapes } from './axis'
import { tieShapes } from './tie-shapes'

/** Topics that one picture shows at most: beyond that nobody could read it, and no reader of pictures opens it. */
export const MOST_DRAWN = 20_000
/** Clear ground around a picture, in canvas units. */
const MARGIN = 24

export interface SceneAsked {
  readonly dusk: boolean
  /** The present day, ISO 8601. */
  readonly today: string
  /** Whose dates: a BCP 47 tag. */
  readonly locale: string
  readonly nameOf: (person: string) => string
  /** What topics are called by, before their titles. */
  readonly numbers: ReadonlyMap<TopicId, string>
  /** What was said on a topic, where that is shown. */
  readonly talkOf: (id: TopicId) => TopicSign | null
  /** What the plan and figures say under a title. */
  readonly printOf?: (id: TopicId) => readonly SmallPrint[]
  /** The day on which the plan lets a topic begin. */
  readonly dayOf?: (id: TopicId) => string | null
  /** What stands under the marks of a time axis. */
  readonly onAxis?: (of: TopicId, ticks: readonly Tick[]) => BetweenMarks | null
  /** Whether folds stay shut. */
  readonly folds: boolean
  /** Measures letters in the fonts that the picture is drawn with. */
  readonly ruler: Ruler
}

/** A picture that is too large to be drawn; its message says what to do instead. */
export class TooManyToDraw extends CannotMake {
  constructor(message: string) {
    super('too-large', message)
  }
}

/**
 * A tree as a picture: what the canvas shows, as shapes. Throws `TooManyToDraw` for more topics than anybody could read.
 */
export function sceneOf(tree: Tree, asked: SceneAsked): Scene {
  const count = countTopics(tree)
  if (count > MOST_DRAWN)
    throw new TooManyToDraw(
      `A picture shows ${MOST_DRAWN.toLocaleString('en')} topics at most; this would be ${count.toLocaleString('en')}. Take a branch, or fewer levels.`,
    )
  const { dusk, today, locale, nameOf, numbers, folds, talkOf, ruler } = asked
  const signals = signalsOf(dusk)
  const dressing = new Dressing(
    () => tree,
    () => dusk,
  )
  dressing.refresh()
  const { wear } = dressing
  const drawn = new Map<TopicId, { plank: Plank; smallPrint: readonly SmallPrint[] }>()
  const drawnOf = (id: TopicId): { plank: Plank; smallPrint: readonly SmallPrint[] } => {
    let made = drawn.get(id)
    if (!made) {
      const topic = topicOf(tree, id)
      const smallPrint = smallPrintOf({ topic, names: [] }, nameOf, today, locale)
      smallPrint.push(...(asked.printOf?.(id) ?? []))
      const number = numbers.get(id)
      const title = number ? `${number} ${topic.title}` : topic.title
      const content = contentOf(tree, topic, dressing.styleOf(topic), title, smallPrint, talkOf(id))
      drawn.set(id, (made = { plank: plankOf(content, ruler), smallPrint }))
    }
    return made
  }
  const folded = (id: TopicId): boolean => folds && id !== tree.centre && topicOf(tree, id).folded
  const layout = new Layout(tree, { size: id => drawnOf(id).plank, folded, dayOf: asked.dayOf }, { today })
  const inside = layout.bounds()
  const bounds: Rect = {
    x: Math.floor(inside.x - MARGIN),
    y: Math.floor(inside.y - MARGIN),
    width: Math.ceil(inside.width + MARGIN * 2),
    height: Math.ceil(inside.height + MARGIN * 2),
  }
  const brackets = new Map<string, string[]>()
  const axes: Shape[] = []
  const planks: { z: number; shapes: readonly Shape[] }[] = []
  layout.scan(bounds, 0, {
    plank(placed) {
      const { id } = placed
      const topic = topicOf(tree, id)
      const { plank, smallPrint } = drawnOf(id)
      const shapes = plankShapes(
        {
          rect: placed,
          direction: placed.direction,
          rank: rankOf(tree, topic),
          topic,
          style: dressing.styleOf(topic),
          plank,
          smallPrint,
          signs: signsOf(topic, talkOf(id)),
          markers: topic.markers.flatMap(marker => markerOf(marker, tree.fields.markerSets) ?? []),
          hue: dressing.hueOf(id),
          hidden: folded(id) && childrenOf(tree, id).length > 0 ? layout.hidden(id) : 0,
          spine: layout.spineBehind(id, placed.direction),
        },
        wear,
        signals,
        ruler,
      )
      planks.push({ z: topic.z, shapes })
    },
    line(owner, points) {
      const colour = owner === layout.root ? signals.quiet : dressing.hueOf(owner)
      const list = brackets.get(colour)
      if (list) list.push(linePath(points))
      else brackets.set(colour, [linePath(points)])
    },
    block() {
      // With no grain everything is drawn as itself.
    },
    axis: (y, from, to, ticks, of) =>
      axes.push(...axisShapes({ y, from, to, ticks, under: asked.onAxis?.(of, ticks) }, wear, signals, ruler)),
  })
  const shapes: Shape[] = [
    ...Array.from(brackets, ([stroke, paths]): Shape => ({
      kind: 'path',
      d: paths.join(''),
      stroke,
      width: wear.line,
    })),
    ...axes,
    ...planks.sort((a, b) => a.z - b.z).flatMap(({ shapes: own }) => own),
    ...tieShapes(tree, new CrossLinks(() => tree).all(), layout, { hueOf: id => dressing.hueOf(id), wear, ruler }),
  ]
  return { title: topicOf(tree, tree.centre).title, bounds, ground: wear.page, shapes }
}
