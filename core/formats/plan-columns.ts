import type { ComputedColumns } from './csv'
import { branch, type TopicId, type Tree } from '../tree'
import type { Plan } from '../schedule/plan'

/** How the columns of a plan are called in a table; none of them is read in again as what somebody entered. */
const HEADINGS = ['planned start', 'planned finish', 'float', 'must not slip', 'days late', 'state'] as const

/**
 * What a plan says of each topic below `root`, it first, in reading order: days (ISO 8601), float and lateness in working days; a branch
 * runs from the first to the last of what is below it. Blank where the plan says nothing. `plan` may be of a larger tree.
 */
export function planColumns(tree: Tree, root: TopicId, plan: Plan): ComputedColumns {
  return {
    headings: HEADINGS,
    rows: Array.from(branch(tree, root), ({ id }) => {
      const task = plan.tasks.get(id)
      if (task)
        return [task.start, task.finish, task.totalFloat ?? '', task.critical ? 'yes' : '', task.late || '', task.state]
      const over = plan.branches.get(id)
      if (over) return [over.start, over.finish, over.totalFloat ?? '', over.critical ? 'yes' : '', '', '']
      return HEADINGS.map(() => '')
    }),
  }
}
