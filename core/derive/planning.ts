import type { NoPlan } from '../schedule/compiled'
import { type Plan, Planner } from '../schedule/plan'
import type { Planned, PlannedBranch } from '../schedule/planned'
import type { Topic, TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import { type Derived, NONE_STALE, type Stale } from './derived'

/** What the plan is computed from: the fields and sets of a topic … */
const INPUTS = [
  'parent',
  'order',
  'removed',
  'tray',
  'start',
  'due',
  'duration',
  'done',
  'priority',
  'people',
  'effort',
  'estimate',
  'startMeans',
  'dueMeans',
  'began',
  'ended',
  'left',
  'waits',
] as const satisfies readonly (keyof Topic)[]
/** … and those of the tree. */
const TREE_INPUTS = [
  'planFrom',
  'statusDay',
  'weekdays',
  'dayHours',
  'exceptions',
] as const satisfies readonly (keyof Tree['fields'])[]

const alike = <T extends object>(a: T | undefined, b: T | undefined, keys: readonly (keyof T)[]): boolean =>
  a === b || (a !== undefined && b !== undefined && keys.every(key => a[key] === b[key]))

/**
 * The plan of a tree, kept until something that it's computed from is another: a title, a note, a colour isn't. Of what is said of tasks
 * alone, no more is worked out anew than it moves.
 */
export class Planning implements Derived {
  private kept: { readonly plan: Plan | NoPlan; readonly today: string } | null = null
  /** What made it, and the topics that have become others since; null where another one must be made. */
  private planner: Planner | null = null
  private readonly touched = new Set<TopicId>()
  /** What it was computed from. */
  private from = new Map<TopicId, Topic>()
  private fields: Tree['fields'] | null = null
  private day = ''

  /** `today`: the present day, ISO 8601. */
  constructor(
    private readonly tree: () => Tree,
    private readonly today: () => string,
  ) {}

  /** The plan, or why there is none. */
  get(): Plan | NoPlan {
    const today = this.today()
    if (this.kept?.today === today) return this.kept.plan
    const tree = this.tree()
    const plan = this.followed(tree, today) ?? this.made(tree, today)
    this.kept = { plan, today }
    return plan
  }

  /** The plan as the planner that is there goes on with it; null where it can't. */
  private followed(tree: Tree, today: string): Plan | null {
    if (!this.planner?.isOf(tree) || this.day !== today || !alike(this.fields ?? undefined, tree.fields, TREE_INPUTS))
      return null
    if (!this.planner.follow(this.touched, id => this.from.get(id))) return null
    for (const id of this.touched) this.from.set(id, tree.topics.get(id)!)
    this.touched.clear()
    return this.planner.plan
  }

  private made(tree: Tree, today: string): Plan | NoPlan {
    const planner = Planner.of(tree, today)
    this.planner = typeof planner === 'string' ? null : planner
    this.touched.clear()
    this.fields = tree.fields
    this.day = today
    this.from = planner === 'off' ? new Map() : new Map(tree.topics)
    return typeof planner === 'string' ? planner : planner.plan
  }

  /** What is computed of a topic: a task, or a branch; null where it's neither, or there is no plan. */
  of(id: TopicId): Planned | PlannedBranch | null {
    const plan = this.get()
    return typeof plan === 'string' ? null : (plan.tasks.get(id) ?? plan.branches.get(id) ?? null)
  }

  changed(touched: Stale): Stale {
    if (touched === 'all') this.planner = null
    if (!this.kept && this.planner === null) return NONE_STALE
    if (touched !== 'all' && !this.concerns(touched)) return NONE_STALE
    this.kept = null
    return 'all'
  }

  private concerns(touched: ReadonlySet<TopicId | null>): boolean {
    const tree = this.tree()
    if (!alike(this.fields ?? undefined, tree.fields, TREE_INPUTS)) {
      this.planner = null
      return true
    }
    this.fields = tree.fields
    if (this.kept?.plan === 'off') return false
    let concerned = false
    for (const id of touched) {
      if (id === null) continue
      const now = tree.topics.get(id)
      if (!alike(this.from.get(id), now, INPUTS)) {
        concerned = true
        if (this.planner && now && this.from.has(id)) this.touched.add(id)
        else this.planner = null
      } else if (now && !this.touched.has(id)) this.from.set(id, now)
    }
    return concerned
  }
}
