import { fold } from '../find/text'
import type { TopicId } from '../tree/topic'
import { isLive, type Tree } from '../tree/tree'
import { isWithin } from '../tree/walk'
import type { Entry, EntryKind } from './entries'

/** Which entries of a comparison are wanted; what isn't said narrows nothing. */
export interface Wanted {
  readonly kind?: EntryKind | ''
  /** A field by its name. */
  readonly field?: string
  /** Somebody who has the topic, here or there. */
  readonly person?: string
  readonly branch?: TopicId | ''
  /** Letters of the title. */
  readonly letters?: string
  /** What both have changed, so that it's asked. */
  readonly asked?: boolean
}

/** The entries that are wanted. Cost: entries, and their depth for a branch. */
export function narrowed(entries: readonly Entry[], here: Tree, there: Tree, wanted: Wanted): Entry[] {
  const letters = fold(wanted.letters?.trim() ?? '')
  const inBranch = (id: TopicId, branch: TopicId): boolean =>
    [here, there].some(
      tree => tree.topics.has(id) && tree.topics.has(branch) && isLive(tree, id) && isWithin(tree, id, branch),
    )
  return entries.filter(({ id, kinds, lines, title, by }) => {
    if (wanted.kind && !kinds.includes(wanted.kind)) return false
    if (wanted.field && !lines.some(({ name }) => name === wanted.field)) return false
    if (wanted.asked && by !== 'both') return false
    if (letters && !fold(title).includes(letters)) return false
    if (wanted.branch && (id === null || !inBranch(id, wanted.branch))) return false
    const { person } = wanted
    return !person || (id !== null && [here, there].some(tree => tree.topics.get(id)?.people.includes(person)))
  })
}
