import { OPERATIONS } from '#core/contract'
import { asksForChanges, asksForTalk } from '#core/find/conditions'
import { queryOf } from '#core/handing/cut'
import { answer } from '../../../access/answer'
import { namesOf } from '../../../access/names'
import { writeAccess } from '../../../access/access-log'
import { Fault } from '../../../access/fault'
import { filesFor } from '../../../documents/files-for'
import { saveAs } from '../../../files/disposition'
import { runJob } from '../../../jobs/runner'
import { talkOf } from '../../../talk/keep'
import { lastChanges } from '../../../trees/changes'
import { readTree } from '../../../trees/held'
import { peopleOf } from '../../../trees/store'

export default answer(OPERATIONS.handOut, async ({ event, params, body, account, version, epoch }) => {
  const { today, zone, ...choice } = body
  const item = await readTree(params.id, version, epoch)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  const query = queryOf(item.tree, choice.part)
  const [people, talk, changes] = await Promise.all([
    peopleOf(params.id),
    choice.with.includes('comments') || (query && asksForTalk(query)) ? talkOf(params.id) : [],
    query && asksForChanges(query) ? lastChanges(params.id) : [],
  ])
  // Names of those too who have left, and of guests.
  const names = await namesOf(talk.flatMap(({ comments }) => comments.map(({ by }) => by)))
  const left = new AbortController()
  event.node.res.once('close', () => left.abort())
  const made = await runJob(
    'handOut',
    {
      snapshot: item.snapshotBytes(),
      choice,
      people: { ...names, ...Object.fromEntries(people.map(({ id, name }) => [id, name])) },
      talk,
      changes,
      author: account.name,
      me: account.id,
      today: today ?? new Date().toISOString().slice(0, 10),
      zone,
    },
    { person: account.id, signal: left.signal, need: files => filesFor(params.id, files as string[]) },
  )
  await writeAccess({ treeId: params.id, by: account.id, what: 'exported', about: choice.as })
  setResponseHeaders(event, {
    'content-type': /^text\//.test(made.type) ? `${made.type}; charset=utf-8` : made.type,
    'content-disposition': saveAs(made.name),
    // A page or drawing that somebody opens from here runs nothing and reaches nothing of this house.
    'content-security-policy': "default-src 'none'; img-src data:; style-src 'unsafe-inline'; sandbox",
  })
  return Buffer.from(made.bytes)
})
