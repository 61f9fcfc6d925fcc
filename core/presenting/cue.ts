import { noteWords } from '../tree/note'
import { childrenOf, topicOf, type TopicId, type Tree } from '../tree'
import type { Step } from './steps'

/** What the speaker alone sees of a step: what to say, what comes next. */
export interface Cue {
  /** The step's place, from 1, of how many. */
  readonly place: number
  readonly of: number
  readonly title: string
  /** The note of its topic, a paragraph a line; empty when there is none. */
  readonly note: readonly string[]
  /** The titles right below it. */
  readonly parts: readonly string[]
  readonly next: { readonly title: string; readonly parts: readonly string[] } | null
}

/** What is told of a step in a second window. `numberOf` gives a topic's number in the tree, '' for none. */
export function cueOf(tree: Tree, steps: readonly Step[], at: number, numberOf: (id: TopicId) => string): Cue {
  const named = (id: TopicId): string =>
    [numberOf(id), topicOf(tree, id).title.replaceAll('\n', ' ') || 'untitled'].filter(Boolean).join(' ')
  const partsOf = (id: TopicId): string[] => childrenOf(tree, id).map(named)
  const [step, next] = [steps[at]!, steps[at + 1]]
  return {
    place: at + 1,
    of: steps.length,
    title: named(step.topic),
    note: noteWords(topicOf(tree, step.topic).note)
      .split('\n')
      .map(line => line.trim())
      .filter(Boolean),
    parts: partsOf(step.topic),
    next: next ? { title: named(next.topic), parts: partsOf(next.topic) } : null,
  }
}
