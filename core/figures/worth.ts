import type { Worth } from '../schedule/earned'
import type { TopicId } from '../tree/topic'
import type { Figures } from './figures'
import { nearly } from './fixed'

/**
 * What tasks are worth by a measure, and what went into them by another (null: nobody keeps that): earned value in money. A task without
 * a figure is worth nothing; what isn't a task isn't in the plan, and doesn't count.
 */
export const worthIn = (figures: Figures, measure: string, spent: string | null): Worth => ({
  of: (task: TopicId) => nearly(figures.of(task, measure).value ?? 0n),
  spent(task: TopicId) {
    const value = spent === null ? null : figures.of(task, spent).value
    return value === null ? null : nearly(value)
  },
})
