import { type Derived, NONE_STALE, type Stale } from '../derive/derived'
import type { Planning } from '../derive/planning'
import type { TopicId } from '../tree/topic'
import { childrenOf, type Tree } from '../tree/tree'
import type { Fixed } from './fixed'
import type { Expression, Property } from './formula'
import { Graph, TRIED } from './graph'
import { Hearing } from './hearing'
import { Model } from './model'
import type { CellNode, Node } from './nodes'
import { type Worked, workOut } from './order'
import type { Read } from './parse'
import type { Cell, Fault, Value } from './values'
import { Working } from './working'

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
/** The fields of the tree that all figures stand on. */
const TREE_INPUTS = [
  'measures',
  'namedValues',
  'weekdays',
  'exceptions',
  'planFrom',
  'statusDay',
] as const satisfies readonly (keyof Tree['fields'])[]

/**
 * The figures of a tree, worked out when somebody asks and kept until something that they stand on is another. Figures in a loop are all
 * faulty, and name its members; what stands on something faulty is so with the same cause. In which order they're asked for, and what
 * was asked for before, never changes what they come to.
 */
export class Figures implements Derived, Worked {
  private readonly model: Model
  private readonly graph: Graph
  private readonly hearing: Hearing
  private readonly working: Working
  private fields: Tree['fields'] | null = null

  /** `today`: the present day, ISO 8601. `whatIf`: the assumptions that hold instead of what is so. */
  constructor(
    private readonly tree: () => Tree,
    private readonly planning: Pick<Planning, 'get' | 'of'>,
    private readonly today: () => string,
    readonly whatIf: string | null = null,
  ) {
    this.model = new Model(tree, whatIf)
    this.graph = new Graph(this.model, () => planning.get())
    this.hearing = new Hearing(this.model, this.graph)
    this.working = new Working(this.model, this.graph, planning)
  }

  /** A topic's figure in a measure, without the trash. */
  of(topic: TopicId, measure: string): Result {
    this.begin()
    if (!this.model.measures.has(measure) || !this.tree().topics.has(topic)) return NOTHING
    const node = this.graph.cell(topic, measure)
    workOut(node, this)
    return resultOf(node)
  }
  /** What the topics below come to, whether or not the topic has one of its own; nothing at the ends of the tree. */
  rolled(topic: TopicId, measure: string): Result {
    this.begin()
    const rule = this.model.measures.get(measure)?.rollUp
    if (!rule || rule === 'none' || childrenOf(this.tree(), topic).length === 0) return NOTHING
    const node = this.graph.roll(topic, measure)
    workOut(node, this)
    return { value: node.value, fault: node.fault, own: false, formula: null }
  }
  /** What a named value comes to. */
  named(id: string): Result {
    this.begin()
    if (!this.model.values.has(id)) return NOTHING
    const node = this.graph.cell(null, id)
    workOut(node, this)
    return resultOf(node)
  }
  /** What a formula would find in a topic besides its measures. */
  propertyOf(topic: TopicId, name: Property): Value | null {
    this.begin()
    return this.working.property(topic, name)
  }
  /** What a formula would come to if the topic had it: for showing it before it's kept. */
  tried(topic: TopicId, measure: string, read: Read): { readonly value: Fixed | null; readonly fault: Fault | null } {
    const at: Cell = { topic, measure }
    return this.trying(at, read.expression, trial => {
      const own = this.graph.cell(topic, measure)
      if (trial.ins.some(node => this.leadsTo(node, own)))
        return { value: null, fault: { kind: 'loop', at, members: [at] } }
      this.work(trial)
      return { value: trial.value, fault: trial.fault }
    })
  }
  /** Whether a part of a formula comes to nothing for a topic (null for a named value's). What is faulty isn't nothing. */
  isNothing(part: Expression, topic: TopicId | null): boolean {
    return this.trying({ topic, measure: '' }, part, trial => this.working.isNothing(trial))
  }
  /** Whether a member of a list is passed over: it has nothing of what the list asks for. */
  isPassedOver(part: Expression, member: TopicId): boolean {
    this.begin()
    return this.working.isEmptyFor(part, member, false) || this.isNothing(part, member)
  }
  private trying<T>(at: Cell, formula: Expression, then: (trial: CellNode) => T): T {
    this.begin()
    const trial: CellNode = { ...this.graph.newCell(at), formula, text: TRIED }
    trial.ins = this.graph.inputsOf(formula, at.topic, trial)
    try {
      for (const node of trial.ins) workOut(node, this)
      return then(trial)
    } finally {
      this.graph.untie(trial)
    }
  }
  private leadsTo(from: Node, wanted: Node): boolean {
    const seen = new Set<Node>([from])
    const stack = [from]
    while (stack.length > 0) {
      const node = stack.pop()!
      if (node === wanted) return true
      for (const next of this.graph.standsOn(node, true))
        if (!seen.has(next)) {
          seen.add(next)
          stack.push(next)
        }
    }
    return false
  }
  changed(touched: Stale): Stale {
    if (!this.graph.known) return NONE_STALE
    const tree = this.tree()
    if (touched === 'all' || this.areOthers(tree.fields)) {
      this.graph.forget()
      return 'all'
    }
    this.graph.told = new Set()
    for (const id of touched) if (id !== null) this.hearing.heard(id)
    if (this.graph.byPlan.size > 0 && this.planning.get() !== this.graph.plan) {
      this.graph.plan = this.planning.get()
      for (const node of this.graph.byPlan) this.graph.spoil(node)
    }
    const told = this.graph.told
    this.graph.told = new Set()
    return told.size > 0 ? told : NONE_STALE
  }

  private areOthers(fields: Tree['fields']): boolean {
    const before = this.fields!
    this.fields = fields
    return TREE_INPUTS.some(name => before[name] !== fields[name])
  }
  /** Begins anew where nothing was worked out yet, or on another day. */
  private begin(): void {
    const today = this.today()
    if (this.graph.known && this.graph.day === today) return
    const tree = this.tree()
    this.fields = tree.fields
    this.model.begin()
    this.graph.begin(tree, today)
  }

  // — What a walk does to nodes

  standsOn(node: Node): readonly Node[] {
    return this.graph.standsOn(node, false)
  }
  isPlainNumber(node: Node): boolean {
    if (node.kind !== 'cell') return false
    this.graph.prepare(node)
    if (node.text === null || node.formula || node.ins.length > 0) return false
    this.work(node)
    return true
  }
  work(node: Node): void {
    this.working.work(node)
  }
  loop(nodes: readonly Node[]): void {
    this.working.loop(nodes)
  }
}

function resultOf({ value, fault, text, formula }: CellNode): Result {
  return { value, fault, own: text !== null, formula: formula || text?.startsWith('=') ? text!.slice(1) : null }
}
