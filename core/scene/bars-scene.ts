import type { Face, Ruler } from '../arrange/plank'
import { mix } from '../dress/colour'
import { Dressing } from '../dress/dressing'
import { type Signals, signalsOf } from '../dress/signals'
import type { Wear } from '../dress/wear'
import type { Baseline } from '../schedule/baseline'
import type { Plan } from '../schedule/plan'
import { initialsOf } from '../tree/title'
import type { Topic, TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { rowsOf, spanOf } from './bars-rows'
import { type Bar, barOf, closedBetween, waitingIn, waitPath } from './bars'
import { Scale, ZOOMS } from './day-scale'
import { MOST_DRAWN, TooManyToDraw } from './scene'
import { linePath, polygonPath, rectPath, type Scene, type Shape } from './shapes'

/* The schedule as a picture: the rows of a tree beside the bars of its plan, as the schedule shows them. In px, as on the screen. */

const ROW = 32
const HEAD = 46
const MARGIN = 24
/** Least and most of the column of titles. */
const TITLES = { least: 180, most: 420 } as const
/** How wide the days are at most, unless even the narrowest days are wider. */
const DAYS_WIDE = 1400
/** Room after the last day for the words behind bars. */
const WORDS_WIDE = 190

export interface BarsAsked {
  readonly plan: Plan
  /** What the plan is held against; null: nothing. */
  readonly against: Pick<Baseline, 'tasks'> | null
  readonly dusk: boolean
  /** The present day, ISO 8601. */
  readonly today: string
  /** Whose dates: a BCP 47 tag. */
  readonly locale: string
  readonly nameOf: (person: string) => string
  /** What topics are called by, before their titles. */
  readonly numbers: ReadonlyMap<TopicId, string>
  /** Whether folds stay shut. */
  readonly folds: boolean
  readonly ruler: Ruler
}

interface BarRow {
  readonly topic: Topic
  readonly level: number
  readonly bar: Bar | null
}

const face = (size: number, weight: number, family: Face['family'] = 'text'): Face => ({
  ...{ family, size, weight, slanted: false },
})

/**
 * The plan of a tree as a picture. `plan` may be of a larger tree: of it only what stands in this one is drawn. Throws `CannotMake` where
 * nothing of it is planned, `TooManyToDraw` for more rows than anybody could read.
 */
export function barsSceneOf(tree: Tree, asked: BarsAsked): Scene {
  const { plan, against, dusk } = asked
  const listed = [...rowsOf(tree, asked.folds)]
  if (listed.length > MOST_DRAWN)
    throw new TooManyToDraw(
      `A picture shows ${MOST_DRAWN.toLocaleString('en')} rows at most; this would be ${listed.length.toLocaleString('en')}. Take a branch, or fewer levels.`,
    )
  const { first, last } = spanOf(listed, plan, against)
  const days = (Date.parse(last) - Date.parse(first)) / 86_400_000
  const scale = new Scale(first, ZOOMS.findLast(perDay => perDay * days <= DAYS_WIDE) ?? ZOOMS[0])
  const rows = listed.map((row): BarRow => ({ ...row, bar: barOf(tree, plan, scale, row.topic.id, against) }))
  const dressing = new Dressing(
    () => tree,
    () => dusk,
  )
  dressing.refresh()
  const drawing = new Drawing(asked, scale, dressing.wear, signalsOf(dusk), id => dressing.hueOf(id))
  const wide = scale.x(last)
  const titles = drawing.titlesWide(rows)
  const high = HEAD + rows.length * ROW
  return {
    title: topicOf(tree, tree.centre).title,
    bounds: { x: -MARGIN, y: -MARGIN, width: titles + wide + WORDS_WIDE + 2 * MARGIN, height: high + 2 * MARGIN },
    ground: dressing.wear.plank,
    shapes: [
      ...drawing.ground(rows.length, titles, wide, last),
      ...drawing.waits(tree, rows, titles),
      ...rows.flatMap((row, i) => drawing.row(row, HEAD + i * ROW, titles)),
      ...drawing.now(high, titles),
    ],
  }
}

class Drawing {
  constructor(
    private readonly asked: BarsAsked,
    private readonly scale: Scale,
    private readonly wear: Wear,
    private readonly signals: Signals,
    private readonly hueOf: (id: TopicId) => string,
  ) {}

  private text(text: string, x: number, foot: number, of: Face, ink: string): Shape {
    return { kind: 'text', x, y: foot, width: this.asked.ruler(text, of), text, face: of, ink }
  }

  private faceOf({ level, bar }: BarRow): Face {
    return level === 0 ? face(15, 650, 'display') : face(13, bar?.branch ? 600 : 450)
  }
  private titleOf({ topic }: BarRow): string {
    return [this.asked.numbers.get(topic.id), topic.title.replace(/\s*\n\s*/g, ' ') || 'untitled']
      .filter(Boolean)
      .join(' ')
  }
  private static indent(level: number): number {
    return level * 16
  }

  /** How wide the column of titles is. */
  titlesWide(rows: readonly BarRow[]): number {
    let widest = 0
    for (const row of rows)
      widest = Math.max(widest, Drawing.indent(row.level) + this.asked.ruler(this.titleOf(row), this.faceOf(row)))
    return Math.min(TITLES.most, Math.max(TITLES.least, Math.ceil(widest) + 28))
  }

  /** A text as far as it goes into a width, with an ellipsis where it doesn't. */
  private fitted(text: string, width: number, of: Face): string {
    const { ruler } = this.asked
    if (ruler(text, of) <= width) return text
    const letters = Array.from(new Intl.Segmenter().segment(text), ({ segment }) => segment)
    let [low, high] = [0, letters.length]
    while (low < high) {
      const middle = Math.ceil((low + high) / 2)
      if (ruler(`${letters.slice(0, middle).join('')}…`, of) <= width) low = middle
      else high = middle - 1
    }
    return `${letters.slice(0, low).join('').trimEnd()}…`
  }

  /** Closed days, the names of days along the top, and the lines between rows. */
  ground(rows: number, titles: number, wide: number, last: string): Shape[] {
    const { scale, signals, wear } = this
    const bottom = HEAD + rows * ROW
    const right = titles + wide + WORDS_WIDE
    const { above, below } = scale.marks(0, wide, this.asked.locale)
    const line = (points: readonly number[], opacity = 1): Shape => ({
      ...{ kind: 'path', d: linePath(points), stroke: signals.hairline, width: 1, opacity },
    })
    // A name gives way to the next where it has no room.
    const named = (
      marks: readonly { readonly x: number; readonly text: string }[],
      of: Face,
      foot: number,
      ink: string,
    ) =>
      marks.flatMap(({ x, text }, i): Shape[] => {
        const room = (marks[i + 1]?.x ?? wide + WORDS_WIDE) - Math.max(0, x)
        return this.asked.ruler(text, of) + 6 > room
          ? []
          : [this.text(text, titles + Math.max(0, x) + 5, foot, of, ink)]
      })
    return [
      ...(scale.perDay < 5 ? [] : closedBetween(this.asked.plan, scale, scale.first, last)).map((one): Shape => ({
        kind: 'path',
        d: rectPath({ x: titles + one.x, y: HEAD, width: one.width, height: rows * ROW }),
        fill: mix(wear.plank, signals.porch, 0.08),
      })),
      ...above.map(({ x }) => line([titles + Math.max(0, x), 0, titles + Math.max(0, x), 24])),
      ...below.filter(({ x }) => x >= 0).map(({ x }) => line([titles + x, 24, titles + x, HEAD])),
      ...named(above, face(12.5, 600, 'display'), 16.5, wear.ink),
      ...named(
        below.filter(({ x }) => x >= 0),
        face(11, 450),
        39,
        signals.quiet,
      ),
      line([0, HEAD, right, HEAD]),
      line([titles, 0, titles, bottom]),
      ...Array.from({ length: rows }, (_, i) => line([0, HEAD + (i + 1) * ROW, right, HEAD + (i + 1) * ROW], 0.55)),
    ]
  }

  waits(tree: Tree, rows: readonly BarRow[], titles: number): Shape[] {
    const { wear, signals } = this
    const lanes = new Map(
      rows.flatMap(({ topic, bar }, i) =>
        bar ? [[topic.id, { bar: { ...bar, x: bar.x + titles }, y: HEAD + i * ROW + ROW / 2 }] as const] : [],
      ),
    )
    return waitingIn(tree, this.asked.plan).flatMap(({ by, on, kind, broken, drives }): Shape[] => {
      const [from, to] = [lanes.get(on), lanes.get(by)]
      if (!from || !to) return []
      return [
        {
          kind: 'path',
          d: waitPath(kind, from, to, ROW),
          stroke: broken ? signals.clay : drives ? wear.ink : signals.quiet,
          width: drives ? 2.2 : 1.2,
          ...(broken ? { dash: [2, 4] } : {}),
        },
      ]
    })
  }

  row(row: BarRow, top: number, titles: number): Shape[] {
    const { topic, level, bar } = row
    const hue = this.hueOf(topic.id)
    const of = this.faceOf(row)
    const left = Drawing.indent(level)
    const words = this.fitted(this.titleOf(row), titles - left - 18, of)
    const title: Shape[] = [
      { kind: 'path', d: rectPath({ x: left, y: top + 5, width: 3, height: 22 }), fill: hue },
      this.text(words, left + 9, top + 20.5, of, this.wear.ink),
    ]
    if (!bar) return title
    return [...title, ...(bar.branch ? this.span(bar, hue, top, titles) : this.task(row, bar, hue, top, titles))]
  }

  /** A branch: a bracket over the days of what is below it. */
  private span({ x, width, branch }: Bar, hue: string, top: number, titles: number): Shape[] {
    const [from, to] = [titles + x + 1, titles + x + width - 1]
    const thick = branch!.critical ? 4 : 2
    return [
      {
        kind: 'path',
        d: linePath([from, top + 21, from, top + 13, to, top + 13, to, top + 21]),
        stroke: hue,
        width: 2,
      },
      ...(thick > 2
        ? [{ kind: 'path', d: linePath([from - 1, top + 14, to + 1, top + 14]), stroke: hue, width: thick } as const]
        : []),
    ]
  }

  private task({ topic }: BarRow, bar: Bar, hue: string, top: number, titles: number): Shape[] {
    const { signals, wear } = this
    const planned = bar.planned!
    const x = titles + bar.x
    const made: Shape[] = []
    if (bar.agreed)
      made.push({
        kind: 'path',
        d: linePath([titles + bar.agreed.x, top + 5.5, titles + bar.agreed.x + bar.agreed.width, top + 5.5]),
        ...{ stroke: signals.quiet, width: 5, dash: [3, 2], opacity: 0.75 },
      })
    if (bar.float > 0) {
      const [from, to] = [x + bar.width, x + bar.width + bar.float]
      made.push(
        {
          kind: 'path',
          d: linePath([from, top + 26, to, top + 26]),
          stroke: signals.quiet,
          width: 2,
          dash: [2, 3],
          opacity: 0.7,
        },
        { kind: 'path', d: linePath([to, top + 19, to, top + 27]), stroke: signals.quiet, width: 2 },
      )
    }
    const sill = (from: number, to: number): Shape[] =>
      planned.critical
        ? [29, 32].map((down): Shape => ({
            ...{ kind: 'path', d: linePath([from, top + down, to, top + down]), stroke: wear.ink, width: 1.6 },
          }))
        : []
    let end = x + bar.width
    if (planned.milestone) {
      const at = x + (planned.because.kind === 'waits' ? this.scale.perDay : 0)
      made.push({ kind: 'path', d: gable(at, top + 5), fill: hue }, ...sill(at - 9, at + 9))
      end = at + 9
    } else {
      const box = { x, y: top + 6, width: bar.width, height: 20 }
      const inside = { x: x + 4, y: top + 7, width: Math.max(0, bar.width - 5), height: 18 }
      const done = planned.state === 'done' ? 100 : (topic.done ?? 0)
      made.push(
        {
          kind: 'path',
          d: rectPath(box),
          ...{ fill: planned.state === 'ready' ? mix(wear.plank, hue, 0.12) : wear.plank, stroke: hue, width: 1 },
          // A day that is assumed: nobody said how long it takes.
          ...(planned.assumed ? { dash: [3, 2] } : {}),
        },
        ...(done > 0
          ? [
              {
                kind: 'path',
                d: rectPath({ ...inside, width: (inside.width * done) / 100 }),
                fill: mix(wear.plank, hue, planned.state === 'done' ? 0.28 : 0.42),
              } as const,
            ]
          : []),
        { kind: 'path', d: rectPath({ ...box, width: Math.min(4, bar.width) }), fill: hue },
        ...sill(x, x + bar.width),
      )
    }
    if (bar.due !== null) {
      const ink = planned.late ? signals.clay : signals.quiet
      const due = titles + bar.due
      made.push(
        { kind: 'path', d: linePath([due, top + 3, due, top + 29]), stroke: ink, width: 2 },
        {
          kind: 'path',
          d: polygonPath([
            [due, top + 3],
            [due + 8, top + 3],
            [due, top + 11],
          ]),
          fill: ink,
        },
      )
    }
    return [...made, ...this.behind(topic, bar, Math.max(end, bar.due === null ? 0 : titles + bar.due) + 14, top)]
  }

  /** What stands after a bar: who is on it, how late it is, how it stands to what was agreed, whether it may slip. */
  private behind(topic: Topic, { planned, agreed }: Bar, x: number, top: number): Shape[] {
    const { signals, wear } = this
    const bold = face(11.5, 650)
    const slip = agreed?.slip ?? 0
    const said: readonly (readonly [string, string])[] = [
      [topic.people.map(id => initialsOf(this.asked.nameOf(id) || 'Somebody')).join(' '), wear.ink],
      [planned!.late ? `${planned!.late} d late` : '', signals.clay],
      [slip ? `${slip > 0 ? '+' : '−'}${Math.abs(slip)} d` : '', slip > 0 ? signals.clay : signals.fern],
      [planned!.critical && planned!.state !== 'done' ? 'must not slip' : '', wear.ink],
    ]
    let at = x
    return said.flatMap(([text, ink]): Shape[] => {
      if (text === '') return []
      const shape = this.text(text, at, top + 20, bold, ink)
      at += this.asked.ruler(text, bold) + 8
      // On the brackets that run there letters must still be read.
      return [{ ...shape, halo: wear.plank } as Shape]
    })
  }

  /** The day up to which the work is known, over everything. */
  now(bottom: number, titles: number): Shape[] {
    const { signals, scale } = this
    const { status } = this.asked.plan
    const x = titles + scale.x(status)
    if (x < titles) return []
    const word = status === this.asked.today ? 'today' : 'status'
    const of = face(11, 650)
    const wide = this.asked.ruler(word, of) + 12
    return [
      { kind: 'path', d: linePath([x, HEAD, x, bottom]), stroke: signals.sun, width: 2 },
      { kind: 'path', d: rectPath({ x: x - wide / 2, y: HEAD - 17, width: wide, height: 17 }), fill: signals.sun },
      this.text(word, x - wide / 2 + 6, HEAD - 4.5, of, signals.onSun),
    ]
  }
}

/** A milestone: what is under roof from that day on. `x` is its middle. */
const gable = (x: number, y: number): string =>
  polygonPath(
    (
      [
        [0.5, 0],
        [1, 0.42],
        [0.84, 0.42],
        [0.84, 1],
        [0.16, 1],
        [0.16, 0.42],
        [0, 0.42],
      ] as const
    ).map(([a, b]) => [x - 9 + a * 18, y + b * 21] as const),
  )
