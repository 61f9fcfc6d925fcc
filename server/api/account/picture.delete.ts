import { eq } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { database } from '../../database/connect'
import { users } from '../../database/schema'

export default answer(OPERATIONS.removePicture, async ({ account }) => {
  await database().update(users).set({ picture: null }).where(eq(users.id, account.id))
})
