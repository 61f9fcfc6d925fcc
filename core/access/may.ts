import type { Change } from '../tree/change'
import type { Tree } from '../tree/tree'
import { mayByLink } from './by-link'
import { accountOf, type Principal } from './principal'
import { allows, type Role } from './roles'

/**
 * Whether somebody may make a change: the one place where that is decided, for browser and server alike. `role` is what they
 * have in the tree now, null for none; `tree` is as the change finds it.
 *
 * Editors and owners change everything. Whoever is asked to a meeting says whether they come, whatever their role, and
 * nobody says it for them. Whoever has a link that allows it changes what the link shows. Sun Porch itself does what follows from
 * somebody else's doing.
 */
export function may(principal: Principal, role: Role | null, change: Change, tree: Tree): boolean {
  if (principal.kind === 'app') return true
  if (principal.kind === 'link') return principal.may === 'edit' && mayByLink(principal, change, tree)
  if (principal.kind !== 'guest' && role !== null && allows(role, 'editor')) return true
  return (principal.kind === 'guest' || role !== null) && isOwnAnswer(principal, change, tree)
}

function isOwnAnswer(principal: Principal, change: Change, tree: Tree): boolean {
  if (change.op !== 'put' || change.set !== 'meeting' || change.member.kind !== 'answer') return false
  const parts = tree.topics.get(change.topic)?.meeting
  if (!parts) return false
  const { id, of } = change.member
  // The part that it takes the place of must be an answer of the same person.
  const former = parts.find(part => part.id === id)
  if (former && !(former.kind === 'answer' && former.of === of)) return false
  if (principal.kind === 'guest')
    return change.topic === principal.meeting && of === principal.id && parts.some(part => part.id === of)
  const account = accountOf(principal)
  return parts.some(part => part.kind === 'person' && part.id === of && part.user === account)
}
