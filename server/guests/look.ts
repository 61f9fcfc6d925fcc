import { type Choice, choiceSchema, type Kind } from '#core/handing/choice'
import { queryOf } from '#core/handing/cut'
import type { Made } from '../documents/hand-out'
import { filesFor } from '../documents/files-for'
import { forFilter } from '../documents/for-filter'
import type { FoundLink, GuestLink } from '../access/guest-links'
import { namesOf } from '../access/names'
import { runJob } from '../jobs/runner'
import { talkOf } from '../talk/keep'
import { readTree } from '../trees/held'
import { peopleOf } from '../trees/store'

/* What a guest is shown: the part that the link says, cut out of the tree before anything is written. */

/** Whoever may say something about a topic reads what has been said. */
const alongWith = (along: GuestLink['along'], may: GuestLink['may']): Choice['with'] =>
  may === 'look' || along.includes('comments') ? [...along] : [...along, 'comments']

/** What a page offers to do with a topic. */
const ACTS: Readonly<Record<GuestLink['may'], string>> = { look: '', comment: 'Comment', edit: 'Change' }
export const actOf = ({ may }: Pick<GuestLink, 'may'>): string => ACTS[may]

/** Pages that are kept while their tree stays as it is: many who open one link at once cost one making. */
const MOST_KEPT = 40
const kept = new Map<string, Promise<Made>>()

/**
 * The part of a tree that a link opens, as a page or, where copying is allowed, as a file. `act`: the word for what one may do to a
 * topic of the page; '' for nothing. Null when the tree is gone.
 */
export async function lookAt(
  { link: { id, treeId, part, along, copying, may }, version, epoch, said }: FoundLink,
  as: Kind = 'html',
  act = '',
): Promise<Made | null> {
  const item = await readTree(treeId, version, epoch)
  if (!item) return null
  const choice: Choice = choiceSchema.parse({ as, part, with: alongWith(along, may), drawn: true })
  const today = new Date().toISOString().slice(0, 10)
  const key = JSON.stringify([id, item.epoch, item.version, said, today, choice, copying, act])
  let made = kept.get(key)
  if (!made) {
    made = (async () => {
      const [people, talk, known] = await Promise.all([
        peopleOf(treeId),
        talkOf(treeId),
        forFilter(treeId, item, queryOf(item.tree, part), `link ${id}`),
      ])
      const names = await namesOf(talk.flatMap(({ comments }) => comments.map(({ by }) => by)))
      return runJob(
        'handOut',
        {
          snapshot: item.snapshotBytes(),
          choice,
          people: { ...names, ...Object.fromEntries(people.map(({ id: person, name }) => [person, name])) },
          act,
          talk,
          ...known,
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
