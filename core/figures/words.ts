import { shorten } from '../tree/title'
import type { Unit } from './units'
import type { Cell, Fault } from './values'

/** Names for what a fault speaks of. */
export interface FaultNames {
  /** A topic's title, also one in the trash; null where it was never known. */
  titleOf(topic: string): string | null
  /** The name of a measure or a named value. */
  measureName(id: string): string | null
}

const unitWords = (unit: Unit): string => (unit === '' ? 'a plain number' : `“${unit}”`)

/** A figure by name: “Cost” of “Lift”. */
export function cellInWords(cell: Cell, names: FaultNames): string {
  const measure = `“${names.measureName(cell.measure) ?? 'a measure that is gone'}”`
  return cell.topic === null ? measure : `${measure} of “${shorten(names.titleOf(cell.topic) || 'untitled', 40)}”`
}

/** Why a figure can't be worked out, in a sentence. `of`: the figure that shows it. */
export function faultInWords(fault: Fault, of: Cell, names: FaultNames): string {
  const reason = reasonInWords(fault, names)
  const own = fault.at.topic === of.topic && fault.at.measure === of.measure
  return own || fault.kind === 'loop' ? reason : `It stands on ${cellInWords(fault.at, names)}. There: ${lower(reason)}`
}

const lower = (sentence: string): string => sentence[0]!.toLocaleLowerCase() + sentence.slice(1)

function reasonInWords(fault: Fault, names: FaultNames): string {
  switch (fault.kind) {
    case 'loop': {
      if (fault.members.length <= 1) return 'It would stand on itself.'
      const [first, ...rest] = fault.members.slice(0, 4).map(cell => cellInWords(cell, names))
      const more = fault.members.length > 4 ? ` and ${fault.members.length - 4} more` : ''
      return `These stand on one another: ${[first, ...rest].join(', ')}${more}. Give one of them a number.`
    }
    case 'missing': {
      if (fault.what === 'measure') return 'A measure that it names isn’t there any more.'
      if (fault.what === 'value') return 'A named value isn’t there any more.'
      if (fault.id === 'parent') return 'It has no parent.'
      const title = names.titleOf(fault.id)
      return title === null
        ? 'A topic that it names isn’t there any more.'
        : `“${shorten(title, 40)}” isn’t there any more.`
    }
    case 'unit':
      return fault.what === 'keep'
        ? `It comes out in ${unitWords(fault.b)}, and is to be in ${unitWords(fault.a)}.`
        : `${capital(unitWords(fault.a))} and ${unitWords(fault.b)} can’t be ${fault.what === 'add' ? 'added up' : 'compared'}.`
    case 'zero':
      return 'It’s divided by zero.'
    case 'large':
      return 'It comes to more than 15 digits.'
    case 'type':
      return `${capital(TYPES[fault.wanted])} is meant, and this is ${TYPES[fault.found as keyof typeof TYPES] ?? 'something else'}.`
    case 'sense':
      return fault.message
  }
}
const TYPES = { number: 'a number', amount: 'a number', day: 'a day', truth: 'yes or no' }
const capital = (words: string): string => words[0]!.toLocaleUpperCase() + words.slice(1)

/** A fault in a word or two, for where there's little room. */
export const FAULT_SIGNS: Record<Fault['kind'], string> = {
  loop: 'loop',
  missing: 'missing',
  unit: 'unit',
  zero: '÷ 0',
  large: 'too large',
  type: 'no number',
  sense: 'unclear',
}
