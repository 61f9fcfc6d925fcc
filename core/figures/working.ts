import type { Planning } from '../derive/planning'
import { daysBetween } from '../schedule/days'
import { USUAL_DAYS, WorkingCalendar } from '../schedule/working-calendar'
import type { TopicId } from '../tree/topic'
import { topicOf } from '../tree/tree'
import { inReadingOrder } from '../tree/walk'
import { evaluate, type Gathered, type Surroundings } from './evaluate'
import { divided, type Fixed, fixedFrom, fixedOf, isNumeral, isWithinLimit } from './fixed'
import { type Expression, type List, partsOf, type Place, type Property } from './formula'
import { gatheredList, gatheredSum } from './gathered'
import { type Graph, TRIED } from './graph'
import type { Model } from './model'
import { type CellNode, type ListNode, NO_PART as PART, type Node, type Part, Sum, type SumNode } from './nodes'
import { placeIn } from './shapes'
import { DAYS, HOURS, PLAIN, type Unit } from './units'
import { amount, type Cell, Exact, exactNumeral, exactOf, type Fault, Faulty, fixedOfExact, type Value } from './values'

type Cause<F = Fault> = F extends Fault ? Omit<F, 'at'> : never

/** Works a node out, once all that it stands on is. */
export class Working {
  constructor(
    readonly model: Model,
    private readonly graph: Graph,
    private readonly planning: Pick<Planning, 'get' | 'of'>,
  ) {}
  get day(): string {
    return this.graph.day
  }

  work(node: Node): void {
    node.dirty = false
    if (node.kind === 'cell') this.workCell(node)
    else if (node.kind === 'list') this.workList(node)
    else this.workSum(node)
  }
  loop(nodes: readonly Node[]): void {
    const cells = nodes.flatMap(node => (node.kind === 'cell' ? [node.cell] : []))
    const order = inReadingOrder(this.model.tree(), [...new Set(cells.flatMap(({ topic }) => topic ?? []))])
    const members = [...cells].sort(
      (a, b) =>
        (a.topic === null ? -1 : order.indexOf(a.topic)) - (b.topic === null ? -1 : order.indexOf(b.topic)) ||
        (a.measure < b.measure ? -1 : 1),
    )
    for (const node of nodes) {
      node.fault = { kind: 'loop', at: node.kind === 'cell' ? node.cell : members[0]!, members }
      node.dirty = false
      if (node.kind === 'cell') node.value = node.exact = null
      else if (node.kind === 'list') node.members = null
      else {
        node.value = null
        node.part = { ...PART, fault: node.fault }
        node.sum = null
        node.stale.clear()
      }
    }
  }
  workCell(node: CellNode): void {
    node.fault = node.unread
    node.value = node.exact = null
    const { topic, measure } = node.cell
    if (node.unread) return
    if (node.text === null) {
      if (topic === null || !this.model.rollsUp(topic, measure)) return
      const roll = this.graph.roll(topic, measure)
      node.value = roll.value
      node.fault = roll.fault
      return
    }
    if (!node.formula) {
      node.value = fixedOf(node.text!)
      if (node.value === null) node.fault = { kind: 'sense', message: 'This is no number.', at: node.cell }
      return
    }
    try {
      const value = evaluate(node.formula, topic, this.around(node))
      if (value !== null) node.value = this.kept(node, value)
    } catch (error) {
      if (!(error instanceof Faulty)) throw error
      node.fault = this.inItsPlace(node, error.fault)
    }
  }
  /** Formulas of one shape are read with the places of the first; only what went wrong needs its own. */
  private inItsPlace(node: CellNode, fault: Fault): Fault {
    // A formula that is only tried has no text.
    if (fault.at !== node.cell || !fault.span || node.text === TRIED) return fault
    return { ...fault, span: placeIn(node.formula!, fault.span, node.text!.slice(1)) }
  }
  /** Whether a formula comes to nothing; what is faulty doesn't. */
  isNothing(node: CellNode): boolean {
    try {
      return evaluate(node.formula!, node.cell.topic, this.around(node)) === null
    } catch (error) {
      if (error instanceof Faulty) return false
      throw error
    }
  }
  /** A formula's value as the figure that it's to be. */
  kept(node: CellNode, value: Value): Fixed {
    const fail = (cause: Cause): never => {
      throw new Faulty({ ...cause, at: node.cell } as Fault)
    }
    if (value.kind !== 'amount') return fail({ kind: 'type', wanted: 'number', found: value.kind })
    const wanted = this.model.unitOf(node.cell)
    if (!value.bare && value.unit !== wanted) return fail({ kind: 'unit', a: wanted, b: value.unit, what: 'keep' })
    return fixedOfExact(value.n) ?? fail({ kind: 'large' })
  }
  workSum(node: SumNode): void {
    const { topic, measure } = node
    const whole = node.sum === null
    const sum = (node.sum ??= new Sum())
    for (const child of whole ? this.model.children(topic) : node.stale)
      sum.put(child, this.model.isChild(child, topic) ? this.partOf(node, child) : null)
    node.stale.clear()
    node.fault = null
    node.value = null
    if (sum.faulty.size > 0) {
      const first = sum.faulty.size === 1 ? [...sum.faulty] : inReadingOrder(this.model.tree(), [...sum.faulty])
      node.fault = sum.faultOf(first[0]!)
      node.part = { ...PART, fault: node.fault }
      return
    }
    const rule = node.kind === 'below' ? 'sum' : this.model.measures.get(measure)!.rollUp
    const needsBounds = node.kind === 'below' || rule === 'min' || rule === 'max'
    const { least, most } = needsBounds ? sum.bounds() : { least: null, most: null }
    const { total, weighted, weights, count } = sum
    node.part = count === 0 ? PART : { total, weighted, weights, count, least, most, fault: null }
    if (count === 0) return
    const fail = (cause: Cause): void => {
      node.fault = { ...cause, at: { topic, measure } } as Fault
      node.part = { ...PART, fault: node.fault }
    }
    if (rule === 'weighted' && weights === 0n) return fail({ kind: 'zero' })
    node.value =
      rule === 'sum'
        ? total
        : rule === 'mean'
          ? divided(total, BigInt(count))
          : rule === 'weighted'
            ? divided(weighted, weights)
            : rule === 'count'
              ? fixedFrom(count)
              : rule === 'min'
                ? least
                : most
    if (node.value !== null && !isWithinLimit(node.value)) {
      node.value = null
      fail({ kind: 'large' })
    }
  }
  /** What a child gives to its parent: its own figure, or what it has gathered itself. */
  partOf(node: SumNode, child: TopicId): Part | null {
    const { measure } = node
    const cell = this.graph.cells.get(measure)?.get(child)
    const isOwn = this.model.textOf({ topic: child, measure }) !== null
    if (node.kind === 'below') {
      const below =
        this.model.children(child).length > 0 ? (this.graph.summed('below', child, measure).part ?? PART) : PART
      if (!isOwn) return below === PART ? null : below
      if (cell!.fault) return { ...PART, fault: cell!.fault }
      if (below.fault || cell!.value === null) return below
      const { value } = cell!
      const [least, most] = [below.least, below.most]
      return {
        ...PART,
        total: below.total + value!,
        count: below.count + 1,
        least: least === null || value! < least ? value : least,
        most: most === null || value! > most ? value : most,
      }
    }
    if (cell!.fault) return { ...PART, fault: cell!.fault }
    if (!isOwn) return this.model.rollsUp(child, measure) ? this.graph.roll(child, measure).part : null
    const { value } = cell!
    if (value === null) return null
    const { by } = this.model.measures.get(measure)!
    const weight = by === null ? null : this.graph.cells.get(by)?.get(child)
    if (weight?.fault) return { ...PART, fault: weight.fault }
    const weights = weight?.value ?? 0n
    return { total: value, weighted: value * weights, weights, count: 1, least: value, most: value, fault: null }
  }
  workList(node: ListNode): void {
    node.fault = null
    const { list } = node
    for (const id of node.stale) {
      const member = node.members!.get(id)
      if (!member) continue
      let value: Value | null = null
      let fault: Fault | null = null
      try {
        value = list.of
          ? this.isEmptyFor(list.of, id, list.scope === 'all below')
            ? null
            : evaluate(list.of, id, this.around(node, id, list.scope === 'all below'))
          : amount(new Exact(1), PLAIN, true)
      } catch (error) {
        if (!(error instanceof Faulty)) throw error
        ;({ fault } = error)
      }
      node.members!.set(id, { ...member, value, fault })
    }
    node.stale.clear()
    const faulty = [...node.members!].filter(([, member]) => member.fault).map(([id]) => id)
    if (faulty.length > 0) node.fault = node.members!.get(inReadingOrder(this.model.tree(), faulty)[0]!)!.fault
  }
  /** Whether a topic has nothing of what an expression asks it for: it's passed over then. */
  isEmptyFor(expression: Expression, topic: TopicId, ownOnly: boolean): boolean {
    const asked: string[] = []
    const walk = (it: Expression): void => {
      if (it.kind === 'measure') asked.push(it.id)
      else if (it.kind !== 'at' && it.kind !== 'list') for (const part of partsOf(it)) walk(part)
    }
    walk(expression)
    return (
      asked.length > 0 &&
      asked.every(measure => {
        if (ownOnly && this.model.textOf({ topic, measure }) === null) return true
        const node = this.graph.cells.get(measure)?.get(topic)
        return !node || (node.value === null && node.fault === null)
      })
    )
  }
  around(node: Node, member: TopicId | null = null, ownOnly = false): Surroundings {
    const at: Cell = node.kind === 'cell' ? node.cell : { topic: node.topic, measure: '' }
    return new Around(this, at, member, ownOnly)
  }
  /** The calendar of the plan; Monday to Friday where there is none. */
  calendar(): WorkingCalendar {
    const plan = this.planning.get()
    return typeof plan === 'string' ? new WorkingCalendar(USUAL_DAYS) : plan.calendar
  }
  measureAt(topic: TopicId, id: string, at: Cell, ownOnly: boolean): Value | null {
    if (!this.model.measures.has(id)) throw new Faulty({ kind: 'missing', what: 'measure', id, at })
    if (ownOnly && this.model.textOf({ topic, measure: id }) === null) return null
    const given = this.model.textAt(topic, id)
    if (given !== null && isNumeral(given)) return amount(exactNumeral(given), this.model.measures.get(id)!.canonical)
    return this.got(this.graph.cell(topic, id))
  }
  valueAt(id: string, at: Cell): Value | null {
    if (!this.model.values.has(id)) throw new Faulty({ kind: 'missing', what: 'value', id, at })
    return this.got(this.graph.cell(null, id))
  }
  got(cell: CellNode): Value | null {
    if (cell.fault) throw new Faulty(cell.fault)
    if (cell.value === null) return null
    // A number that was given is the same text as it's stored.
    cell.exact ??= cell.text !== null && !cell.formula ? exactNumeral(cell.text!) : exactOf(cell.value)
    return amount(cell.exact, this.model.unitOf(cell.cell))
  }
  placeAt(from: TopicId, place: Place, at: Cell): TopicId {
    const there = this.model.place(from, place)
    if (there !== null) return there
    throw new Faulty({ kind: 'missing', what: 'topic', id: place.kind === 'topic' ? place.id : place.kind, at })
  }
  listAt(list: List, topic: TopicId, at: Cell): Gathered {
    if (list.of?.kind === 'measure' && !this.model.measures.has(list.of.id))
      throw new Faulty({ kind: 'missing', what: 'measure', id: list.of.id, at })
    return this.graph.isPlain(list)
      ? gatheredSum(this.graph.summed('below', topic, (list.of as { id: string }).id), this.model.measures)
      : gatheredList(this.graph.listed(list, topic), at)
  }
  property(id: TopicId, name: Property): Value | null {
    const topic = topicOf(this.model.tree(), id)
    const planned = this.planning.of(id)
    const day = (it: string | null | undefined): Value | null => (it ? { kind: 'day', day: it } : null)
    const number = (n: number | null | undefined, unit: Unit): Value | null =>
      n === null || n === undefined ? null : amount(new Exact(n), unit)
    switch (name) {
      case 'start':
        return day(planned?.start ?? topic.start)
      case 'finish':
        return day(planned?.finish ?? topic.due)
      case 'due':
        return day(topic.due)
      case 'length': {
        if (planned && 'length' in planned) return number(planned.length, DAYS)
        if (topic.duration !== null) return number(topic.duration, DAYS)
        return planned ? number(daysBetween(planned.start, planned.finish) + 1, DAYS) : null
      }
      case 'float':
        return number(planned?.totalFloat, DAYS)
      case 'work':
        return number(topic.effort, HOURS)
      case 'done':
        return topic.done === null ? null : amount(new Exact(topic.done).div(100))
    }
  }
}

/** What one formula finds around it. */
export class Around implements Surroundings {
  constructor(
    private readonly working: Working,
    readonly at: Cell,
    /** The topic of a list that it's worked out for. */
    private readonly member: TopicId | null,
    private readonly ownOnly: boolean,
  ) {}
  get today(): string {
    return this.working.day
  }
  calendar(): WorkingCalendar {
    return this.working.calendar()
  }
  measure(topic: TopicId, id: string): Value | null {
    return this.working.measureAt(topic, id, this.at, this.ownOnly && topic === this.member)
  }
  value(id: string): Value | null {
    return this.working.valueAt(id, this.at)
  }
  unitOf(kind: 'measure' | 'value', id: string): Unit {
    return this.working.model.unitOf({ topic: kind === 'value' ? null : '', measure: id })
  }
  property(topic: TopicId, name: Property): Value | null {
    return this.working.property(topic, name)
  }
  topicAt(from: TopicId, place: Place): TopicId {
    return this.working.placeAt(from, place, this.at)
  }
  list(list: List, topic: TopicId): Gathered {
    return this.working.listAt(list, topic, this.at)
  }
}
