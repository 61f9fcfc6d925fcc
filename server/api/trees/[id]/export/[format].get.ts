import { OPERATIONS } from '#core/contract'
import { writeAccess } from '../../../../access/access-log'
import { answer } from '../../../../access/answer'
import { Fault } from '../../../../access/fault'
import { talkOf } from '../../../../talk/keep'
import { treeToFile } from '../../../../trees/export'
import { readTree } from '../../../../trees/held'
import { peopleOf } from '../../../../trees/store'
import { saveAs } from '../../../../files/disposition'

export default answer(OPERATIONS.exportTree, async ({ event, params, version, account }) => {
  const people = Object.fromEntries((await peopleOf(params.id)).map(({ id, name }) => [id, name]))
  const item = await readTree(params.id, version)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  await writeAccess({ treeId: params.id, by: account.id, what: 'exported', about: params.format })
  const talk = params.format === 'json' ? await talkOf(params.id) : []
  const { text, type, name } = treeToFile(item.tree, params.format, people, talk, {
    tree: params.id,
    number: item.version,
    epoch: item.epoch,
  })
  setResponseHeaders(event, { 'content-type': `${type}; charset=utf-8`, 'content-disposition': saveAs(name) })
  return text
})
