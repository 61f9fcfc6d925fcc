import { Decimal } from 'decimal.js'
import { addDays, daysBetween } from '../schedule/days'
import type { WorkingCalendar } from '../schedule/working-calendar'
import type { TopicId } from '../tree/topic'
import type { Expression, Gathering, List, Operator, Place, Property } from './formula'
import { DAYS, HOURS, PLAIN, type Unit, unitPer, unitPower, unitTimes } from './units'
import { amount, bare, type Cell, Exact, type Fault, Faulty, type Span, type Value } from './values'

/** What a formula finds around it. Nothing stands as null; what is faulty is thrown as Faulty. */
export interface Surroundings {
  /** The figure that the formula is, for the faults that begin in it. */
  readonly at: Cell
  /** The present day, ISO 8601. */
  readonly today: string
  calendar(): WorkingCalendar
  measure(topic: TopicId, id: string): Value | null
  value(id: string): Value | null
  unitOf(kind: 'measure' | 'value', id: string): Unit
  property(topic: TopicId, name: Property): Value | null
  /** The topic at a place; throws where it isn't there any more. */
  topicAt(from: TopicId, place: Place): TopicId
  /** Values of a list, without those that are nothing. */
  list(list: List, topic: TopicId): Gathered
}

/** Values of several topics, put together. */
export interface Gathered {
  readonly count: number
  /** Null where none is an amount. */
  sum(): Value | null
  /** In no order that means anything. */
  all(): readonly Value[]
}

/** Powers beyond this are no figure of anything; decimals would still reckon on with them for minutes. */
const MOST_POWER = 400
/** A number on the way has at most so many digits before the point. */
const MOST_ON_THE_WAY = 50

/** Days that are added at most, and working days: ten thousand years, four hundred. */
const MOST_DAYS = 4_000_000
const MOST_STEPS = 100_000

type Cause<F = Fault> = F extends Fault ? Omit<F, 'at' | 'span'> : never

type Amount = Extract<Value, { kind: 'amount' }>

/**
 * What a formula comes to for a topic (null for that of a named value); null where it's nothing. Throws Faulty. Sums, differences and
 * products of figures are exact; quotients have 60 digits. Nothing counts as zero in + and −, × and ÷; the functions of many values pass
 * over it.
 */
export const evaluate = (expression: Expression, topic: TopicId | null, around: Surroundings): Value | null =>
  new Reckoning(around).value(expression, topic)

/** One formula being worked out. A class, since a formula has many parts and each would make its own functions anew. */
class Reckoning {
  constructor(private readonly around: Surroundings) {}

  value(it: Expression, topic: TopicId | null): Value | null {
    const { around } = this
    switch (it.kind) {
      case 'number':
        return amount(it.n, it.unit, it.bare)
      case 'day':
        return { kind: 'day', day: it.day }
      case 'today':
        return { kind: 'day', day: around.today }
      case 'truth':
        return { kind: 'truth', is: it.is }
      case 'measure':
        return around.measure(this.own(topic, it), it.id)
      case 'value':
        return around.value(it.id)
      case 'property':
        return around.property(this.own(topic, it), it.name)
      case 'at':
        return this.value(it.of, around.topicAt(this.own(topic, it), it.place))
      case 'minus': {
        const { n, unit, bare: isBare } = this.number(it.of, topic)
        return amount(n.negated(), unit, isBare)
      }
      case 'percent': {
        const { n, unit, bare: isBare } = this.number(it.of, topic)
        return amount(n.div(100), unit, isBare)
      }
      case 'not':
        return { kind: 'truth', is: !this.truth(it.of, topic) }
      case 'binary':
        return this.binary(it, topic)
      case 'call':
        return this.call(it, topic)
      case 'list':
        return this.fail(it, { kind: 'sense', message: 'Say what is to be made of these.' })
    }
  }

  // — What is asked of a part

  private fail(it: { readonly span: Span }, cause: Cause): never {
    throw new Faulty({ ...cause, at: this.around.at, span: it.span } as Fault)
  }
  private own(topic: TopicId | null, it: Expression): TopicId {
    return (
      topic ?? this.fail(it, { kind: 'sense', message: 'A named value belongs to no topic: say which one’s is meant.' })
    )
  }
  private whole(it: Expression, topic: TopicId | null): Value {
    return this.value(it, topic) ?? zeroOf(it, this.around)
  }
  private number(it: Expression, topic: TopicId | null): Amount {
    const value = this.whole(it, topic)
    return value.kind === 'amount' ? value : this.fail(it, { kind: 'type', wanted: 'number', found: value.kind })
  }
  private truth(it: Expression, topic: TopicId | null): boolean {
    const value = this.value(it, topic)
    if (value === null) return false
    return value.kind === 'truth' ? value.is : this.fail(it, { kind: 'type', wanted: 'truth', found: value.kind })
  }
  private day(it: Expression, topic: TopicId | null): string | null {
    const value = this.value(it, topic)
    if (value === null) return null
    return value.kind === 'day' ? value.day : this.fail(it, { kind: 'type', wanted: 'day', found: value.kind })
  }
  private checked(it: Expression, n: Exact, unit: Unit, isBare: boolean): Amount {
    if (!n.isFinite() || n.e >= MOST_ON_THE_WAY) this.fail(it, { kind: 'large' })
    return { kind: 'amount', n, unit, bare: isBare }
  }
  /** The unit of two amounts that are to be like; a bare number takes the other's. */
  private shared(it: Expression, a: Amount, b: Amount, what: 'add' | 'compare'): Unit {
    if (a.unit === b.unit || b.bare) return a.unit
    if (a.bare) return b.unit
    return this.fail(it, { kind: 'unit', a: a.unit, b: b.unit, what })
  }

  // — Signs

  private binary(it: Binary, topic: TopicId | null): Value {
    switch (it.operator) {
      case 'and':
        return { kind: 'truth', is: this.truth(it.a, topic) && this.truth(it.b, topic) }
      case 'or':
        return { kind: 'truth', is: this.truth(it.a, topic) || this.truth(it.b, topic) }
      case '+':
        return this.added(it, this.whole(it.a, topic), this.whole(it.b, topic), 1)
      case '-':
        return this.added(it, this.whole(it.a, topic), this.whole(it.b, topic), -1)
      case '*': {
        const [a, b] = [this.number(it.a, topic), this.number(it.b, topic)]
        return this.checked(it, a.n.times(b.n), unitTimes(a.unit, b.unit), a.bare && b.bare)
      }
      case '/': {
        const [a, b] = [this.number(it.a, topic), this.number(it.b, topic)]
        if (b.n.isZero()) this.fail(it.b, { kind: 'zero' })
        return this.checked(it, a.n.div(b.n), unitPer(a.unit, b.unit), a.bare && b.bare)
      }
      case '^':
        return this.raised(it, topic)
      default:
        return { kind: 'truth', is: this.compared(it, topic) }
    }
  }

  private added(it: Binary, a: Value, b: Value, sign: 1 | -1): Value {
    if (a.kind === 'amount' && b.kind === 'amount') {
      const unit = this.shared(it, a, b, 'add')
      return this.checked(it, sign === 1 ? a.n.plus(b.n) : a.n.minus(b.n), unit, a.bare && b.bare)
    }
    // Days: a day and a number of days is a day; a day less a day is a number of days.
    if (a.kind === 'day' && b.kind === 'amount') {
      if (b.unit !== DAYS && !b.bare) this.fail(it, { kind: 'unit', a: DAYS, b: b.unit, what: 'add' })
      return { kind: 'day', day: this.shifted(it, a.day, b.n, sign) }
    }
    if (a.kind === 'day' && b.kind === 'day' && sign === -1) return amount(new Exact(daysBetween(b.day, a.day)), DAYS)
    if (b.kind === 'day' && a.kind === 'amount' && sign === 1) return this.added(it, b, a, 1)
    const wrong = a.kind !== 'amount' ? it.a : it.b
    return this.fail(wrong, { kind: 'type', wanted: 'number', found: a.kind !== 'amount' ? a.kind : b.kind })
  }
  private shifted(it: Expression, from: string, by: Exact, sign: 1 | -1): string {
    const days = by.truncated().toNumber() * sign
    if (Math.abs(days) > MOST_DAYS) this.fail(it, { kind: 'large' })
    try {
      return addDays(from, days)
    } catch {
      return this.fail(it, { kind: 'large' })
    }
  }

  private raised(it: Binary, topic: TopicId | null): Value {
    const [a, b] = [this.number(it.a, topic), this.number(it.b, topic)]
    if (b.unit !== PLAIN) this.fail(it.b, { kind: 'sense', message: 'An exponent has no unit.' })
    if (b.n.abs().gt(MOST_POWER)) this.fail(it.b, { kind: 'large' })
    if (a.n.isZero() && b.n.isNegative()) this.fail(it.a, { kind: 'zero' })
    if (a.unit !== PLAIN && !(b.n.isInteger() && b.n.abs().lte(9)))
      this.fail(it.b, { kind: 'sense', message: 'What has a unit is raised to whole powers to 9 only.' })
    const n = a.n.pow(b.n)
    if (n.isNaN()) this.fail(it.a, { kind: 'sense', message: 'A number below zero has no such root.' })
    return this.checked(it, n, a.unit === PLAIN ? PLAIN : unitPower(a.unit, b.n.toNumber()), a.bare)
  }

  private compared(it: Binary, topic: TopicId | null): boolean {
    const { operator } = it
    const [a, b] = [this.value(it.a, topic), this.value(it.b, topic)]
    if (a?.kind === 'day' || b?.kind === 'day') {
      // What has no day is neither before nor after one.
      if (a === null || b === null) return operator === '<>'
      if (a.kind !== 'day') return this.fail(it.a, { kind: 'type', wanted: 'day', found: a.kind })
      if (b.kind !== 'day') return this.fail(it.b, { kind: 'type', wanted: 'day', found: b.kind })
      return isSo(operator, a.day < b.day ? -1 : a.day > b.day ? 1 : 0)
    }
    if (a?.kind === 'truth' || b?.kind === 'truth') {
      if (operator !== '=' && operator !== '<>') this.fail(it, { kind: 'type', wanted: 'number', found: 'truth' })
      return isSo(operator, this.truth(it.a, topic) === this.truth(it.b, topic) ? 0 : 1)
    }
    const [x, y] = [(a ?? zeroOf(it.a, this.around)) as Amount, (b ?? zeroOf(it.b, this.around)) as Amount]
    this.shared(it, x, y, 'compare')
    return isSo(operator, x.n.comparedTo(y.n))
  }

  // — Functions

  private call(it: Call, topic: TopicId | null): Value | null {
    const { name, args } = it
    const [first, second, third] = args as readonly [Expression, Expression, Expression]
    switch (name) {
      case 'if':
        return this.value(this.truth(first, topic) ? second : third, topic)
      case 'abs': {
        const { n, unit, bare: isBare } = this.number(first, topic)
        return amount(n.abs(), unit, isBare)
      }
      case 'round':
      case 'round up':
      case 'round down': {
        const { n, unit, bare: isBare } = this.number(first, topic)
        const places = args.length > 1 ? this.number(second, topic).n : ZERO
        if (!places.isInteger() || places.abs().gt(15))
          this.fail(second, { kind: 'sense', message: 'Places are a whole number from -15 to 15.' })
        const by = new Exact(10).pow(places)
        return amount(n.times(by).toDecimalPlaces(0, MODES[name]).div(by), unit, isBare)
      }
      case 'days': {
        const [a, b] = [this.day(first, topic), this.day(second, topic)]
        return a === null || b === null ? null : amount(new Exact(daysBetween(a, b)), DAYS)
      }
      case 'workdays': {
        const [a, b] = [this.day(first, topic), this.day(second, topic)]
        if (a === null || b === null) return null
        return amount(new Exact(this.around.calendar().workingDaysBetween(a, b)), DAYS)
      }
      case 'workday': {
        const from = this.day(first, topic)
        if (from === null) return null
        const { n, unit, bare: isBare } = this.number(second, topic)
        if (unit !== DAYS && !isBare) this.fail(second, { kind: 'unit', a: DAYS, b: unit, what: 'add' })
        const steps = n.truncated().toNumber()
        if (Math.abs(steps) > MOST_STEPS) this.fail(second, { kind: 'large' })
        return { kind: 'day', day: this.around.calendar().addWorkingDays(from, steps) }
      }
      default:
        return this.gathered(it, name, topic)
    }
  }

  private gathered(it: Call, name: Gathering, topic: TopicId | null): Value | null {
    const single: { readonly value: Value; readonly arg: Expression }[] = []
    const lists: { readonly many: Gathered; readonly arg: Expression }[] = []
    let count = 0
    for (const arg of it.args)
      if (arg.kind === 'list') {
        const many = this.around.list(arg, this.own(topic, arg))
        lists.push({ many, arg })
        count += many.count
      } else {
        const value = this.value(arg, topic)
        if (value === null) continue
        single.push({ value, arg })
        count++
      }
    if (name === 'count') return bare(count)
    if (count === 0) return name === 'sum' ? bare(0) : null
    if (name === 'sum' || name === 'mean') {
      let total: Amount | null = null
      for (const { many, arg } of lists) if (many.count > 0) single.push({ value: many.sum()!, arg })
      for (const { value, arg } of single) {
        if (value.kind !== 'amount') return this.fail(arg, { kind: 'type', wanted: 'number', found: value.kind })
        total =
          total === null
            ? value
            : this.checked(it, total.n.plus(value.n), this.shared(it, total, value, 'add'), total.bare && value.bare)
      }
      return name === 'sum' ? total : amount(total!.n.div(count), total!.unit, total!.bare)
    }
    const all = single.map(({ value }) => value)
    for (const { many } of lists) for (const value of many.all()) all.push(value)
    if (all.every(value => value.kind === 'day')) return ranked(name, all.map(({ day }) => day).sort())
    let like: Amount | null = null
    for (const value of all) {
      if (value.kind !== 'amount')
        return this.fail(it, { kind: 'type', wanted: all[0]!.kind === 'day' ? 'day' : 'number', found: value.kind })
      if (like) this.shared(it, like, value, 'compare')
      if (like === null || like.bare) like = value
    }
    return amount(rankedNumber(name, all as Amount[]), like!.unit, like!.bare)
  }
}

type Binary = Extract<Expression, { kind: 'binary' }>
type Call = Extract<Expression, { kind: 'call' }>
const ZERO = new Exact(0)
const MODES = { round: Decimal.ROUND_HALF_UP, 'round up': Decimal.ROUND_UP, 'round down': Decimal.ROUND_DOWN }

function isSo(operator: Operator, order: number): boolean {
  switch (operator) {
    case '=':
      return order === 0
    case '<>':
      return order !== 0
    case '<':
      return order < 0
    case '<=':
      return order <= 0
    case '>':
      return order > 0
    default:
      return order >= 0
  }
}

/** The least, the most or the middle one of numbers; of an even count the mean of the two in the middle. */
function rankedNumber(name: Gathering, amounts: readonly Amount[]): Exact {
  if (name !== 'median') {
    const sign = name === 'min' ? -1 : 1
    return amounts.reduce((best, { n }) => (n.comparedTo(best) === sign ? n : best), amounts[0]!.n)
  }
  const numbers = amounts.map(({ n }) => n).sort((a, b) => a.comparedTo(b))
  const middle = numbers.length >> 1
  return numbers.length % 2 === 1 ? numbers[middle]! : numbers[middle - 1]!.plus(numbers[middle]!).div(2)
}

/** The first, the last or the middle one of sorted days; of two in the middle the earlier one. */
function ranked(name: Gathering, days: readonly string[]): Value {
  return { kind: 'day', day: name === 'min' ? days[0]! : name === 'max' ? days.at(-1)! : days[(days.length - 1) >> 1]! }
}

/** What stands for nothing: zero in the unit that there would be, so that hours × no rate are no hours. */
function zeroOf(expression: Expression, around: Surroundings): Value {
  switch (expression.kind) {
    case 'measure':
    case 'value':
      return amount(new Exact(0), around.unitOf(expression.kind, expression.id))
    case 'property':
      return amount(new Exact(0), expression.name === 'work' ? HOURS : expression.name === 'done' ? PLAIN : DAYS)
    case 'at':
    case 'minus':
    case 'percent':
      return zeroOf(expression.of, around)
    default:
      return bare(0)
  }
}
