import { randomBytes } from 'node:crypto'
import { and, desc, eq, gt, isNull, like, or } from 'drizzle-orm'
import type { Role } from '#core/contract'
import { ROLES } from '#core/contract'
import { shorten } from '#core/tree'
import { database } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { invitations, letters, members, trees, users } from '../database/schema'
import { sendLetter } from '../letters/send'
import { bus } from '../bus'
import { tellInvited } from '../telling/invited'
import { welcomeWishes } from '../meetings/wishes'
import { peopleOf } from '../trees/store'
import type { Account } from './accounts'
import { settings } from '../settings'
import { writeAccess } from './access-log'
import { Fault } from './fault'
import { hashed } from './hashed'

/** An invitation that waits. The id says nothing about the token. */
export interface PendingInvitation {
  readonly id: string
  readonly email: string
  readonly role: Role
  readonly by: string
  readonly at: string
  /** When it ends; null for never. */
  readonly until: string | null
}

/** Not taken up, and not past its time. */
const isWaiting = () =>
  and(isNull(invitations.usedAt), or(isNull(invitations.until), gt(invitations.until, new Date())))

const publicId = (tokenHash: string): string => hashed(tokenHash).slice(0, 24)

export async function pendingInvitations(treeId: string): Promise<PendingInvitation[]> {
  const rows = await database()
    .select({
      tokenHash: invitations.tokenHash,
      email: invitations.email,
      role: invitations.role,
      by: users.name,
      at: invitations.createdAt,
      until: invitations.until,
    })
    .from(invitations)
    .leftJoin(users, eq(users.id, invitations.invitedBy))
    .where(and(eq(invitations.treeId, treeId), isWaiting()))
    .orderBy(invitations.createdAt)
  return rows.map(({ tokenHash, email, role, by, at, until }) => ({
    id: publicId(tokenHash),
    email,
    role,
    by: by ?? 'Somebody',
    at: at.toISOString(),
    until: until?.toISOString() ?? null,
  }))
}

/** Withdraws an invitation: whoever opens its letter finds nothing. */
export async function withdrawInvitation(treeId: string, id: string, by: string): Promise<void> {
  const rows = await database()
    .select({ tokenHash: invitations.tokenHash, email: invitations.email })
    .from(invitations)
    .where(and(eq(invitations.treeId, treeId), isNull(invitations.usedAt)))
  const found = rows.find(row => publicId(row.tokenHash) === id)
  if (!found) throw new Fault(404, 'no-invitation', 'That invitation has been taken up or withdrawn already.')
  await database()
    .delete(invitations)
    .where(and(eq(invitations.tokenHash, found.tokenHash), isNull(invitations.usedAt)))
  await writeAccess({ treeId, by, what: 'invitation-withdrawn', about: found.email })
}

/** Invitations to somebody that still wait, with the way to take them up that their letters hold. */
export async function invitationsFor(email: string): Promise<{ link: string; tree: string; by: string; role: Role }[]> {
  const rows = await database()
    .select({ tokenHash: invitations.tokenHash, tree: trees.title, by: users.name, role: invitations.role })
    .from(invitations)
    .innerJoin(trees, eq(trees.id, invitations.treeId))
    .leftJoin(users, eq(users.id, invitations.invitedBy))
    .where(and(eq(invitations.email, email), isWaiting(), isNull(trees.trashedAt)))
  if (rows.length === 0) return []
  const sent = await database()
    .select({ link: letters.link })
    .from(letters)
    .where(and(eq(letters.toEmail, email), like(letters.link, '/invitation/%')))
    .orderBy(desc(letters.createdAt))
    .limit(500)
  const links = new Map(sent.map(({ link }) => [hashed(link!.slice('/invitation/'.length)), link!]))
  return rows.flatMap(({ tokenHash, tree, by, role }) =>
    links.has(tokenHash) ? [{ link: links.get(tokenHash)!, tree, by: by ?? 'Somebody', role }] : [],
  )
}

/**
 * Invites several at once. Who has a role already is left as they are, and who is invited already isn't written to
 * again.
 */
export async function inviteAll(
  treeId: string,
  emails: readonly string[],
  role: Role,
  from: Account,
): Promise<{ invited: number }> {
  const [people, pending] = await Promise.all([peopleOf(treeId), pendingInvitations(treeId)])
  const had = new Set([
    ...people.map(person => person.email),
    ...pending.filter(one => one.role === role).map(one => one.email),
  ])
  const fresh = [...new Set(emails)].filter(email => !had.has(email))
  for (const email of fresh) await invite(treeId, email, role, from)
  return { invited: fresh.length }
}

/** Writes somebody an invitation. Only the letter holds the token; the database holds its hash. */
async function invite(treeId: string, email: string, role: Role, from: Account): Promise<void> {
  const token = randomBytes(24).toString('base64url')
  const [tree] = await database().select({ title: trees.title }).from(trees).where(eq(trees.id, treeId))
  // Together with its letter or not at all: the day may have no letters left.
  await inTransaction(async tx => {
    await tx
      .insert(invitations)
      .values({
        tokenHash: hashed(token),
        treeId,
        email,
        role,
        invitedBy: from.id,
        createdAt: new Date(),
        until: new Date(Date.now() + settings().INVITATION_DAYS * 86_400_000),
      })
    await writeAccess({ treeId, by: from.id, what: 'invited', about: `${email}: ${role}` }, tx)
    await tellInvited(tx, treeId, email, role, from.id)
    const does = { viewer: 'read', commenter: 'read and comment', editor: 'edit', owner: 'own' }[role]
    await sendLetter(
      {
        to: email,
        by: from.id,
        tree: treeId,
        subject: `${from.name} invites you to “${shorten(tree!.title, 120)}”`,
        body: `${from.name} (${from.email}) invites you to ${does} the tree “${shorten(tree!.title, 500)}” in Sun Porch.\n\nOpen the invitation to take part.`,
        link: `/invitation/${token}`,
      },
      tx,
    )
  })
}

/** Takes an invitation up, once. Somebody who has more already keeps it. */
export async function acceptInvitation(token: string, account: Account): Promise<{ treeId: string }> {
  const accepted = await inTransaction(async tx => {
    const [found] = await tx
      .select()
      .from(invitations)
      .where(eq(invitations.tokenHash, hashed(token)))
      .for('update')
    if (!found || found.email !== account.email)
      throw new Fault(
        404,
        'no-invitation',
        'This invitation isn’t for this account, or doesn’t exist. Sign in with the mail address it was sent to.',
      )
    if (found.usedAt) return found
    if (found.until && found.until < new Date())
      throw new Fault(410, 'ended', 'This invitation has ended. Ask whoever sent it for a new one.')
    const [now] = await tx
      .select({ role: members.role })
      .from(members)
      .where(and(eq(members.treeId, found.treeId), eq(members.userId, account.id)))
    if (!now) await tx.insert(members).values({ treeId: found.treeId, userId: account.id, role: found.role })
    else if (ROLES.indexOf(now.role) < ROLES.indexOf(found.role))
      await tx
        .update(members)
        .set({ role: found.role })
        .where(and(eq(members.treeId, found.treeId), eq(members.userId, account.id)))
    await tx
      .update(invitations)
      .set({ usedAt: new Date() })
      .where(and(eq(invitations.tokenHash, found.tokenHash), isNull(invitations.usedAt)))
    await writeAccess({ treeId: found.treeId, by: account.id, what: 'joined', about: found.role }, tx)
    return found
  })
  bus.tell({ about: 'rights', tree: accepted.treeId })
  await welcomeWishes(accepted.treeId, accepted.invitedBy)
  return { treeId: accepted.treeId }
}
