import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { Fault } from '../../../../access/fault'
import { treeToFile } from '../../../../trees/export'
import { readTree } from '../../../../trees/held'
import { peopleOf } from '../../../../trees/store'

export default answer(OPERATIONS.exportTree, async ({ event, params, version }) => {
  const people = Object.fromEntries((await peopleOf(params.id)).map(({ id, name }) => [id, name]))
  const item = await readTree(params.id, version)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  const { text, type, name } = treeToFile(item.tree, params.format, people)
  setResponseHeaders(event, {
    'content-type': `${type}; charset=utf-8`,
    'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
  })
  return text
})
