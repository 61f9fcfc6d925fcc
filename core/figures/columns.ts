import type { TopicId, Tree } from '../tree'
import { branch, inOrder } from '../tree'
import type { Figures } from './figures'
import { numeralOf } from './fixed'
import { FAULT_SIGNS } from './words'

/** What a table says of each topic of a part, a column a measure: numbers as they're stored, in reading order. */
export function figureColumns(
  part: Tree,
  figures: Figures,
  root: TopicId = part.centre,
): { readonly headings: readonly string[]; readonly rows: readonly (readonly (string | number)[])[] } {
  const measures = inOrder(part.fields.measures)
  return {
    headings: measures.map(({ name, unit }) => (unit.trim() ? `${name}, ${unit}` : name)),
    rows: Array.from(branch(part, root), ({ id }) =>
      measures.map(measure => {
        const { value, fault } = figures.of(id, measure.id)
        return fault ? FAULT_SIGNS[fault.kind] : value === null ? '' : asNumber(numeralOf(value))
      }),
    ),
  }
}

/** A number where a double says the same digits; else its digits. Only words are guarded where they would begin a formula. */
const asNumber = (numeral: string): string | number => (String(Number(numeral)) === numeral ? Number(numeral) : numeral)
