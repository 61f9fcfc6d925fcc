import { OPERATIONS } from '#core/contract'
import { smallPicture } from '#core/scene/small-picture'
import { answer } from '../../../access/answer'
import { Fault } from '../../../access/fault'
import { readTree } from '../../../trees/held'

export default answer(OPERATIONS.treePicture, async ({ event, params, query, version }) => {
  const mark = `"${params.id}-${version}-${query.theme ?? 'light'}"`
  setResponseHeaders(event, {
    'cache-control': 'private, no-cache',
    etag: mark,
    'content-security-policy': "default-src 'none'; sandbox",
    'x-content-type-options': 'nosniff',
  })
  if (getHeader(event, 'if-none-match') === mark) {
    setResponseStatus(event, 304)
    return null
  }
  const item = await readTree(params.id, version)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  setResponseHeader(event, 'content-type', 'image/svg+xml')
  return smallPicture(item.tree, 200, 120, new Date().toISOString().slice(0, 10), query.theme === 'dusk')
})
