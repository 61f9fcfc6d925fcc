import { type Choice, choiceSchema, type Kind } from '#core/handing/choice'
import type { Made } from '../documents/hand-out'
import { filesFor } from '../documents/files-for'
import type { GuestLink } from '../access/guest-links'
import { runJob } from '../jobs/runner'
import { talkOf } from '../talk/keep'
import { lastChanges } from '../trees/changes'
import { readTree } from '../trees/held'
import { peopleOf } from '../trees/store'

/* What a guest is shown: the part that the link says, cut out of the tree before anything is written. */

/** Pages that are kept while their tree stays as it is: many who open one link at once cost one making. */
const MOST_KEPT = 40
const kept = new Map<string, Promise<Made>>()

/** The part of a tree that a link opens, as a page or, where copying is allowed, as a file. Null when the tree is gone. */
export async function lookAt(
  { id, treeId, part, along, copying }: GuestLink,
  { version, epoch }: { readonly version: number; readonly epoch: string },
  as: Kind = 'html',
): Promise<Made | null> {
  const item = await readTree(treeId, version, epoch)
  if (!item) return null
  const choice: Choice = choiceSchema.parse({ as, part, with: [...along], drawn: true })
  const today = new Date().toISOString().slice(0, 10)
  const key = JSON.stringify([id, item.epoch, item.version, today, choice, copying])
  let made = kept.get(key)
  if (!made) {
    made = (async () => {
      const [people, talk, changes] = await Promise.all([
        peopleOf(treeId),
        talkOf(treeId),
        part.kind === 'filter' ? lastChanges(treeId) : [],
      ])
      return runJob(
        'handOut',
        {
          snapshot: item.snapshotBytes(),
          choice,
          people: Object.fromEntries(people.map(({ id: person, name }) => [person, name])),
          talk,
          changes,
          author: '',
          // Nobody: a filter that asks for “me” finds nothing.
          me: '',
          today,
          zone: 'UTC',
        },
        { person: `link ${id}`, need: files => filesFor(treeId, files as string[]) },
      )
    })()
    kept.set(key, made)
    for (const oldest of kept.keys()) {
      if (kept.size <= MOST_KEPT) break
      kept.delete(oldest)
    }
    made.catch(() => kept.delete(key))
  }
  return made
}
