import { eq } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { hasPassword, isJoined } from '../../access/organisation-account'
import { listSessions } from '../../access/sessions'
import { listTokens } from '../../access/tokens'
import { database } from '../../database/connect'
import { users } from '../../database/schema'
import { settings } from '../../settings'

export default answer(OPERATIONS.readAccount, async ({ account }) => {
  const [user] = await database().select().from(users).where(eq(users.id, account.id))
  return {
    id: account.id,
    name: user!.name,
    email: user!.email,
    zone: user!.zone,
    picture: user!.picture !== null,
    square: user!.square,
    hasPassword: hasPassword(user!),
    organisation: (await isJoined(account.id)) ? settings().OIDC_NAME : null,
    secondFactor: user!.totpSecret !== null,
    recoveryLeft: user!.recovery?.length ?? 0,
    sessions: await listSessions(account.id, account.session ?? ''),
    tokens: await listTokens(account.id),
  }
})
