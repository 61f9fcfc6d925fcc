import { FUNCTIONS, GATHERINGS, PROPERTIES } from './formula'
import type { FormulaNames } from './parse'
import { needsQuotes } from './vocabulary'

/** A word that may go on from what is typed, and where it goes. */
export interface Completion {
  readonly name: string
  /** What is put in place of the characters between. */
  readonly text: string
  readonly from: number
  readonly to: number
  /** What it means, in a word or two. */
  readonly about: string
}

const ABOUT: Readonly<Record<string, string>> = {
  start: 'the day it begins',
  finish: 'the day it ends',
  due: 'its due date',
  length: 'working days it takes',
  float: 'working days it may slip',
  work: 'hours of work in it',
  done: 'how far it is',
  sum: 'of children, or of all below',
  mean: 'of what there is',
  median: 'the one in the middle',
  min: 'the least',
  max: 'the most',
  count: 'how many',
  if: 'condition; then; else',
  round: 'to so many places',
  'round up': 'away from zero',
  'round down': 'towards zero',
  abs: 'without its sign',
  workdays: 'working days between two days',
  workday: 'so many working days after',
  days: 'days between two days',
  children: 'the topics right below',
  'all below': 'the whole branch',
  parent: 'the topic above',
  centre: 'the tree’s first topic',
  today: 'the present day',
  marked: 'with a marker',
}

/** What may stand at the caret of a typed formula: what the letters before it begin, or what they're in. */
export function completionsOf(typed: string, caret: number, names: FormulaNames): Completion[] {
  const before = typed.slice(0, caret)
  const quote = /(?:\bof\s+)"([^"]*)$/i.exec(before)
  if (quote) return []
  const found = /(?:^=|[^\p{L}\p{N}_"'’])([\p{L}_][\p{L}\p{N}_]*)$/u.exec(before)
  if (!found) return []
  const word = found[1]!.toLocaleLowerCase()
  const [from, to] = [caret - word.length, caret]
  const afterOf = /\bof\s+\p{L}*$/iu.test(before)
  const afterMarked = /\bmarked\s+\p{L}*$/iu.test(before)
  const named = (name: string, about: string, text = name): Completion => ({ name, text, from, to, about })
  const all = afterMarked
    ? names.markers.map(({ name }) => named(name, 'marker', `"${name}"`))
    : afterOf
      ? ['children', 'all below', 'parent', 'centre'].map(name => named(name, ABOUT[name]!))
      : [
          ...names.measures.map(({ name }) => named(name, 'measure', needsQuotes(name) ? `'${name}'` : name)),
          ...names.values.map(({ name }) => named(name, 'named value', needsQuotes(name) ? `'${name}'` : name)),
          ...GATHERINGS.map(name => named(name, ABOUT[name]!, `${name}(`)),
          ...FUNCTIONS.map(name => named(name, ABOUT[name]!, `${name}(`)),
          ...PROPERTIES.map(name => named(name, ABOUT[name]!)),
          ...['children', 'all below', 'today'].map(name => named(name, ABOUT[name]!)),
        ]
  return all.filter(({ name }) => {
    const folded = name.toLocaleLowerCase()
    return folded.startsWith(word) && folded !== word
  })
}
