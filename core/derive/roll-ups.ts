import { isTask, type Topic, type TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { type Derived, NONE_STALE, type Stale } from './derived'

/**
 * What a branch comes to: the tasks at its ends (a task with tasks below stands for those), when the first begins and
 * the last is due, and how far they are. Rules of 4-computation, "Roll-ups"; common practice, no source.
 */
export interface RollUp {
  /** How many tasks stand at the ends of the branch. */
  readonly tasks: number
  readonly done: number
  readonly underWay: number
  /** The earliest start or due date below, ISO 8601; null when there is none. */
  readonly start: string | null
  /** The latest due or start date below. */
  readonly finish: string | null
  /**
   * Percent done, 0 to 100, not rounded: the mean of the tasks, weighted by their lengths when every one has a length
   * that isn't zero. Null without tasks.
   */
  readonly percent: number | null
}

/** Sums that add up in any order: integers and half days, so exact. */
interface Sum {
  readonly tasks: number
  readonly done: number
  readonly underWay: number
  readonly start: string | null
  readonly finish: string | null
  readonly percents: number
  /** Working days of all; null when a task among them has none. */
  readonly days: number | null
  readonly percentDays: number
}

const EMPTY: Sum = { tasks: 0, done: 0, underWay: 0, start: null, finish: null, percents: 0, days: 0, percentDays: 0 }

/** What each branch comes to, below its own topic. A change is summed anew on its path to the root, no more. */
export class RollUps implements Derived {
  private readonly sums = new Map<TopicId, Sum>()

  constructor(private readonly tree: () => Tree) {}

  /** What stands below a topic; null when nothing there is a task. */
  of(id: TopicId): RollUp | null {
    const sum = this.below(id)
    if (sum.tasks === 0) return null
    const { tasks, done, underWay, start, finish, percents, days, percentDays } = sum
    return { tasks, done, underWay, start, finish, percent: days ? percentDays / days : percents / tasks }
  }

  changed(touched: Stale): Stale {
    if (this.sums.size === 0) return NONE_STALE
    if (touched === 'all') {
      this.sums.clear()
      return 'all'
    }
    const tree = this.tree()
    const others = new Set<TopicId | null>()
    for (const id of touched)
      for (let at = id; at !== null && !others.has(at); at = tree.topics.get(at)?.parent ?? null) {
        this.sums.delete(at)
        others.add(at)
      }
    return others
  }

  /** Adds up from the leaves, what isn't known alone; without recursion, since a tree may be as deep as it likes. */
  private below(root: TopicId): Sum {
    const tree = this.tree()
    const stack = [root]
    while (stack.length > 0) {
      const id = stack.at(-1)!
      const kids = childrenOf(tree, id)
      const unknown = this.sums.has(id) ? [] : kids.filter(kid => !this.sums.has(kid))
      if (unknown.length > 0) {
        stack.push(...unknown)
        continue
      }
      stack.pop()
      if (this.sums.has(id)) continue
      this.sums.set(
        id,
        kids.reduce((sum, kid) => added(sum, this.whole(topicOf(tree, kid))), EMPTY),
      )
    }
    return this.sums.get(root)!
  }

  /** A topic with what is below: tasks below stand for it, else it may be one itself. */
  private whole(topic: Topic): Sum {
    const below = this.sums.get(topic.id)!
    return below.tasks > 0 || !isTask(topic) ? below : alone(topic)
  }
}

function alone({ start, due, done, duration }: Topic): Sum {
  const percent = done ?? 0
  return {
    tasks: 1,
    done: percent === 100 ? 1 : 0,
    underWay: percent > 0 && percent < 100 ? 1 : 0,
    start: start ?? due,
    finish: due ?? start,
    percents: percent,
    days: duration || null,
    percentDays: percent * (duration ?? 0),
  }
}

const first = (a: string | null, b: string | null): string | null => (a === null || (b !== null && b < a) ? b : a)
const last = (a: string | null, b: string | null): string | null => (a === null || (b !== null && b > a) ? b : a)

function added(a: Sum, b: Sum): Sum {
  if (b.tasks === 0) return a
  return {
    tasks: a.tasks + b.tasks,
    done: a.done + b.done,
    underWay: a.underWay + b.underWay,
    start: first(a.start, b.start),
    finish: last(a.finish, b.finish),
    percents: a.percents + b.percents,
    days: a.days === null || b.days === null ? null : a.days + b.days,
    percentDays: a.percentDays + b.percentDays,
  }
}
