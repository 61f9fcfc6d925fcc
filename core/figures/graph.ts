import { planTest } from '../find/plan-test'
import { compile } from '../find/evaluate'
import type { Topic, TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import { branch } from '../tree/walk'
import { type Expression, type List, partsOf } from './formula'
import { isNumeral } from './fixed'
import type { Model } from './model'
import type { CellNode, ListNode, Node, SumNode } from './nodes'
import { eachOut, type Outs, withOut, withoutOut } from './outs'
import { FormulaError } from './reading'
import { Shapes } from './shapes'
import type { Cell } from './values'

/** Instead of its text, what a formula has that is only tried. */
export const TRIED = '='
/** Most cells have none. */
const NO_NODES: readonly Node[] = []
const NO_TOPICS: readonly TopicId[] = []

/** What stands on what: nodes, made when somebody asks for them, and what they have to wait for. */
export class Graph {
  readonly cells = new Map<string, Map<TopicId | null, CellNode>>()
  readonly rolls = new Map<string, Map<TopicId, SumNode>>()
  readonly belows = new Map<string, Map<TopicId, SumNode>>()
  readonly lists = new Map<TopicId, Set<ListNode>>()
  private readonly listOf = new Map<List, Map<TopicId, ListNode>>()
  /** Formulas that ask for a topic's place, for a named topic, for what the plan says. */
  readonly byParent = new Set<Node>()
  readonly byTopic = new Map<TopicId, NonNullable<Outs>>()
  readonly byPlan = new Set<Node>()
  /**
   * Formulas that ask for a number which somebody gave to the topic above or the centre, by measure. Most of what formulas stand on
   * are numbers: they're read where they're asked for, and need no node. Whoever doesn't stand on one any more is only worked out once
   * too often.
   */
  readonly byGiven = new Map<string, Map<TopicId, NonNullable<Outs>>>()
  /** The topics that all was worked out from; null while nothing was. */
  known: Map<TopicId, Topic> | null = null
  /** The present day, ISO 8601. */
  day = ''
  /** The plan that formulas were worked out with. */
  plan: unknown = null
  /** Topics whose figures may be others, since somebody last took it. */
  told = new Set<TopicId | null>()
  private readonly shapes = new Shapes()

  constructor(
    private readonly model: Model,
    private readonly planned: () => unknown,
  ) {}

  forget(): void {
    this.known = null
    for (const nodes of [this.cells, this.rolls, this.belows, this.lists, this.listOf, this.byTopic, this.byGiven])
      nodes.clear()
    this.byParent.clear()
    this.byPlan.clear()
  }
  begin(tree: Tree, day: string): void {
    this.forget()
    this.day = day
    this.plan = null
    this.known = new Map(tree.topics)
  }

  newCell(cell: Cell): CellNode {
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
      ins: NO_NODES,
      watches: NO_TOPICS,
      value: null,
      exact: null,
    }
  }
  cell(topic: TopicId | null, measure: string): CellNode {
    let nodes = this.cells.get(measure)
    if (!nodes) this.cells.set(measure, (nodes = new Map()))
    let node = nodes.get(topic)
    if (!node) nodes.set(topic, (node = this.newCell({ topic, measure })))
    return node
  }
  summed(kind: 'roll' | 'below', topic: TopicId, measure: string): SumNode {
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
  roll = (topic: TopicId, measure: string): SumNode => this.summed('roll', topic, measure)
  listed(list: List, topic: TopicId): ListNode {
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
  /** Reads a cell's text anew where it's another. */
  prepare(node: CellNode): void {
    const text = this.model.textOf(node.cell)
    if (text === node.text) return
    this.untie(node)
    node.text = text
    node.formula = null
    node.unread = null
    if (text === null || !text.startsWith('=')) return
    try {
      node.formula = this.shapes.read(text.slice(1))
    } catch (error) {
      if (!(error instanceof FormulaError)) throw error
      node.unread = { kind: 'sense', message: error.message, at: node.cell, span: error.span }
      return
    }
    node.ins = this.inputsOf(node.formula, node.cell.topic, node)
  }
  untie(node: CellNode): void {
    for (const input of node.ins) {
      input.outs = withoutOut(input.outs, node)
      if (input.kind === 'list' && input.outs === null) this.drop(input)
    }
    node.ins = NO_NODES
    this.byParent.delete(node)
    this.byPlan.delete(node)
    for (const topic of node.watches) this.unwatch(topic, node)
    node.watches = NO_TOPICS
  }
  /** A list that no formula asks for any more. */
  private drop(node: ListNode): void {
    this.listOf.get(node.list)?.delete(node.topic)
    this.lists.get(node.topic)?.delete(node)
    for (const [input] of node.via) input.outs = withoutOut(input.outs, node)
    this.byParent.delete(node)
    this.byPlan.delete(node)
    for (const topic of [...this.byTopic.keys()]) this.unwatch(topic, node)
  }
  /** All that an expression may stand on, whichever way its conditions go; ties the node to them. */
  inputsOf(
    expression: Expression,
    topic: TopicId | null,
    node: Node,
    member: TopicId | null = null,
    ownOnly = false,
  ): Node[] {
    const found: Node[] = []
    const tie = (input: Node): void => {
      found.push(input)
      input.outs = withOut(input.outs, node)
      if (node.kind === 'list' && member !== null) {
        const via = node.via.get(input)
        if (via) via.add(member)
        else node.via.set(input, new Set([member]))
      }
    }
    const walk = (it: Expression, at: TopicId | null): void => {
      switch (it.kind) {
        case 'measure':
          if (at === null || !this.model.measures.has(it.id)) return
          if (node.kind === 'cell' && this.isGiven(node, at, it.id)) return
          if (ownOnly && at === member && this.model.textOf({ topic: at, measure: it.id }) === null) return
          return tie(this.cell(at, it.id))
        case 'value':
          if (this.model.values.has(it.id)) tie(this.cell(null, it.id))
          return
        case 'property':
          this.asksPlan(node)
          if (at !== null) this.watch(at, node)
          return
        case 'at': {
          if (it.place.kind === 'parent') this.byParent.add(node)
          const there = this.model.place(at, it.place)
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
    // A list that was put together has room for many more; it's kept as long as it is.
    return found.slice()
  }
  /** Whether what a formula asks for is a plain number; hears of it when it's another. */
  private isGiven(node: CellNode, topic: TopicId, measure: string): boolean {
    const own = node.cell.topic === topic
    if (own && node.cell.measure === measure) return false
    const text = this.model.textAt(topic, measure)
    if (text === null || !isNumeral(text)) return false
    // Its own topic's figures and those of a named one are heard of anyway; what is only tried is forgotten at once.
    if (own || node.text === TRIED || node.watches.includes(topic)) return true
    let nodes = this.byGiven.get(measure)
    if (!nodes) this.byGiven.set(measure, (nodes = new Map()))
    nodes.set(topic, withOut(nodes.get(topic) ?? null, node))
    return true
  }
  asksPlan(node: Node): void {
    if (this.byPlan.size === 0) this.plan = this.planned()
    this.byPlan.add(node)
  }
  watch(topic: TopicId, node: Node): void {
    if (node.kind === 'cell') node.watches = [...node.watches, topic]
    this.byTopic.set(topic, withOut(this.byTopic.get(topic) ?? null, node))
  }
  private unwatch(topic: TopicId, node: Node): void {
    const left = withoutOut(this.byTopic.get(topic) ?? null, node)
    if (left === null) this.byTopic.delete(topic)
    else this.byTopic.set(topic, left)
  }
  /** All figures of a measure below: kept level by level, so that one that changes is one sum a level. */
  isPlain = (list: List): boolean =>
    list.scope === 'all below' &&
    list.when === null &&
    !list.each &&
    list.of?.kind === 'measure' &&
    this.model.measures.has(list.of.id)
  /** What a node has to wait for; `all`: also what stands already. */
  standsOn(node: Node, all: boolean): readonly Node[] {
    if (node.kind === 'cell') {
      this.prepare(node)
      const { topic, measure } = node.cell
      if (node.text !== null) return node.ins
      if (topic === null || !this.model.rollsUp(topic, measure)) return []
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
    const by = node.kind === 'roll' ? this.model.measures.get(measure)!.by : null
    const found: Node[] = []
    for (const child of all || !node.sum ? this.model.children(topic) : node.stale) {
      if (!this.model.isChild(child, topic)) continue
      if (node.kind === 'roll') {
        found.push(this.cell(child, measure))
        if (by !== null && this.model.measures.has(by)) found.push(this.cell(child, by))
      } else {
        if (this.model.textOf({ topic: child, measure }) !== null) found.push(this.cell(child, measure))
        if (this.model.children(child).length > 0) found.push(this.summed('below', child, measure))
      }
    }
    return found
  }
  gatherMembers(node: ListNode): void {
    const tree = this.model.tree()
    const { list, topic } = node
    const fits = list.when
      ? compile(list.when, tree, {
          me: '',
          today: this.day,
          changesOf: () => [],
          talkOf: () => null,
          dayOf: instant => instant.slice(0, 10),
          planTest,
        })
      : () => true
    node.fits = fits
    for (const [input] of node.via) input.outs = withoutOut(input.outs, node)
    node.via.clear()
    node.members = new Map()
    node.stale.clear()
    const ids =
      list.scope === 'children' ? this.model.children(topic) : [...branch(tree, topic)].slice(1).map(({ id }) => id)
    for (const id of ids) node.stale.add(id)
  }
  prepareMember(node: ListNode, id: TopicId): void {
    const { list, topic } = node
    const it = this.model.tree().topics.get(id)
    for (const input of node.members!.get(id)?.ins ?? []) {
      const via = node.via.get(input)
      via?.delete(id)
      if (via?.size === 0) {
        node.via.delete(input)
        input.outs = withoutOut(input.outs, node)
      }
    }
    const isThere = list.scope === 'all below' ? this.model.hangsBelow(id, topic) : this.model.isChild(id, topic)
    if (!it || !isThere || !node.fits!(it)) {
      node.members!.delete(id)
      return
    }
    const ins = list.of ? this.inputsOf(list.of, id, node, id, list.scope === 'all below') : []
    node.members!.set(id, { value: null, fault: null, ins })
  }
  /** Marks a node and all that stands on it. */
  spoil(first: Node): void {
    const stack: Node[] = [first]
    while (stack.length > 0) {
      const node = stack.pop()!
      const topic = node.kind === 'cell' ? node.cell.topic : node.topic
      if (topic !== null) this.told.add(topic)
      if (node.dirty) continue
      node.dirty = true
      if (node.outs)
        for (const next of eachOut(node.outs)) {
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
        for (const weighted of this.model.weightOf.get(node.cell.measure) ?? []) above(this.rolls.get(weighted))
      } else if (node.kind === 'roll') {
        const cell = this.cells.get(node.measure)?.get(topic)
        if (cell) stack.push(cell)
      } else if (node.kind === 'below') above(this.belows.get(node.measure))
    }
  }
}
