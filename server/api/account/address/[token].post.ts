import { eq } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { readLink, tellFormerAddress, useLink } from '../../../access/account-links'
import { answer } from '../../../access/answer'
import { Fault } from '../../../access/fault'
import { database, databaseErrorCode } from '../../../database/connect'
import { users } from '../../../database/schema'

export default answer(OPERATIONS.takeAddress, async ({ params }) => {
  const { user, link } = await readLink('address', params.token)
  await useLink(params.token)
  await database()
    .update(users)
    .set({ email: link.email, confirmedAt: new Date() })
    .where(eq(users.id, user.id))
    .catch((error: unknown) => {
      throw databaseErrorCode(error) === 'ER_DUP_ENTRY'
        ? new Fault(409, 'taken', 'Meanwhile there is another account with this address.')
        : error
    })
  await tellFormerAddress(user.email)
})
