import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { atShare, meanOf, normalBelow, quantilesOf, randomFrom, type Shape, varianceOf } from './estimates'
import { inOrderOfWaiting } from './waiting-order'
import { compile, type Compiled, type NoPlan } from './compiled'

/*
 * How sure the plan's end is: it's run through many times, each with lengths drawn from the estimates (Van Slyke, "Monte Carlo methods and
 * the PERT problem", 1963, from memory). Beside it the classical figure from one path, which is too hopeful where paths meet: there the
 * latest of several counts.
 */

export interface ChancesAsked {
  readonly rounds: number
  readonly seed: number
  readonly shape: Shape
}
export interface Driver {
  readonly topic: TopicId
  /** How often it was on the path that decided the end, 0 to 1. */
  readonly critical: number
  /** Its part in the spread of the end, 0 to 1; 0 where nobody estimated it. */
  readonly share: number
}
export interface Chances {
  readonly rounds: number
  /** The end of each round as a day, and how many rounds ended by then, in order. */
  readonly curve: readonly { readonly day: string; readonly by: number }[]
  /** The days by which 50, 80 and 95 of a hundred rounds had ended. */
  readonly days: { readonly half: string; readonly likely: string; readonly sure: string }
  /** Working days from the plan's first: mean and standard deviation of the rounds. */
  readonly mean: number
  readonly deviation: number
  /** The classical figures, from the path that decides when every task takes its mean. */
  readonly classical: {
    readonly day: string
    readonly mean: number
    readonly deviation: number
    readonly path: readonly TopicId[]
  }
  /** Tasks by their part in the spread, then by how often they decided. */
  readonly drivers: readonly Driver[]
  /** How many tasks were estimated. */
  readonly estimated: number
}

/** Less than this drives nothing. */
const LEAST = 0.005
/** Rounds between two moments at which somebody may cancel. */
const STRETCH = 250

/** The network as numbers, to be run through again and again. */
class Run {
  private readonly order: Int32Array
  /** Where the links of each activity begin; one more for the end. */
  private readonly at: Int32Array
  private readonly from: Int32Array
  /** Whether a link counts from the end of what is waited for, and to the end of who waits. */
  private readonly fromEnd: Uint8Array
  private readonly toEnd: Uint8Array
  private readonly lag: Float64Array
  /** Whether the lag is in days of the calendar. */
  private readonly inDays: Uint8Array
  readonly lengths: Float64Array
  readonly starts: Float64Array
  private readonly least: Float64Array
  private readonly isFixed: Uint8Array
  private readonly isOutside: Uint8Array
  /** The run in which an activity was last told of. */
  private readonly told: Int32Array
  private readonly stack: Int32Array
  private tellings = 0

  constructor(private readonly network: Compiled) {
    const { activities, edges } = network
    const index = new Map(activities.map(({ id }, i) => [id, i]))
    this.order = Int32Array.from(
      inOrderOfWaiting(
        activities.map(({ id }) => id),
        edges,
      ),
      id => index.get(id)!,
    )
    const sorted = [...edges].sort((a, b) => index.get(a.to)! - index.get(b.to)!)
    this.from = Int32Array.from(sorted, edge => index.get(edge.from)!)
    this.fromEnd = Uint8Array.from(sorted, ({ kind }) => Number(kind[0] === 'F'))
    this.toEnd = Uint8Array.from(sorted, ({ kind }) => Number(kind[1] === 'F'))
    this.lag = Float64Array.from(sorted, edge => edge.lag)
    this.inDays = Uint8Array.from(sorted, edge => Number(edge.calendar ?? false))
    this.at = new Int32Array(activities.length + 1)
    for (const edge of sorted) this.at[index.get(edge.to)! + 1]!++
    for (let i = 0; i < activities.length; i++) this.at[i + 1]! += this.at[i]!
    this.lengths = Float64Array.from(activities, one => one.length)
    this.starts = new Float64Array(activities.length)
    this.least = Float64Array.from(activities, one => one.fixed ?? Math.max(0, one.notBefore ?? 0))
    this.isFixed = Uint8Array.from(activities, one => Number(one.fixed !== null))
    this.isOutside = Uint8Array.from(activities, one => Number(one.outside ?? false))
    this.told = new Int32Array(activities.length)
    this.stack = new Int32Array(activities.length)
  }

  /** The earliest start that a link allows; as `pushedTo` has it. */
  private pushed(n: number, to: number): number {
    const from = this.from[n]!
    let point = this.starts[from]!
    if (this.fromEnd[n]) point += this.lengths[from]!
    point = this.inDays[n] ? this.network.clock.later(point, this.lag[n]!) : point + this.lag[n]!
    return this.toEnd[n] ? point - this.lengths[to]! : point
  }

  /** Runs through; returns the end, in working minutes. */
  go(): number {
    const { lengths, starts, order, at, least, isFixed, isOutside } = this
    let finish = 0
    for (let n = 0; n < order.length; n++) {
      const i = order[n]!
      let start = least[i]!
      if (!isFixed[i])
        for (let link = at[i]!; link < at[i + 1]!; link++) {
          const wanted = this.pushed(link, i)
          if (wanted > start) start = wanted
        }
      starts[i] = start
      const end = start + lengths[i]!
      if (end > finish && !isOutside[i]) finish = end
    }
    return finish
  }

  /** Calls back with every activity that decided the end of the last run. */
  decided(finish: number, say: (i: number) => void): void {
    const { lengths, starts, at, from, isFixed, told, stack } = this
    const now = ++this.tellings
    let size = 0
    for (let i = 0; i < lengths.length; i++)
      if (starts[i]! + lengths[i]! === finish) {
        told[i] = now
        stack[size++] = i
      }
    while (size > 0) {
      const i = stack[--size]!
      say(i)
      if (isFixed[i]) continue
      for (let link = at[i]!; link < at[i + 1]!; link++) {
        const before = from[link]!
        if (told[before] === now || this.pushed(link, i) !== starts[i]) continue
        told[before] = now
        stack[size++] = before
      }
    }
  }
}

/**
 * The chances of a plan's end. Between stretches of rounds it yields how many are done, so that whoever runs it may say so or stop.
 * The same seed gives the same chances.
 */
export function* chancesOf(
  tree: Tree,
  today: string,
  { rounds, seed, shape }: ChancesAsked,
): Generator<number, Chances | NoPlan> {
  const network = compile(tree, today)
  if (typeof network === 'string') return network
  const { clock, tasks, timings } = network
  const run = new Run(network)
  const estimated = tasks.flatMap((topic, i) => {
    const { estimate } = topicOf(tree, topic)
    // What is under way or done isn't estimated any more: what is left of it was said.
    return estimate && timings.get(topic)!.state === 'open' ? [{ topic, i, estimate }] : []
  })
  const tables = estimated.map(({ estimate }) => quantilesOf(estimate, shape))

  // The classical figure: every task at its mean, and the path that then decides.
  for (const { i, estimate } of estimated) run.lengths[i] = clock.minutes(meanOf(estimate))
  const expected = run.go()
  const path: TopicId[] = []
  run.decided(expected, i => i < tasks.length && path.push(tasks[i]!))
  const onPath = new Set(path)
  const variance = estimated.reduce((sum, one) => sum + (onPath.has(one.topic) ? varianceOf(one.estimate) : 0), 0)

  const random = randomFrom(seed)
  const ends = new Float64Array(rounds)
  const often = new Float64Array(tasks.length)
  const [sum, square, cross] = [0, 1, 2].map(() => new Float64Array(estimated.length)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ]
  let total = 0
  let squares = 0
  for (let round = 0; round < rounds; round++) {
    for (let n = 0; n < estimated.length; n++)
      run.lengths[estimated[n]!.i] = clock.minutes(atShare(tables[n]!, random()))
    const end = run.go()
    ends[round] = end
    total += end
    squares += end * end
    for (let n = 0; n < estimated.length; n++) {
      const length = run.lengths[estimated[n]!.i]!
      sum[n]! += length
      square[n]! += length * length
      cross[n]! += length * end
    }
    run.decided(end, i => {
      if (i < tasks.length) often[i]!++
    })
    if ((round + 1) % STRETCH === 0) yield round + 1
  }
  ends.sort()

  const spread = (one: number, two: number): number => Math.max(0, two / rounds - (one / rounds) ** 2)
  const ofEnd = spread(total, squares)
  const weights = estimated.map((_, n) => {
    const own = spread(sum[n]!, square[n]!)
    const together = cross[n]! / rounds - (sum[n]! / rounds) * (total / rounds)
    return own === 0 || ofEnd === 0 || together <= 0 ? 0 : together ** 2 / (own * ofEnd)
  })
  const whole = weights.reduce((all, one) => all + one, 0)
  const share = new Map(estimated.map(({ topic }, n) => [topic, whole === 0 ? 0 : weights[n]! / whole]))
  const at = (part: number): string => clock.finishDay(ends[Math.min(rounds - 1, Math.ceil(part * rounds) - 1)]!)
  return {
    rounds,
    curve: curveOf(ends, end => clock.finishDay(end)),
    days: { half: at(0.5), likely: at(0.8), sure: at(0.95) },
    mean: clock.days(total / rounds),
    deviation: clock.days(Math.sqrt(ofEnd)),
    classical: { day: clock.finishDay(expected), mean: clock.days(expected), deviation: Math.sqrt(variance), path },
    drivers: tasks
      .map((topic, i): Driver => ({ topic, critical: often[i]! / rounds, share: share.get(topic) ?? 0 }))
      .filter(({ critical, share: part }) => critical >= LEAST || part >= LEAST)
      .sort((a, b) => b.share - a.share || b.critical - a.critical),
    estimated: estimated.length,
  }
}

/** Ends in order, day by day. */
function curveOf(ends: Float64Array, dayOf: (end: number) => string): Chances['curve'] {
  const curve: { day: string; by: number }[] = []
  for (let i = 0; i < ends.length; i++) {
    if (i + 1 < ends.length && ends[i + 1] === ends[i]) continue
    const day = dayOf(ends[i]!)
    if (curve.at(-1)?.day === day) curve.pop()
    curve.push({ day, by: (i + 1) / ends.length })
  }
  return curve
}

/** The chance that all is done by a day, 0 to 1, as the rounds say. */
export function chanceBy({ curve }: Pick<Chances, 'curve'>, day: string): number {
  let by = 0
  for (const one of curve) {
    if (one.day > day) break
    by = one.by
  }
  return by
}

/** The same as the classical method has it. `days`: working days from the plan's first. */
export const classicalChance = ({ mean, deviation }: Chances['classical'], days: number): number =>
  deviation === 0 ? (days >= mean ? 1 : 0) : normalBelow((days - mean) / deviation)
