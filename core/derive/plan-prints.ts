import { type PlanPrint, planPrint } from '../schedule/on-planks'
import type { TopicId } from '../tree/topic'
import { type Derived, NONE_STALE, type Stale } from './derived'
import type { Planning } from './planning'

/** What the plan says on planks. Of a plan that became another it tells only those of which it says something else. */
export class PlanPrints implements Derived {
  private readonly said = new Map<TopicId, string>()
  /** The plan that spoke. */
  private plan: ReturnType<Planning['get']> | null = null

  constructor(private readonly planning: Planning) {}

  of(id: TopicId): readonly PlanPrint[] {
    const print = this.now(id)
    this.plan = this.planning.get()
    this.said.set(id, textOf(print))
    return print
  }

  private now(id: TopicId): PlanPrint[] {
    const planned = this.planning.of(id)
    return planPrint(planned && 'because' in planned ? planned : null)
  }

  /** Is told after the planning was. */
  changed(): Stale {
    if (this.said.size === 0 || this.planning.get() === this.plan) return NONE_STALE
    this.plan = this.planning.get()
    const others = new Set<TopicId>()
    for (const [id, before] of this.said) if (textOf(this.now(id)) !== before) others.add(id)
    for (const id of others) this.said.delete(id)
    return others
  }
}

const textOf = (print: readonly PlanPrint[]): string => print.map(({ text }) => text).join(' ')
