import { type Derived, NONE_STALE, type Stale } from '../derive/derived'
import type { Planning } from '../derive/planning'
import { compile } from '../find/evaluate'
import { daysBetween } from '../schedule/days'
import { USUAL_DAYS, WorkingCalendar } from '../schedule/working-calendar'
import { type Figure, figureId, type Measure, type NamedValue } from '../tree/figure'
import type { Topic, TopicId } from '../tree/topic'
import { childrenOf, isLive, topicOf, type Tree } from '../tree/tree'
import { branch, inReadingOrder } from '../tree/walk'
import { evaluate, type Gathered, type Surroundings } from './evaluate'
import { divided, type Fixed, fixedFrom, fixedOf, isWithinLimit } from './fixed'
import { type Expression, type List, partsOf, type Place, type Property } from './formula'
import type { CellNode, ListNode, Node, Part, SumNode } from './nodes'
import { Sum } from './nodes'
import { FormulaError, parseStored, type Read } from './parse'
import { DAYS, HOURS, PLAIN, readUnit, type Unit } from './units'
import { amount, type Cell, Exact, exactOf, type Fault, Faulty, fixedOfExact, type Value } from './values'

/** What a figure comes to. */
export interface Result {
  /** Null: nothing, or not to be worked out. */
  readonly value: Fixed | null
  readonly fault: Fault | null
  /** Whether somebody gave it, as a value or a formula; else it's what its children come to. */
  readonly own: boolean
  /** As it's stored, without the `=`; null where it has none. */
  readonly formula: string | null
}

const NOTHING: Result = { value: null, fault: null, own: false, formula: null }
const PART: Part = { total: 0n, weighted: 0n, weights: 0n, count: 0, least: null, most: null, fault: null }
/** Formulas that were read, by their text; many topics have the same one. */
const MOST_READ = 5000

type Cause<F = Fault> = F extends Fault ? Omit<F, 'at'> : never

/**
 * The figures of a tree, worked out when somebody asks and kept until something that they stand on is another. Figures in a loop are all
 * faulty, and name its members; what stands on something faulty is so with the same cause. In which order they're asked for, and what
 * was asked for before, never changes what they come to.
 */
export class Figures implements Derived {
  private cells = new Map<string, Map<TopicId | null, CellNode>>()
  private rolls = new Map<string, Map<TopicId, SumNode>>()
  private belows = new Map<string, Map<TopicId, SumNode>>()
  private lists = new Map<TopicId, Set<ListNode>>()
  private listOf = new Map<List, Map<TopicId, ListNode>>()
  /** Formulas that ask for a topic's place, for a named topic, for what the plan says. */
  private byParent = new Set<Node>()
  private byTopic = new Map<TopicId, Set<Node>>()
  private byPlan = new Set<Node>()
  private known: Map<TopicId, Topic> | null = null
  private fields: Tree['fields'] | null = null
  private measures = new Map<string, Measure & { readonly canonical: Unit }>()
  private values = new Map<string, NamedValue>()
  private weightOf = new Map<string, string[]>()
  private day = ''
  /** The plan that formulas were worked out with. */
  private plan: unknown = null
  /** Nodes come upon so far. */
  private count = 0
  private told = new Set<TopicId | null>()
  private readonly read = new Map<string, Read | FormulaError>()

  /** `today`: the present day, ISO 8601. `whatIf`: the assumptions that hold instead of what is so. */
  constructor(
    private readonly tree: () => Tree,
    private readonly planning: Pick<Planning, 'get' | 'of'>,
    private readonly today: () => string,
    readonly whatIf: string | null = null,
  ) {}

  /** A topic's figure in a measure, without the trash. */
  of(topic: TopicId, measure: string): Result {
    this.begin()
    if (!this.measures.has(measure) || !this.tree().topics.has(topic)) return NOTHING
    const node = this.cell(topic, measure)
    this.request(node)
    return resultOf(node)
  }

  /** What the topics below come to, whether or not the topic has one of its own; nothing at the ends of the tree. */
  rolled(topic: TopicId, measure: string): Result {
    this.begin()
    const rule = this.measures.get(measure)?.rollUp
    if (!rule || rule === 'none' || childrenOf(this.tree(), topic).length === 0) return NOTHING
    const node = this.roll(topic, measure)
    this.request(node)
    return { value: node.value, fault: node.fault, own: false, formula: null }
  }

  /** What a named value comes to. */
  named(id: string): Result {
    this.begin()
    if (!this.values.has(id)) return NOTHING
    const node = this.cell(null, id)
    this.request(node)
    return resultOf(node)
  }

  /** What a formula would come to if the topic had it: for showing it before it's kept. */
  tried(topic: TopicId, measure: string, read: Read): { readonly value: Fixed | null; readonly fault: Fault | null } {
    this.begin()
    const at: Cell = { topic, measure }
    const trial: CellNode = { ...this.newCell(at), formula: read, text: '=' }
    trial.ins = this.inputsOf(read.expression, topic, trial)
    const own = this.cell(topic, measure)
    try {
      for (const node of trial.ins) this.request(node)
      if (trial.ins.some(node => this.leadsTo(node, own)))
        return { value: null, fault: { kind: 'loop', at, members: [at] } }
      this.work(trial)
      return { value: trial.value, fault: trial.fault }
    } finally {
      this.untie(trial)
    }
  }

  private leadsTo(from: Node, wanted: Node): boolean {
    const seen = new Set<Node>([from])
    const stack = [from]
    while (stack.length > 0) {
      const node = stack.pop()!
      if (node === wanted) return true
      for (const next of this.standsOn(node, true))
        if (!seen.has(next)) {
          seen.add(next)
          stack.push(next)
        }
    }
    return false
  }

  // — Word of changes

  changed(touched: Stale): Stale {
    if (!this.known) return NONE_STALE
    const tree = this.tree()
    if (touched === 'all' || this.areOthers(tree.fields)) {
      this.forget()
      return 'all'
    }
    this.told = new Set()
    for (const id of touched) if (id !== null) this.heard(id)
    if (this.byPlan.size > 0 && this.planning.get() !== this.plan) {
      this.plan = this.planning.get()
      for (const node of this.byPlan) this.spoil(node)
    }
    const told = this.told
    this.told = new Set()
    return told.size > 0 ? told : NONE_STALE
  }

  private areOthers(fields: Tree['fields']): boolean {
    const before = this.fields!
    this.fields = fields
    return (
      before.measures !== fields.measures ||
      before.namedValues !== fields.namedValues ||
      before.weekdays !== fields.weekdays ||
      before.exceptions !== fields.exceptions ||
      before.planFrom !== fields.planFrom ||
      before.statusDay !== fields.statusDay
    )
  }

  private forget(): void {
    this.known = null
    this.cells.clear()
    this.rolls.clear()
    this.belows.clear()
    this.lists.clear()
    this.listOf.clear()
    this.byParent.clear()
    this.byTopic.clear()
    this.byPlan.clear()
  }

  private begin(): void {
    const today = this.today()
    if (this.known && this.day === today) return
    const tree = this.tree()
    this.forget()
    this.day = today
    this.known = new Map(tree.topics)
    this.plan = null
    this.fields = tree.fields
    this.measures = new Map(
      tree.fields.measures.map(one => [one.id, { ...one, canonical: readUnit(one.unit) ?? PLAIN }]),
    )
    this.values = new Map(tree.fields.namedValues.map(one => [one.id, one]))
    this.weightOf = new Map()
    for (const one of tree.fields.measures)
      if (one.rollUp === 'weighted' && one.by !== null)
        this.weightOf.set(one.by, [...(this.weightOf.get(one.by) ?? []), one.id])
  }

  private heard(id: TopicId): void {
    const tree = this.tree()
    const before = this.known!.get(id)
    const after = tree.topics.get(id)
    if (before === after) return
    if (after) this.known!.set(id, after)
    else this.known!.delete(id)
    const stood = before && !before.removed ? before.parent : undefined
    const stands = after && !after.removed ? after.parent : undefined
    const moved = stood !== stands || before?.order !== after?.order || before?.tray !== after?.tray
    if (moved) {
      for (const parent of new Set([stood, stands])) if (parent) this.isOtherBelow(parent, id)
      if (stood !== stands) this.isElsewhere(id)
    }
    // Whoever begins or ends to show another topic loses or gets back all figures.
    if ((before?.reference ?? null) !== (after?.reference ?? null)) {
      if (stands) this.isOtherBelow(stands, id)
      for (const nodes of this.cells.values()) {
        const node = nodes.get(id)
        if (node) this.spoil(node)
      }
    }
    if (before?.figures !== after?.figures) this.figuresChanged(id, before?.figures ?? [], after?.figures ?? [])
    // What conditions and properties ask for: anything but the figures.
    this.listsAbove(id, node => {
      if (node.members) node.stale.add(id)
      this.spoil(node)
    })
    for (const node of this.byTopic.get(id) ?? []) this.spoil(node)
  }

  /** A child came, went or changed places. */
  private isOtherBelow(parent: TopicId, child: TopicId): void {
    for (const nodes of this.rolls.values()) {
      const node = nodes.get(parent)
      if (!node) continue
      node.stale.add(child)
      this.spoil(node)
    }
    const { topics } = this.tree()
    for (const nodes of this.belows.values())
      for (let at: TopicId | null = parent, from = child; at !== null; from = at, at = topics.get(at)?.parent ?? null) {
        // A topic that had nothing below it has no sum of its own: the next one up gathers it.
        const node = nodes.get(at)
        if (!node) continue
        node.stale.add(from)
        this.spoil(node)
        break
      }
    // A parent of none has no figure, and one of some has: its own cell may be another without a roll-up so far.
    for (const nodes of this.cells.values()) {
      const node = nodes.get(parent)
      if (node) this.spoil(node)
    }
    const gather = (node: ListNode): void => {
      node.members = null
      this.spoil(node)
    }
    for (const node of this.lists.get(parent) ?? []) gather(node)
    this.listsAbove(parent, gather)
  }
  private listsAbove(id: TopicId, each: (node: ListNode) => void): void {
    if (this.lists.size === 0) return
    const { topics } = this.tree()
    for (let at = topics.get(id)?.parent ?? null; at !== null; at = topics.get(at)?.parent ?? null)
      for (const node of this.lists.get(at) ?? []) each(node)
  }
  /** A branch hangs elsewhere, or went to the trash or came from there. */
  private isElsewhere(id: TopicId): void {
    // What they stand on is another, not only what that says.
    const again = (node: Node): void => {
      if (node.kind === 'cell') node.text = undefined
      else if (node.kind === 'list') node.members = null
      this.spoil(node)
    }
    for (const node of this.byParent) again(node)
    if (this.byTopic.size === 0 || !this.tree().topics.has(id)) return
    for (const { id: below } of branch(this.tree(), id)) for (const node of this.byTopic.get(below) ?? []) again(node)
  }
  private figuresChanged(id: TopicId, before: readonly Figure[], after: readonly Figure[]): void {
    const measures = new Set<string>()
    for (const one of before) if (!after.includes(one)) measures.add(one.measure)
    for (const one of after) if (!before.includes(one)) measures.add(one.measure)
    const parent = this.tree().topics.get(id)?.parent ?? null
    for (const measure of measures) {
      const node = this.cells.get(measure)?.get(id)
      if (node) this.spoil(node)
      const below = parent === null ? undefined : this.belows.get(measure)?.get(parent)
      if (!below) continue
      below.stale.add(id)
      this.spoil(below)
    }
  }

  /** Marks a node and all that stands on it. */
  private spoil(first: Node): void {
    const stack: Node[] = [first]
    while (stack.length > 0) {
      const node = stack.pop()!
      const topic = node.kind === 'cell' ? node.cell.topic : node.topic
      if (topic !== null) this.told.add(topic)
      if (node.dirty) continue
      node.dirty = true
      if (node.outs)
        for (const next of node.outs) {
          if (next.kind === 'list') for (const member of next.via.get(node) ?? []) next.stale.add(member)
          stack.push(next)
        }
      if (topic === null) continue
      const parent = this.known?.get(topic)?.parent ?? null
      const above = (nodes: Map<TopicId, SumNode> | undefined): void => {
        const next = parent === null ? undefined : nodes?.get(parent)
        if (!next) return
        next.stale.add(topic)
        stack.push(next)
      }
      if (node.kind === 'cell') {
        above(this.rolls.get(node.cell.measure))
        above(this.belows.get(node.cell.measure))
        for (const weighted of this.weightOf.get(node.cell.measure) ?? []) above(this.rolls.get(weighted))
      } else if (node.kind === 'roll') {
        const cell = this.cells.get(node.measure)?.get(topic)
        if (cell) stack.push(cell)
      } else if (node.kind === 'below') above(this.belows.get(node.measure))
    }
  }

  // — Nodes, made when somebody asks for them

  private newCell(cell: Cell): CellNode {
    return {
      kind: 'cell',
      cell,
      dirty: true,
      index: 0,
      low: 0,
      waits: false,
      outs: null,
      fault: null,
      text: undefined,
      formula: null,
      unread: null,
      ins: [],
      watches: [],
      value: null,
    }
  }
  private cell(topic: TopicId | null, measure: string): CellNode {
    let nodes = this.cells.get(measure)
    if (!nodes) this.cells.set(measure, (nodes = new Map()))
    let node = nodes.get(topic)
    if (!node) nodes.set(topic, (node = this.newCell({ topic, measure })))
    return node
  }
  private summed(kind: 'roll' | 'below', topic: TopicId, measure: string): SumNode {
    const all = kind === 'roll' ? this.rolls : this.belows
    let nodes = all.get(measure)
    if (!nodes) all.set(measure, (nodes = new Map()))
    let node = nodes.get(topic)
    if (!node) {
      node = {
        kind,
        topic,
        measure,
        dirty: true,
        index: 0,
        low: 0,
        waits: false,
        outs: null,
        fault: null,
        sum: null,
        stale: new Set(),
        value: null,
        part: null,
      }
      nodes.set(topic, node)
    }
    return node
  }
  private roll = (topic: TopicId, measure: string): SumNode => this.summed('roll', topic, measure)

  private listed(list: List, topic: TopicId): ListNode {
    let nodes = this.listOf.get(list)
    if (!nodes) this.listOf.set(list, (nodes = new Map()))
    let node = nodes.get(topic)
    if (!node) {
      node = {
        kind: 'list',
        topic,
        list,
        dirty: true,
        index: 0,
        low: 0,
        waits: false,
        outs: null,
        fault: null,
        fits: null,
        members: null,
        stale: new Set(),
        via: new Map(),
      }
      nodes.set(topic, node)
      const here = this.lists.get(topic)
      if (here) here.add(node)
      else this.lists.set(topic, new Set([node]))
    }
    return node
  }

  // — What stands on what

  private figureOf(topic: Topic, measure: string): Figure | undefined {
    let plain: Figure | undefined
    for (const one of topic.figures) {
      if (one.measure !== measure) continue
      if (one.whatIf === this.whatIf) return one
      if (one.whatIf === null) plain = one
    }
    return plain
  }
  /** What somebody gave; null for nothing. A topic that shows another has no figures: they'd count twice. */
  private textOf({ topic, measure }: Cell): string | null {
    if (topic === null) return this.values.get(measure)?.text || null
    const it = this.tree().topics.get(topic)
    if (!it || it.reference) return null
    return this.figureOf(it, measure)?.text || null
  }

  /** Reads a cell's text anew where it's another. */
  private prepare(node: CellNode): void {
    const text = this.textOf(node.cell)
    if (text === node.text) return
    this.untie(node)
    node.text = text
    node.formula = null
    node.unread = null
    if (text === null || !text.startsWith('=')) return
    let read = this.read.get(text)
    if (!read) {
      try {
        read = parseStored(text.slice(1))
      } catch (error) {
        if (!(error instanceof FormulaError)) throw error
        read = error
      }
      if (this.read.size >= MOST_READ) this.read.clear()
      this.read.set(text, read)
    }
    if (read instanceof FormulaError) {
      node.unread = { kind: 'sense', message: read.message, at: node.cell, span: read.span }
      return
    }
    node.formula = read
    node.ins = this.inputsOf(read.expression, node.cell.topic, node)
  }
  private untie(node: CellNode): void {
    for (const input of node.ins) input.outs?.delete(node)
    node.ins = []
    this.byParent.delete(node)
    this.byPlan.delete(node)
    for (const topic of node.watches.splice(0)) this.byTopic.get(topic)?.delete(node)
  }

  /** All that an expression may stand on, whichever way its conditions go; ties the node to them. */
  private inputsOf(
    expression: Expression,
    topic: TopicId | null,
    node: Node,
    member: TopicId | null = null,
    ownOnly = false,
  ): Node[] {
    const found: Node[] = []
    const tie = (input: Node): void => {
      found.push(input)
      if (input.outs) input.outs.add(node)
      else input.outs = new Set([node])
      if (node.kind === 'list' && member !== null) {
        const via = node.via.get(input)
        if (via) via.add(member)
        else node.via.set(input, new Set([member]))
      }
    }
    const walk = (it: Expression, at: TopicId | null): void => {
      switch (it.kind) {
        case 'measure':
          if (at === null || !this.measures.has(it.id)) return
          if (ownOnly && at === member && this.textOf({ topic: at, measure: it.id }) === null) return
          return tie(this.cell(at, it.id))
        case 'value':
          if (this.values.has(it.id)) tie(this.cell(null, it.id))
          return
        case 'property':
          this.asksPlan(node)
          if (at !== null) this.watch(at, node)
          return
        case 'at': {
          if (it.place.kind === 'parent') this.byParent.add(node)
          const there = this.place(at, it.place)
          if (it.place.kind === 'topic') this.watch(it.place.id, node)
          if (there !== null) walk(it.of, there)
          return
        }
        case 'list':
          if (at !== null)
            tie(this.isPlain(it) ? this.summed('below', at, (it.of as { id: string }).id) : this.listed(it, at))
          return
        case 'call':
          if (it.name === 'workday' || it.name === 'workdays') this.asksPlan(node)
          for (const part of it.args) walk(part, at)
          return
        default:
          for (const part of partsOf(it)) walk(part, at)
      }
    }
    walk(expression, topic)
    return found
  }
  private asksPlan(node: Node): void {
    if (this.byPlan.size === 0) this.plan = this.planning.get()
    this.byPlan.add(node)
  }
  private watch(topic: TopicId, node: Node): void {
    if (node.kind === 'cell') node.watches.push(topic)
    const nodes = this.byTopic.get(topic)
    if (nodes) nodes.add(node)
    else this.byTopic.set(topic, new Set([node]))
  }
  /** All figures of a measure below: kept level by level, so that one that changes is one sum a level. */
  private isPlain = (list: List): boolean =>
    list.scope === 'all below' &&
    list.when === null &&
    !list.each &&
    list.of?.kind === 'measure' &&
    this.measures.has(list.of.id)

  private place(from: TopicId | null, place: Place): TopicId | null {
    const tree = this.tree()
    const id =
      place.kind === 'centre'
        ? tree.centre
        : place.kind === 'topic'
          ? place.id
          : from === null
            ? null
            : (tree.topics.get(from)?.parent ?? null)
    return id !== null && isLive(tree, id) ? id : null
  }

  private children(topic: TopicId): readonly TopicId[] {
    return childrenOf(this.tree(), topic)
  }

  /** What a node has to wait for; `all`: also what stands already. */
  private standsOn(node: Node, all: boolean): readonly Node[] {
    if (node.kind === 'cell') {
      this.prepare(node)
      const { topic, measure } = node.cell
      if (node.text !== null) return node.ins
      if (topic === null || !this.rollsUp(topic, measure)) return []
      return [this.roll(topic, measure)]
    }
    if (node.kind === 'list') {
      if (!node.members) this.gatherMembers(node)
      const found: Node[] = []
      for (const id of all ? new Set([...node.members!.keys(), ...node.stale]) : node.stale) {
        // A member's inputs are others when its place or its figures are.
        if (node.stale.has(id)) this.prepareMember(node, id)
        found.push(...(node.members!.get(id)?.ins ?? []))
      }
      return found
    }
    const { topic, measure } = node
    const by = node.kind === 'roll' ? this.measures.get(measure)!.by : null
    const found: Node[] = []
    for (const child of all || !node.sum ? this.children(topic) : node.stale) {
      if (!this.isChild(child, topic)) continue
      if (node.kind === 'roll') {
        found.push(this.cell(child, measure))
        if (by !== null && this.measures.has(by)) found.push(this.cell(child, by))
      } else {
        if (this.textOf({ topic: child, measure }) !== null) found.push(this.cell(child, measure))
        if (this.children(child).length > 0) found.push(this.summed('below', child, measure))
      }
    }
    return found
  }
  private rollsUp = (topic: TopicId, measure: string): boolean =>
    this.measures.get(measure)!.rollUp !== 'none' &&
    this.children(topic).length > 0 &&
    !this.tree().topics.get(topic)?.reference
  private isChild(child: TopicId, parent: TopicId): boolean {
    const topic = this.tree().topics.get(child)
    return topic !== undefined && !topic.removed && topic.parent === parent && topic.id !== this.tree().centre
  }

  /** Whether a topic is in a branch, and nothing between them in the trash; the branch itself may be. */
  private hangsBelow(id: TopicId, top: TopicId): boolean {
    const { topics } = this.tree()
    for (let at = topics.get(id); at && !at.removed && at.parent !== null; at = topics.get(at.parent))
      if (at.parent === top) return true
    return false
  }

  private gatherMembers(node: ListNode): void {
    const tree = this.tree()
    const { list, topic } = node
    const fits = list.when
      ? compile(list.when, tree, {
          me: '',
          today: this.day,
          changesOf: () => [],
          talkOf: () => null,
          dayOf: instant => instant.slice(0, 10),
        })
      : () => true
    node.fits = fits
    for (const [input] of node.via) input.outs?.delete(node)
    node.via.clear()
    node.members = new Map()
    node.stale.clear()
    const ids = list.scope === 'children' ? this.children(topic) : [...branch(tree, topic)].slice(1).map(({ id }) => id)
    for (const id of ids) node.stale.add(id)
  }
  private prepareMember(node: ListNode, id: TopicId): void {
    const { list, topic } = node
    const it = this.tree().topics.get(id)
    for (const input of node.members!.get(id)?.ins ?? []) {
      const via = node.via.get(input)
      via?.delete(id)
      if (via?.size === 0) {
        node.via.delete(input)
        input.outs?.delete(node)
      }
    }
    const isThere = list.scope === 'all below' ? this.hangsBelow(id, topic) : this.isChild(id, topic)
    if (!it || !isThere || !node.fits!(it)) {
      node.members!.delete(id)
      return
    }
    const ins = list.of ? this.inputsOf(list.of, id, node, id, list.scope === 'all below') : []
    node.members!.set(id, { value: null, fault: null, ins })
  }

  // — Working out

  /**
   * Works out a node and all that it waits for: by Tarjan's strongly connected components (R. Tarjan, “Depth-first search and linear
   * graph algorithms”, SIAM J. Comput. 1972), which come out with what they stand on before them, and loops as what has more than one
   * member. Without recursion: a chain may be as long as the tree is large.
   */
  private request(first: Node): void {
    if (!first.dirty || this.isPlainNumber(first)) return
    const waiting: Node[] = []
    const calls: { readonly node: Node; readonly on: readonly Node[]; next: number }[] = []
    // Numbers in the order in which nodes are come upon, on and on, so that those of an earlier walk count for nothing.
    const from = this.count
    const enter = (node: Node): void => {
      node.index = node.low = ++this.count
      node.waits = true
      waiting.push(node)
      calls.push({ node, on: this.standsOn(node, false), next: 0 })
    }
    enter(first)
    while (calls.length > 0) {
      const call = calls[calls.length - 1]!
      const { node, on } = call
      if (call.next < on.length) {
        const next = on[call.next++]!
        if (!next.dirty || this.isPlainNumber(next)) continue
        if (next.index <= from) enter(next)
        else if (next.waits && next.index < node.low) node.low = next.index
        continue
      }
      calls.pop()
      const above = calls[calls.length - 1]?.node
      if (above && node.low < above.low) above.low = node.low
      if (node.low !== node.index) continue
      const last = waiting.pop()!
      last.waits = false
      if (last === node && !on.includes(node)) {
        this.work(node)
        continue
      }
      const members: Node[] = [last]
      while (members[members.length - 1] !== node) {
        const member = waiting.pop()!
        member.waits = false
        members.push(member)
      }
      this.loop(members)
    }
  }
  /** Most figures are numbers, which wait for nothing: they're taken at once. */
  private isPlainNumber(node: Node): boolean {
    if (node.kind !== 'cell') return false
    this.prepare(node)
    if (node.text === null || node.formula || node.ins.length > 0) return false
    this.work(node)
    return true
  }

  private loop(nodes: readonly Node[]): void {
    const cells = nodes.flatMap(node => (node.kind === 'cell' ? [node.cell] : []))
    const order = inReadingOrder(this.tree(), [...new Set(cells.flatMap(({ topic }) => topic ?? []))])
    const members = [...cells].sort(
      (a, b) =>
        (a.topic === null ? -1 : order.indexOf(a.topic)) - (b.topic === null ? -1 : order.indexOf(b.topic)) ||
        (a.measure < b.measure ? -1 : 1),
    )
    for (const node of nodes) {
      node.fault = { kind: 'loop', at: node.kind === 'cell' ? node.cell : members[0]!, members }
      node.dirty = false
      if (node.kind === 'cell') node.value = null
      else if (node.kind === 'list') node.members = null
      else {
        node.value = null
        node.part = { ...PART, fault: node.fault }
        node.sum = null
        node.stale.clear()
      }
    }
  }

  private work(node: Node): void {
    node.dirty = false
    if (node.kind === 'cell') this.workCell(node)
    else if (node.kind === 'list') this.workList(node)
    else this.workSum(node)
  }

  private workCell(node: CellNode): void {
    node.fault = node.unread
    node.value = null
    const { topic, measure } = node.cell
    if (node.unread) return
    if (node.text === null) {
      if (topic === null || !this.rollsUp(topic, measure)) return
      const roll = this.roll(topic, measure)
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
      const value = evaluate(node.formula.expression, topic, this.around(node))
      if (value !== null) node.value = this.kept(node, value)
    } catch (error) {
      if (!(error instanceof Faulty)) throw error
      node.fault = error.fault
    }
  }
  /** A formula's value as the figure that it's to be. */
  private kept(node: CellNode, value: Value): Fixed {
    const fail = (cause: Cause): never => {
      throw new Faulty({ ...cause, at: node.cell } as Fault)
    }
    if (value.kind !== 'amount') return fail({ kind: 'type', wanted: 'number', found: value.kind })
    const wanted = this.unitOf(node.cell)
    if (!value.bare && value.unit !== wanted) return fail({ kind: 'unit', a: wanted, b: value.unit, what: 'keep' })
    return fixedOfExact(value.n) ?? fail({ kind: 'large' })
  }
  unitOf({ topic, measure }: Cell): Unit {
    return topic === null
      ? (readUnit(this.values.get(measure)?.unit ?? '') ?? PLAIN)
      : (this.measures.get(measure)?.canonical ?? PLAIN)
  }

  private workSum(node: SumNode): void {
    const { topic, measure } = node
    const whole = node.sum === null
    const sum = (node.sum ??= new Sum())
    for (const child of whole ? this.children(topic) : node.stale)
      sum.put(child, this.isChild(child, topic) ? this.partOf(node, child) : null)
    node.stale.clear()
    node.fault = null
    node.value = null
    if (sum.faulty.size > 0) {
      const first = sum.faulty.size === 1 ? [...sum.faulty] : inReadingOrder(this.tree(), [...sum.faulty])
      node.fault = sum.faultOf(first[0]!)
      node.part = { ...PART, fault: node.fault }
      return
    }
    const rule = node.kind === 'below' ? 'sum' : this.measures.get(measure)!.rollUp
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
  private partOf(node: SumNode, child: TopicId): Part | null {
    const { measure } = node
    const cell = this.cells.get(measure)?.get(child)
    const isOwn = this.textOf({ topic: child, measure }) !== null
    if (node.kind === 'below') {
      const below = this.children(child).length > 0 ? (this.summed('below', child, measure).part ?? PART) : PART
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
    if (!isOwn) return this.rollsUp(child, measure) ? this.roll(child, measure).part : null
    const { value } = cell!
    if (value === null) return null
    const { by } = this.measures.get(measure)!
    const weight = by === null ? null : this.cells.get(by)?.get(child)
    if (weight?.fault) return { ...PART, fault: weight.fault }
    const weights = weight?.value ?? 0n
    return { total: value, weighted: value * weights, weights, count: 1, least: value, most: value, fault: null }
  }

  private workList(node: ListNode): void {
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
    if (faulty.length > 0) node.fault = node.members!.get(inReadingOrder(this.tree(), faulty)[0]!)!.fault
  }
  /** Whether a topic has nothing of what an expression asks it for: it's passed over then. */
  private isEmptyFor(expression: Expression, topic: TopicId, ownOnly: boolean): boolean {
    const asked: string[] = []
    const walk = (it: Expression): void => {
      if (it.kind === 'measure') asked.push(it.id)
      else if (it.kind !== 'at' && it.kind !== 'list') for (const part of partsOf(it)) walk(part)
    }
    walk(expression)
    return (
      asked.length > 0 &&
      asked.every(measure => {
        if (ownOnly && this.textOf({ topic, measure }) === null) return true
        const node = this.cells.get(measure)?.get(topic)
        return !node || (node.value === null && node.fault === null)
      })
    )
  }

  // — What formulas find around them

  private around(node: Node, member: TopicId | null = null, ownOnly = false): Surroundings {
    const at: Cell = node.kind === 'cell' ? node.cell : { topic: node.topic, measure: '' }
    return new Around(this, at, member, ownOnly)
  }
  /** The calendar of the plan; Monday to Friday where there is none. */
  calendar(): WorkingCalendar {
    const plan = this.planning.get()
    return typeof plan === 'string' ? new WorkingCalendar(USUAL_DAYS) : plan.calendar
  }
  get presentDay(): string {
    return this.day
  }
  measureAt(topic: TopicId, id: string, at: Cell, ownOnly: boolean): Value | null {
    if (!this.measures.has(id)) throw new Faulty({ kind: 'missing', what: 'measure', id, at })
    if (ownOnly && this.textOf({ topic, measure: id }) === null) return null
    return this.got(this.cell(topic, id))
  }
  valueAt(id: string, at: Cell): Value | null {
    if (!this.values.has(id)) throw new Faulty({ kind: 'missing', what: 'value', id, at })
    return this.got(this.cell(null, id))
  }
  private got(cell: CellNode): Value | null {
    if (cell.fault) throw new Faulty(cell.fault)
    return cell.value === null ? null : amount(exactOf(cell.value), this.unitOf(cell.cell))
  }
  placeAt(from: TopicId, place: Place, at: Cell): TopicId {
    const there = this.place(from, place)
    if (there !== null) return there
    throw new Faulty({ kind: 'missing', what: 'topic', id: place.kind === 'topic' ? place.id : place.kind, at })
  }
  listAt(list: List, topic: TopicId, at: Cell): Gathered {
    if (list.of?.kind === 'measure' && !this.measures.has(list.of.id))
      throw new Faulty({ kind: 'missing', what: 'measure', id: list.of.id, at })
    return this.isPlain(list)
      ? gatheredSum(this.summed('below', topic, (list.of as { id: string }).id), this.measures)
      : gatheredList(this.listed(list, topic), at)
  }

  property(id: TopicId, name: Property): Value | null {
    const topic = topicOf(this.tree(), id)
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
class Around implements Surroundings {
  constructor(
    private readonly figures: Figures,
    readonly at: Cell,
    /** The topic of a list that it's worked out for. */
    private readonly member: TopicId | null,
    private readonly ownOnly: boolean,
  ) {}
  get today(): string {
    return this.figures.presentDay
  }
  calendar(): WorkingCalendar {
    return this.figures.calendar()
  }
  measure(topic: TopicId, id: string): Value | null {
    return this.figures.measureAt(topic, id, this.at, this.ownOnly && topic === this.member)
  }
  value(id: string): Value | null {
    return this.figures.valueAt(id, this.at)
  }
  unitOf(kind: 'measure' | 'value', id: string): Unit {
    return this.figures.unitOf({ topic: kind === 'value' ? null : '', measure: id })
  }
  property(topic: TopicId, name: Property): Value | null {
    return this.figures.property(topic, name)
  }
  topicAt(from: TopicId, place: Place): TopicId {
    return this.figures.placeAt(from, place, this.at)
  }
  list(list: List, topic: TopicId): Gathered {
    return this.figures.listAt(list, topic, this.at)
  }
}

function resultOf({ value, fault, text, formula }: CellNode): Result {
  return { value, fault, own: text !== null, formula: formula || text?.startsWith('=') ? text!.slice(1) : null }
}

function gatheredSum(node: SumNode, measures: ReadonlyMap<string, { readonly canonical: Unit }>): Gathered {
  if (node.fault) throw new Faulty(node.fault)
  const { count, total, least, most } = node.part ?? PART
  const unit = measures.get(node.measure)!.canonical
  const value = (it: Fixed): Value => amount(exactOf(it), unit)
  return { count, sum: () => value(total), all: () => (count === 0 ? [] : [value(least!), value(most!)]) }
}

/** `at`: the figure whose formula gathers: a fault that arises in gathering is its own. */
function gatheredList(node: ListNode, at: Cell): Gathered {
  if (node.fault)
    throw new Faulty(node.fault.at.measure === '' ? { ...node.fault, at, span: node.list.span } : node.fault)
  const all = [...(node.members ?? new Map<TopicId, { value: Value | null }>()).values()].flatMap(({ value }) =>
    value === null ? [] : [value],
  )
  return {
    count: all.length,
    sum() {
      let total: Value | null = null
      for (const value of all) total = total === null ? value : together(total, value, at)
      return total
    },
    all: () => all,
  }
}

/** Two values of a list added up. A day among them is told by whoever asked for the sum. */
function together(a: Value, b: Value, at: Cell): Value {
  if (a.kind !== 'amount') return a
  if (b.kind !== 'amount') return b
  if (!a.bare && !b.bare && a.unit !== b.unit) throw new Faulty({ kind: 'unit', a: a.unit, b: b.unit, what: 'add', at })
  return amount(a.n.plus(b.n), a.bare ? b.unit : a.unit, a.bare && b.bare)
}
