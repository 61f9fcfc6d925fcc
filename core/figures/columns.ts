import type { TopicId, Tree } from '../tree'
import { branch } from '../tree'
import type { Figures } from './figures'
import { numeralOf } from './fixed'
import { FAULT_SIGNS } from './words'

/** What a table says of each topic of a part, a column a measure: numbers as they're stored, in reading order. */
export function figureColumns(
  part: Tree,
  figures: Figures,
  root: TopicId = part.centre,
): { readonly headings: readonly string[]; readonly rows: readonly (readonly string[])[] } {
  const { measures } = part.fields
  return {
    headings: measures.map(({ name, unit }) => (unit.trim() ? `${name}, ${unit}` : name)),
    rows: Array.from(branch(part, root), ({ id }) =>
      measures.map(measure => {
        const { value, fault } = figures.of(id, measure.id)
        return fault ? FAULT_SIGNS[fault.kind] : value === null ? '' : numeralOf(value)
      }),
    ),
  }
}
