export { initialsOf } from '#core/tree'

const PERSON_HUES = ['#84487a', '#2a6796', '#9a5a22', '#37744a', '#a83a62', '#52628a', '#6c6c1f', '#227780']

/** The same colour for the same person in every browser. All hold white text at 4.5:1. */
export function hueOf(id: string): string {
  let sum = 0
  for (const c of id) sum = (sum * 31 + c.charCodeAt(0)) >>> 0
  return PERSON_HUES[sum % PERSON_HUES.length]!
}
