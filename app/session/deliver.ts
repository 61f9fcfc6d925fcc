import { openTalk } from '~/talk/open-talk'
import type { Talk } from '~/talk/talk'
import { treesWaiting } from './offline'
import { type SessionEvents, TreeSession } from './session'

/**
 * Sends what waits in this browser for trees that aren't open: left without a line, or with a tab that was closed. `except`: a tree
 * that is open and sends its own. `said` hears what went wrong, in words.
 */
export async function deliverWaiting(
  userId: string,
  except: string | null,
  said: (message: string) => void,
): Promise<void> {
  for (const treeId of await treesWaiting(userId)) if (treeId !== except) await deliver(treeId, userId, said)
}

async function deliver(treeId: string, userId: string, said: (message: string) => void): Promise<void> {
  let talk: Talk | null = null
  const nothing = (): void => {}
  const events: SessionEvents = {
    touched: nothing,
    replaced: nothing,
    news: nothing,
    elsewhere: nothing,
    look: nothing,
    caughtUp: nothing,
    votes: nothing,
    said,
    status: () => talk?.flush(),
    talk: message => talk?.hear(message),
  }
  const session = new TreeSession(treeId, userId, events)
  try {
    await session.open()
  } catch {
    // One may not be there any more: what waits stays, and signing out tells of it.
    return
  }
  talk = openTalk({ session, userId, say: said }, nothing)
  await talk.begin()
  session.close(() => session.waitingCount + talk!.waitingCount)
}
