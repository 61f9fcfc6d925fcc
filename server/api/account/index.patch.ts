import { eq } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { isZone } from '#core/meeting/zones'
import { answer } from '../../access/answer'
import { Fault } from '../../access/fault'
import { database } from '../../database/connect'
import { users } from '../../database/schema'

export default answer(OPERATIONS.changeAccount, async ({ account, body }) => {
  // An empty one is none either: kept, it would break every clock that goes by it.
  if (body.zone !== undefined && body.zone !== null && !isZone(body.zone))
    throw new Fault(400, 'invalid', `“${body.zone}” is no time zone.`)
  const fresh = {
    ...(body.name === undefined ? {} : { name: body.name }),
    ...(body.square === undefined ? {} : { square: body.square }),
    ...(body.zone === undefined ? {} : { zone: body.zone }),
  }
  if (Object.keys(fresh).length > 0) await database().update(users).set(fresh).where(eq(users.id, account.id))
})
