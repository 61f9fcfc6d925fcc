import { Decimal } from 'decimal.js'
import { addDays, daysBetween } from '../schedule/days'
import type { WorkingCalendar } from '../schedule/working-calendar'
import type { TopicId } from '../tree/topic'
import { type Expression, GATHERINGS, type Gathering, type List, type Operator, type Place, type Property } from './formula'
import { DAYS, HOURS, PLAIN, type Unit, unitPer, unitPower, unitTimes } from './units'
import { amount, bare, type Cell, Exact, type Fault, Faulty, type Value } from './values'

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

type Cause<F = Fault> = F extends Fault ? Omit<F, 'at' | 'span'> : never

/**
 * What a formula comes to for a topic (null for that of a named value); null where it's nothing. Throws Faulty. Sums, differences and
 * products of figures are exact; quotients have 60 digits. Nothing counts as zero in + and −, × and ÷; the functions of many values pass
 * over it.
 */
export function evaluate(expression: Expression, topic: TopicId | null, around: Surroundings): Value | null {
  const fail = (cause: Cause, span: Expression['span'] = expression.span): never => {
    throw new Faulty({ ...cause, at: around.at, span } as Fault)
  }
  const own = (): TopicId => topic ?? fail({ kind: 'sense', message: 'A named value belongs to no topic: say which one’s is meant.' })
  const whole = (it: Expression): Value => evaluate(it, topic, around) ?? zeroOf(it, around)
  const number = (it: Expression): Extract<Value, { kind: 'amount' }> => {
    const value = whole(it)
    return value.kind === 'amount' ? value : fail({ kind: 'type', wanted: 'number', found: value.kind }, it.span)
  }
  const truth = (it: Expression): boolean => {
    const value = evaluate(it, topic, around)
    if (value === null) return false
    return value.kind === 'truth' ? value.is : fail({ kind: 'type', wanted: 'truth', found: value.kind }, it.span)
  }
  const day = (it: Expression): string | null => {
    const value = evaluate(it, topic, around)
    if (value === null) return null
    return value.kind === 'day' ? value.day : fail({ kind: 'type', wanted: 'day', found: value.kind }, it.span)
  }
  const checked = (n: Exact, unit: Unit = PLAIN, isBare = false): Value =>
    n.isFinite() && n.e < MOST_ON_THE_WAY ? amount(n, unit, isBare) : fail({ kind: 'large' })

  switch (expression.kind) {
    case 'number':
      return amount(expression.n, expression.unit, expression.bare)
    case 'day':
      return { kind: 'day', day: expression.day }
    case 'today':
      return { kind: 'day', day: around.today }
    case 'truth':
      return { kind: 'truth', is: expression.is }
    case 'measure':
      return around.measure(own(), expression.id)
    case 'value':
      return around.value(expression.id)
    case 'property':
      return around.property(own(), expression.name)
    case 'at':
      return evaluate(expression.of, around.topicAt(own(), expression.place), around)
    case 'minus': {
      const { n, unit, bare: isBare } = number(expression.of)
      return amount(n.negated(), unit, isBare)
    }
    case 'percent': {
      const { n, unit, bare: isBare } = number(expression.of)
      return amount(n.div(100), unit, isBare)
    }
    case 'not':
      return { kind: 'truth', is: !truth(expression.of) }
    case 'binary':
      return binary(expression.operator, expression.a, expression.b)
    case 'call':
      return call()
    case 'list':
      return fail({ kind: 'sense', message: 'Say what is to be made of these.' })
  }

  function binary(operator: Operator, left: Expression, right: Expression): Value | null {
    switch (operator) {
      case 'and':
        return { kind: 'truth', is: truth(left) && truth(right) }
      case 'or':
        return { kind: 'truth', is: truth(left) || truth(right) }
      case '+':
      case '-':
        return added(left, right, operator === '+' ? 1 : -1)
      case '*': {
        const [a, b] = [number(left), number(right)]
        return checked(a.n.times(b.n), unitTimes(a.unit, b.unit), a.bare && b.bare)
      }
      case '/': {
        const [a, b] = [number(left), number(right)]
        if (b.n.isZero()) return fail({ kind: 'zero' }, right.span)
        return checked(a.n.div(b.n), unitPer(a.unit, b.unit), a.bare && b.bare)
      }
      case '^':
        return raised(left, right)
      default:
        return { kind: 'truth', is: compared(operator, left, right) }
    }
  }

  function added(left: Expression, right: Expression, sign: 1 | -1): Value {
    const [a, b] = [whole(left), whole(right)]
    // Days: a day and a number of days is a day; a day less a day is a number of days.
    if (a.kind === 'day' && b.kind === 'amount') {
      if (b.unit !== DAYS && !b.bare) return fail({ kind: 'unit', a: DAYS, b: b.unit, what: 'add' })
      return { kind: 'day', day: shifted(a.day, b.n, sign) }
    }
    if (a.kind === 'day' && b.kind === 'day' && sign === -1)
      return amount(new Exact(daysBetween(b.day, a.day)), DAYS)
    if (b.kind === 'day' && a.kind === 'amount' && sign === 1) return added(right, left, 1)
    if (a.kind !== 'amount') return fail({ kind: 'type', wanted: 'number', found: a.kind }, left.span)
    if (b.kind !== 'amount') return fail({ kind: 'type', wanted: 'number', found: b.kind }, right.span)
    const unit = shared(a, b, 'add')
    return checked(sign === 1 ? a.n.plus(b.n) : a.n.minus(b.n), unit, a.bare && b.bare)
  }
  function shifted(from: string, by: Exact, sign: 1 | -1): string {
    const days = by.truncated().toNumber() * sign
    if (Math.abs(days) > 4_000_000) return fail({ kind: 'large' })
    try {
      return addDays(from, days)
    } catch {
      return fail({ kind: 'large' })
    }
  }

  /** The unit of two amounts that are to be like; a bare number takes the other's. */
  function shared(
    a: Extract<Value, { kind: 'amount' }>,
    b: Extract<Value, { kind: 'amount' }>,
    what: 'add' | 'compare',
  ): Unit {
    if (a.unit === b.unit || b.bare) return a.unit
    if (a.bare) return b.unit
    return fail({ kind: 'unit', a: a.unit, b: b.unit, what })
  }

  function raised(left: Expression, right: Expression): Value {
    const [a, b] = [number(left), number(right)]
    if (b.unit !== PLAIN) return fail({ kind: 'sense', message: 'An exponent has no unit.' }, right.span)
    if (b.n.abs().gt(MOST_POWER)) return fail({ kind: 'large' }, right.span)
    if (a.n.isZero() && b.n.isNegative()) return fail({ kind: 'zero' }, left.span)
    if (a.unit !== PLAIN && !(b.n.isInteger() && b.n.abs().lte(9)))
      return fail({ kind: 'sense', message: 'What has a unit is raised to whole powers to 9 only.' }, right.span)
    const n = a.n.pow(b.n)
    if (n.isNaN()) return fail({ kind: 'sense', message: 'A number below zero has no such root.' }, left.span)
    return checked(n, a.unit === PLAIN ? PLAIN : unitPower(a.unit, b.n.toNumber()), a.bare)
  }

  function compared(operator: Operator, left: Expression, right: Expression): boolean {
    const [a, b] = [evaluate(left, topic, around), evaluate(right, topic, around)]
    let order: number
    if (a?.kind === 'day' || b?.kind === 'day') {
      // What has no day is neither before nor after one.
      if (a === null || b === null) return operator === '<>'
      if (a.kind !== 'day') return fail({ kind: 'type', wanted: 'day', found: a.kind }, left.span)
      if (b.kind !== 'day') return fail({ kind: 'type', wanted: 'day', found: b.kind }, right.span)
      order = a.day < b.day ? -1 : a.day > b.day ? 1 : 0
    } else if (a?.kind === 'truth' || b?.kind === 'truth') {
      if (operator !== '=' && operator !== '<>') return fail({ kind: 'type', wanted: 'number', found: 'truth' })
      order = truth(left) === truth(right) ? 0 : 1
    } else {
      const [x, y] = [(a ?? zeroOf(left, around)) as Extract<Value, { kind: 'amount' }>, (b ?? zeroOf(right, around)) as typeof x]
      shared(x, y, 'compare')
      order = x.n.comparedTo(y.n)
    }
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

  function call(): Value | null {
    const { name, args } = expression as Extract<Expression, { kind: 'call' }>
    if ((GATHERINGS as readonly string[]).includes(name)) return gathered(name as Gathering, args)
    const [first, second, third] = args as [Expression, Expression, Expression]
    switch (name) {
      case 'if':
        return evaluate(truth(first) ? second : third, topic, around)
      case 'abs': {
        const { n, unit, bare: isBare } = number(first)
        return amount(n.abs(), unit, isBare)
      }
      case 'round':
      case 'round up':
      case 'round down': {
        const { n, unit, bare: isBare } = number(first)
        const places = args.length > 1 ? number(second).n : new Exact(0)
        if (!places.isInteger() || places.abs().gt(15))
          return fail({ kind: 'sense', message: 'Places are a whole number from -15 to 15.' }, second.span)
        const mode = { round: Decimal.ROUND_HALF_UP, 'round up': Decimal.ROUND_UP, 'round down': Decimal.ROUND_DOWN }[name]
        const by = new Exact(10).pow(places)
        return amount(n.times(by).toDecimalPlaces(0, mode).div(by), unit, isBare)
      }
      case 'days': {
        const [a, b] = [day(first), day(second)]
        return a === null || b === null ? null : amount(new Exact(daysBetween(a, b)), DAYS)
      }
      case 'workdays': {
        const [a, b] = [day(first), day(second)]
        if (a === null || b === null) return null
        return amount(new Exact(around.calendar().workingDaysBetween(a, b)), DAYS)
      }
      default: {
        const from = day(first)
        if (from === null) return null
        const { n, unit, bare: isBare } = number(second)
        if (unit !== DAYS && !isBare) return fail({ kind: 'unit', a: DAYS, b: unit, what: 'add' }, second.span)
        const steps = n.truncated().toNumber()
        if (Math.abs(steps) > 100_000) return fail({ kind: 'large' }, second.span)
        return { kind: 'day', day: around.calendar().addWorkingDays(from, steps) }
      }
    }
  }

  function gathered(name: Gathering, args: readonly Expression[]): Value | null {
    const single: { readonly value: Value; readonly span: Expression['span'] }[] = []
    const lists: { readonly it: Gathered; readonly span: Expression['span'] }[] = []
    for (const arg of args)
      if (arg.kind === 'list') lists.push({ it: around.list(arg, own()), span: arg.span })
      else {
        const value = evaluate(arg, topic, around)
        if (value !== null) single.push({ value, span: arg.span })
      }
    const count = single.length + lists.reduce((all, { it }) => all + it.count, 0)
    if (name === 'count') return bare(count)
    if (count === 0) return name === 'sum' ? bare(0) : null
    if (name === 'sum' || name === 'mean') {
      let total: Extract<Value, { kind: 'amount' }> | null = null
      for (const { value, span } of [...single, ...lists.flatMap(({ it, span }) => ({ value: it.sum() ?? bare(0), span }))]) {
        if (value.kind !== 'amount') return fail({ kind: 'type', wanted: 'number', found: value.kind }, span)
        total =
          total === null
            ? value
            : (checked(total.n.plus(value.n), shared(total, value, 'add'), total.bare && value.bare) as typeof value)
      }
      return name === 'sum' ? total : amount(total!.n.div(count), total!.unit, total!.bare)
    }
    const all = [...single.map(({ value }) => value), ...lists.flatMap(({ it }) => it.all())]
    const [head] = all
    if (all.every(value => value.kind === 'day')) {
      const days = all.map(({ day: one }) => one).sort()
      if (name === 'median' && days.length % 2 === 0 && days[days.length / 2] !== days[days.length / 2 - 1])
        return { kind: 'day', day: days[days.length / 2 - 1]! }
      return { kind: 'day', day: name === 'min' ? days[0]! : name === 'max' ? days.at(-1)! : days[(days.length - 1) >> 1]! }
    }
    let unit: Extract<Value, { kind: 'amount' }> | null = null
    for (const value of all) {
      if (value.kind !== 'amount') return fail({ kind: 'type', wanted: head!.kind === 'day' ? 'day' : 'number', found: value.kind })
      if (unit) shared(unit, value, 'compare')
      if (unit === null || unit.bare) unit = value
    }
    const numbers = (all as Extract<Value, { kind: 'amount' }>[]).map(({ n }) => n).sort((a, b) => a.comparedTo(b))
    const middle = numbers.length >> 1
    const n =
      name === 'min'
        ? numbers[0]!
        : name === 'max'
          ? numbers.at(-1)!
          : numbers.length % 2 === 1
            ? numbers[middle]!
            : numbers[middle - 1]!.plus(numbers[middle]!).div(2)
    return amount(n, unit!.unit, unit!.bare)
  }
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
