import { asksFor } from '#core/find/conditions'
import { type Choice, KINDS } from '#core/handing/choice'
import { queryOf } from '#core/handing/cut'
import type { Account } from '../access/accounts'
import { writeAccess } from '../access/access-log'
import { Fault } from '../access/fault'
import { namesOf } from '../access/names'
import { runJob } from '../jobs/runner'
import { newestBaseline, todayUtc } from '../schedule/plan-of'
import { talkOf } from '../talk/keep'
import { forFilter } from './for-filter'
import { readTree } from '../trees/held'
import { peopleOf } from '../trees/store'
import { withOwnTemplate } from './own-templates'
import type { Made } from './hand-out'

export interface MakeAsked {
  readonly treeId: string
  readonly account: Account
  readonly version: number
  readonly epoch: string
  readonly choice: Choice
  /** The present day of whoever asks, ISO 8601, and where that is (IANA). */
  readonly today: string | undefined
  readonly zone: string
}

/**
 * Makes a file of a tree for somebody who is in it, and notes that it left. `signal`: stops it. `soFar`: hears how far it is,
 * 0 to 1. Throws a `Fault` for what isn't there
 * and what takes too much.
 */
export async function makeFor(
  { treeId, account, version, epoch, choice, today, zone }: MakeAsked,
  signal: AbortSignal,
  soFar?: (part: number) => void,
): Promise<Made> {
  const item = await readTree(treeId, version, epoch)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  const query = queryOf(item.tree, choice.part)
  const bars = KINDS[choice.as].group === 'picture' && choice.shows === 'bars'
  const [people, talk, known, agreed] = await Promise.all([
    peopleOf(treeId),
    choice.with.includes('comments') || (query && asksFor(query, 'talk')) ? talkOf(treeId) : [],
    forFilter(treeId, item, query, account.id),
    bars ? newestBaseline(treeId, item.version, account.id) : null,
  ])
  // Names of those too who have left, and of guests.
  const names = await namesOf(talk.flatMap(({ comments }) => comments.map(({ by }) => by)))
  const { own, need } = await withOwnTemplate(
    treeId,
    account.id,
    item.tree.fields.templates,
    choice.as === 'docx' || choice.as === 'pptx' ? choice.template : null,
  )
  const made = await runJob(
    'handOut',
    {
      snapshot: item.snapshotBytes(),
      choice,
      people: { ...names, ...Object.fromEntries(people.map(({ id, name }) => [id, name])) },
      talk,
      ...known,
      agreed: known.agreed ?? (agreed && agreed.tasks),
      author: account.name,
      ownTemplates: own,
      me: account.id,
      today: today ?? todayUtc(),
      zone,
    },
    { person: account.id, signal, need, ...(soFar ? { soFar } : {}) },
  )
  await writeAccess({ treeId, by: account.id, what: 'exported', about: choice.as })
  return made
}
