import { dropWaiting, keepSaying, keepTalk, keptTalk, waitingSayings } from '~/session/offline'
import type { TopicId } from '#core/tree'
import type { TreeSession } from '~/session/session'
import { Talk } from './talk'

/** Where a tree is open. */
interface Opened {
  readonly session: TreeSession
  readonly userId: string
  say(message: string): void
}

/** The talk of a tree that is open. `changed`: told of topics that look otherwise now; null for the talk of the tree. */
export function openTalk(desk: Opened, changed: (topics: ReadonlySet<TopicId | null>) => void): Talk {
  const { session, userId } = desk
  const { treeId } = session
  return new Talk({
    me: userId,
    ask: path => callApi(`/api/trees/${treeId}/talk${path}`),
    send: saying => session.say(saying),
    keep: saying =>
      void keepSaying(treeId, userId, saying).catch(() =>
        desk.say('This browser can’t keep what is said while offline. Stay online, or make room for it.'),
      ),
    drop: id => void dropWaiting(treeId, userId, new Set([id]), true),
    kept: () => waitingSayings(treeId, userId).catch(() => []),
    // A full or private store refuses: then nothing can be read without a line.
    keepWords: words => void keepTalk(treeId, userId, words).catch(() => {}),
    keptWords: () => keptTalk(treeId, userId).catch(() => undefined),
    knows: topic =>
      !session.replica.waiting.some(({ edit }) => edit.changes.some(one => one.op === 'add' && one.topic === topic)),
    isNamed: person => person === userId || session.people.some(({ id }) => id === person),
    changed,
    said: message => desk.say(message),
    epoch: () => session.epoch,
    now: () => session.serverNow(),
  })
}
