import type { Grouping } from '#core/tree/view'

/** By what rows are grouped, in words. */
export const GROUP_NAMES: Readonly<Record<Grouping, string>> = {
  person: 'by person',
  marker: 'by marker',
  state: 'by state',
  due: 'by due date',
}
