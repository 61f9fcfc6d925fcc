import type { Numbering, NumberScheme } from './substance'
import type { Topic, TopicId } from './topic'
import { childrenOf, topicOf, type Tree } from './tree'

/*
 * Numbers that topics are called by, worked out from where they stand. `figures`: 1.1.2. `letters`: A.1.a.i, the usual
 * order of an outline. `roman`: I.A.1.a. Common practice, no source.
 */

type Sign = 'figure' | 'upper' | 'lower' | 'roman' | 'small-roman'

const SIGNS: Record<NumberScheme, readonly Sign[]> = {
  figures: ['figure'],
  letters: ['upper', 'figure', 'lower', 'small-roman'],
  roman: ['roman', 'upper', 'figure', 'lower'],
}

/** A, B, … Z, AA, AB, … as columns of a table are named. Counts from 1. */
export function inLetters(value: number): string {
  let text = ''
  for (let left = value; left > 0; left = Math.floor((left - 1) / 26))
    text = String.fromCharCode(65 + ((left - 1) % 26)) + text
  return text
}

const ROMAN: readonly (readonly [number, string])[] = [
  [1000, 'M'],
  [900, 'CM'],
  [500, 'D'],
  [400, 'CD'],
  [100, 'C'],
  [90, 'XC'],
  [50, 'L'],
  [40, 'XL'],
  [10, 'X'],
  [9, 'IX'],
  [5, 'V'],
  [4, 'IV'],
  [1, 'I'],
]

/** Roman numerals; from 4000 on, figures, since the numerals have no sign for more. */
export function inRoman(value: number): string {
  if (value >= 4000) return String(value)
  let left = value
  let text = ''
  for (const [worth, sign] of ROMAN) {
    while (left >= worth) {
      text += sign
      left -= worth
    }
  }
  return text
}

function signOf(value: number, sign: Sign): string {
  switch (sign) {
    case 'figure':
      return String(value)
    case 'upper':
      return inLetters(value)
    case 'lower':
      return inLetters(value).toLowerCase()
    case 'roman':
      return inRoman(value)
    case 'small-roman':
      return inRoman(value).toLowerCase()
  }
}

/** One level's part of a number: the place from 1, at a level from 0 below where the numbering starts. */
export function numberPart(scheme: NumberScheme, level: number, place: number): string {
  const signs = SIGNS[scheme]
  return signOf(place, signs[level % signs.length]!)
}

/** How the children of a topic are numbered. */
export interface Under {
  readonly numbering: Numbering
  readonly level: number
  readonly before: string
}

/**
 * What numbers the children of a topic: its own numbering, which starts anew, or what is left of the one from above.
 */
export function underOf({ numbering }: Topic, above: Under | null, own: string): Under | null {
  if (numbering) return { numbering, level: 0, before: '' }
  return above && above.level + 1 < above.numbering.levels ? { ...above, level: above.level + 1, before: own } : null
}

/** The whole number of the child at a place, counted from 1. */
export function numberUnder(under: Under, place: number): string {
  const part = numberPart(under.numbering.scheme, under.level, place)
  return under.before === '' ? part : `${under.before}.${part}`
}

/** The numbers of all numbered topics, in one walk. */
export function schemeNumbers(tree: Tree): Map<TopicId, string> {
  const numbers = new Map<TopicId, string>()
  const stack: [TopicId, Under | null][] = []
  const enter = (id: TopicId, above: Under | null): void => {
    const under = underOf(topicOf(tree, id), above, numbers.get(id) ?? '')
    const kids = childrenOf(tree, id)
    for (let i = kids.length - 1; i >= 0; i--) {
      if (under) numbers.set(kids[i]!, numberUnder(under, i + 1))
      stack.push([kids[i]!, under])
    }
  }
  for (const root of [tree.centre, ...childrenOf(tree, null)]) {
    enter(root, null)
    while (stack.length > 0) enter(...stack.pop()!)
  }
  return numbers
}
