import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { makeFor } from '../../../documents/make-for'
import { saveAs } from '../../../files/disposition'

export default answer(OPERATIONS.handOut, async ({ event, params, body, account, version, epoch }) => {
  const { today, zone, ...choice } = body
  const made = await makeFor(event, { treeId: params.id, account, version, epoch, choice, today, zone })
  setResponseHeaders(event, {
    'content-type': /^text\//.test(made.type) ? `${made.type}; charset=utf-8` : made.type,
    'content-disposition': saveAs(made.name),
    // A page or drawing that somebody opens from here runs nothing and reaches nothing of this house.
    'content-security-policy': "default-src 'none'; img-src data:; style-src 'unsafe-inline'; sandbox",
  })
  return Buffer.from(made.bytes)
})
