import type { Change } from '../tree/change'
import type { TopicId } from '../tree/topic'
import { childrenOf, isLive, type Tree } from '../tree/tree'
import { isWithin } from '../tree/walk'
import type { LinkGuest } from './principal'

/*
 * What whoever holds a link may do to a tree: little, and only to what the link shows. What a topic says beyond that (notes, files,
 * figures, how it looks) stays with those who are in the tree.
 */

/** Fields that a guest may set; those of tasks only where the link shows tasks. */
const TEXT = new Set(['title'])
const TASK = new Set(['done', 'due'])
/** What else goes on when a turn of a task that comes again is finished, or that is taken back. */
const TURN = new Set(['start', 'began', 'ended', 'left'])

const comesAgain = (tree: Tree, id: TopicId): boolean => (tree.topics.get(id)?.again ?? null) !== null

/** Whether a change says that a turn was done, in nobody's name, or ticks the checklist for it anew and nothing else. */
function isOfTurn(change: Extract<Change, { op: 'put' | 'take' }>, tree: Tree): boolean {
  if (!comesAgain(tree, change.topic)) return false
  if (change.op === 'take') return change.set === 'turns'
  if (change.set === 'turns') return change.member.by === null
  if (change.set !== 'checks') return false
  const { done: _, ...said } = change.member
  const { done: __, ...stood } = tree.topics.get(change.topic)!.checks.find(({ id }) => id === said.id) ?? {
    done: false,
  }
  return JSON.stringify(said) === JSON.stringify(stood)
}

/** Whether a topic that is in the tree is among those that a link shows. */
export function showsTopic({ branch, shown }: Pick<LinkGuest, 'branch' | 'shown'>, id: TopicId, tree: Tree): boolean {
  if (!tree.topics.has(id) || !isLive(tree, id)) return false
  return (branch === null || isWithin(tree, id, branch)) && (shown === null || shown.has(id))
}

/** Whether all that would go with a topic is shown too, and something stays: a link takes nothing away unseen, nor what it begins with. */
export function mayTakeAway(guest: LinkGuest, id: TopicId, tree: Tree): boolean {
  if (id === tree.centre || id === guest.branch || !showsTopic(guest, id, tree)) return false
  return guest.shown === null || childrenOf(tree, id).every(child => mayTakeAway(guest, child, tree))
}

/** Whether somebody with a link that may be edited by may make a change; `tree` is as the change finds it. */
export function mayByLink(guest: LinkGuest, change: Change, tree: Tree): boolean {
  switch (change.op) {
    case 'add':
      return (
        change.parent !== null &&
        showsTopic(guest, change.parent, tree) &&
        Object.keys(change.with ?? {}).every(field => TEXT.has(field))
      )
    case 'set': {
      const allowed =
        TEXT.has(change.field) ||
        (guest.tasks && (TASK.has(change.field) || (TURN.has(change.field) && comesAgain(tree, change.topic))))
      // A reference says what its original says, which may stand elsewhere.
      return allowed && showsTopic(guest, change.topic, tree) && tree.topics.get(change.topic)!.reference === null
    }
    case 'place': {
      // From place to place among what it hangs with: whatever would leave or enter the part isn't a guest's to move.
      const topic = tree.topics.get(change.topic)
      return (
        topic !== undefined &&
        change.topic !== guest.branch &&
        change.parent !== null &&
        change.parent === topic.parent &&
        showsTopic(guest, change.topic, tree) &&
        (guest.branch === null || isWithin(tree, change.parent, guest.branch))
      )
    }
    case 'put':
    case 'take':
      return guest.tasks && showsTopic(guest, change.topic, tree) && isOfTurn(change, tree)
    case 'remove':
      return mayTakeAway(guest, change.topic, tree)
    case 'restore': {
      const parent = tree.topics.get(change.topic)?.parent ?? null
      return parent !== null && showsTopic(guest, parent, tree)
    }
    default:
      return false
  }
}
