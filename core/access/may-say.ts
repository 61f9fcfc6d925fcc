import { BENCH, MOST_IN_THREAD, type Saying } from '../talk/saying'
import type { About } from '../talk/thread'
import { accountOf, type LinkGuest, type Principal } from './principal'
import { allows, type Role } from './roles'

/** Why something can't be said. */
export type Unsaid =
  'role' | 'not-yours' | 'no-thread' | 'no-comment' | 'no-place' | 'place' | 'withdrawn' | 'full' | 'taken' | 'bench'

export const UNSAID: Readonly<Record<Unsaid, string>> = {
  role: 'Your role in this tree doesn’t allow that.',
  'not-yours': 'Only whoever wrote a comment may change it.',
  'no-thread': 'There is no such thread.',
  'no-comment': 'There is no such comment.',
  'no-place': 'A thread has to say what it hangs on.',
  place: 'A comment in a thread hangs where its thread does.',
  withdrawn: 'That comment was withdrawn.',
  full: `A thread has ${MOST_IN_THREAD.toLocaleString('en')} comments at most. Begin another.`,
  taken: 'Another comment has this id already.',
  bench: 'The talk of the tree isn’t settled.',
}

/**
 * Whether somebody may say something: the one place where that is decided, for browser and server alike; null when they
 * may, else why not. `about` is what it's about, as it is now.
 *
 * Commenters and whoever may more say things, settle threads and open them again, and change and withdraw what they said
 * themselves; owners withdraw anything. That a comment was made into a topic is said by whoever may make topics. Whoever has a link
 * that allows it says things about topics, and no more.
 */
export function maySay(
  principal: Principal,
  role: Role | null,
  saying: Saying,
  { thread, comment }: About,
): Unsaid | null {
  if (principal.kind === 'link') return mayByLink(principal, saying, thread, comment)
  if (principal.kind === 'guest' || role === null || !allows(role, 'commenter')) return 'role'
  const own = comment?.by === accountOf(principal)
  switch (saying.op) {
    case 'say':
      if (comment) return 'taken'
      if (saying.thread === BENCH) return saying.place && saying.place.on !== 'tree' ? 'place' : null
      if (saying.thread === saying.comment) {
        if (!saying.place || saying.place.on === 'tree') return 'no-place'
        return thread ? 'taken' : null
      }
      if (!thread) return 'no-thread'
      if (saying.place) return 'place'
      return thread.size >= MOST_IN_THREAD ? 'full' : null
    case 'settle':
      if (comment) return 'taken'
      if (saying.thread === BENCH) return 'bench'
      return thread ? null : 'no-thread'
    case 'reword':
      if (!comment) return 'no-comment'
      if (!own) return 'not-yours'
      return comment.body === null ? 'withdrawn' : null
    case 'withdraw':
      if (!comment) return 'no-comment'
      if (!own && !allows(role, 'owner')) return 'not-yours'
      return comment.body === null ? 'withdrawn' : null
    case 'became':
      if (!comment) return 'no-comment'
      return allows(role, 'editor') ? null : 'role'
  }
}

function mayByLink(
  { may }: LinkGuest,
  saying: Saying,
  thread: About['thread'],
  comment: About['comment'],
): Unsaid | null {
  if (may === 'look' || saying.op !== 'say' || saying.thread === BENCH) return 'role'
  if (comment) return 'taken'
  if (saying.thread === saying.comment) {
    if (saying.place?.on !== 'topic') return 'no-place'
    return thread ? 'taken' : null
  }
  if (!thread) return 'no-thread'
  if (saying.place) return 'place'
  return thread.size >= MOST_IN_THREAD ? 'full' : null
}
