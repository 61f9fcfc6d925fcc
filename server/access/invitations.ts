import { randomBytes } from 'node:crypto'
import { and, eq, isNull } from 'drizzle-orm'
import type { Role } from '#core/contract'
import { ROLES } from '#core/contract'
import { database } from '../database/connect'
import { invitations, members, trees } from '../database/schema'
import { sendLetter } from '../letters/send'
import { type Account, hashed } from './accounts'
import { Fault } from './fault'

/** Writes somebody an invitation. Only the letter holds the token; the database holds its hash. */
export async function invite(treeId: string, email: string, role: Role, from: Account): Promise<void> {
  const token = randomBytes(24).toString('base64url')
  const [tree] = await database().select({ title: trees.title }).from(trees).where(eq(trees.id, treeId))
  await database().insert(invitations).values({ tokenHash: hashed(token), treeId, email, role, invitedBy: from.id, createdAt: new Date() })
  const does = { viewer: 'read', commenter: 'read and comment', editor: 'edit', owner: 'own' }[role]
  await sendLetter({
    to: email,
    subject: `${from.name} invites you to “${tree!.title.slice(0, 120)}”`,
    body: `${from.name} (${from.email}) invites you to ${does} the tree “${tree!.title.slice(0, 500)}” in Sun Porch.\n\nOpen the invitation to take part.`,
    link: `/invitation/${token}`,
  })
}

/** Takes an invitation up, once. Somebody who has more already keeps it. */
export async function acceptInvitation(token: string, account: Account): Promise<{ treeId: string }> {
  return database().transaction(async (tx) => {
    const [found] = await tx.select().from(invitations).where(eq(invitations.tokenHash, hashed(token))).for('update')
    if (!found || found.email !== account.email) throw new Fault(404, 'no-invitation', 'This invitation isn’t for this account, or doesn’t exist. Sign in with the mail address it was sent to.')
    if (found.usedAt) return { treeId: found.treeId }
    const [now] = await tx.select({ role: members.role }).from(members).where(and(eq(members.treeId, found.treeId), eq(members.userId, account.id)))
    if (!now) await tx.insert(members).values({ treeId: found.treeId, userId: account.id, role: found.role })
    else if (ROLES.indexOf(now.role) < ROLES.indexOf(found.role)) await tx.update(members).set({ role: found.role }).where(and(eq(members.treeId, found.treeId), eq(members.userId, account.id)))
    await tx.update(invitations).set({ usedAt: new Date() }).where(and(eq(invitations.tokenHash, found.tokenHash), isNull(invitations.usedAt)))
    return { treeId: found.treeId }
  })
}
