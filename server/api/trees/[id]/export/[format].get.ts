import { OPERATIONS } from '#core/contract'
import { writeAccess } from '../../../../access/access-log'
import { answer } from '../../../../access/answer'
import { Fault } from '../../../../access/fault'
import { talkOf } from '../../../../talk/keep'
import { treeToJson } from '../../../../trees/export'
import { runJob } from '../../../../jobs/runner'
import { readTree } from '../../../../trees/held'
import { peopleOf } from '../../../../trees/store'
import { saveAs } from '../../../../files/disposition'

export default answer(OPERATIONS.exportTree, async ({ event, params, version, account }) => {
  const people = Object.fromEntries((await peopleOf(params.id)).map(({ id, name }) => [id, name]))
  const item = await readTree(params.id, version)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  // A held tree goes on meanwhile.
  const snapshot = item.snapshotBytes()
  await writeAccess({ treeId: params.id, by: account.id, what: 'exported', about: params.format })
  const { text, type, name } =
    params.format === 'json'
      ? treeToJson(item.tree, people, await talkOf(params.id), {
          tree: params.id,
          number: item.version,
          epoch: item.epoch,
        })
      : await runJob('export', { snapshot, format: params.format, people }, { person: account.id })
  setResponseHeaders(event, { 'content-type': `${type}; charset=utf-8`, 'content-disposition': saveAs(name) })
  return text
})
