import { randomBytes } from 'node:crypto'
import { and, desc, eq, isNull, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import type { LinkSettings, LinkShown } from '#core/contract/operations/links'
import { database } from '../database/connect'
import { guestLinks, trees, users } from '../database/schema'
import { writeAccess } from './access-log'
import { Fault } from './fault'
import { hashed } from './hashed'

/** Links that one tree may have. */
const MOST = 200

export type GuestLink = typeof guestLinks.$inferSelect

const freshToken = (): string => randomBytes(24).toString('base64url')
const addressFor = (token: string): string => `/look/${token}`
/** The last moment of a day, UTC; the next day's first may lie in a year that no column holds. */
const endOf = (day: string | null): Date | null => (day === null ? null : new Date(`${day}T23:59:59.999Z`))
const dayOf = (until: Date | null): string | null => until?.toISOString().slice(0, 10) ?? null
const noLink = (): Fault => new Fault(404, 'no-link', 'There is no such link, or it was withdrawn.')

export async function listLinks(treeId: string): Promise<LinkShown[]> {
  const rows = await database()
    .select({ link: guestLinks, by: users.name })
    .from(guestLinks)
    .leftJoin(users, eq(users.id, guestLinks.madeBy))
    .where(eq(guestLinks.treeId, treeId))
    .orderBy(desc(guestLinks.madeAt))
  return rows.map(({ link, by }) => ({
    id: link.id,
    name: link.name,
    part: link.part,
    with: [...link.along],
    copying: link.copying,
    hasWord: link.wordHash !== null,
    until: dayOf(link.until),
    listed: link.listed,
    by: by ?? 'Somebody',
    at: link.madeAt.toISOString(),
    opened: link.opened,
    lastOpened: link.lastOpened?.toISOString() ?? null,
  }))
}

/** Makes a link. Its address is told here and nowhere else. */
export async function makeLink(
  treeId: string,
  by: string,
  { name, part, with: along, copying, word, until, listed }: LinkSettings,
): Promise<{ id: string; address: string }> {
  const [{ count } = { count: 0 }] = await database()
    .select({ count: sql<number>`count(*)` })
    .from(guestLinks)
    .where(eq(guestLinks.treeId, treeId))
  if (Number(count) >= MOST) throw new Fault(409, 'too-many', `A tree has ${MOST} links at most. Withdraw some first.`)
  const token = freshToken()
  const id = nanoid(16)
  await database()
    .insert(guestLinks)
    .values({
      id,
      treeId,
      tokenHash: hashed(token),
      madeBy: by,
      madeAt: new Date(),
      name,
      part,
      along,
      copying,
      wordHash: word === null ? null : await hashPassword(word),
      until: endOf(until),
      listed,
    })
  await writeAccess({ treeId, by, what: 'link-made', about: name || id })
  return { id, address: addressFor(token) }
}

export async function changeLink(
  treeId: string,
  id: string,
  { with: along, word, until, ...rest }: Partial<LinkSettings>,
): Promise<void> {
  const changed = {
    ...rest,
    ...(along === undefined ? {} : { along }),
    ...(word === undefined ? {} : { wordHash: word === null ? null : await hashPassword(word) }),
    ...(until === undefined ? {} : { until: endOf(until) }),
  }
  await needLink(treeId, id)
  if (Object.keys(changed).length > 0)
    await database()
      .update(guestLinks)
      .set(changed)
      .where(and(eq(guestLinks.treeId, treeId), eq(guestLinks.id, id)))
}

export async function renewLink(treeId: string, id: string): Promise<{ address: string }> {
  await needLink(treeId, id)
  const token = freshToken()
  await database()
    .update(guestLinks)
    .set({ tokenHash: hashed(token) })
    .where(and(eq(guestLinks.treeId, treeId), eq(guestLinks.id, id)))
  return { address: addressFor(token) }
}

export async function withdrawLink(treeId: string, id: string, by: string): Promise<void> {
  const link = await needLink(treeId, id)
  await database()
    .delete(guestLinks)
    .where(and(eq(guestLinks.treeId, treeId), eq(guestLinks.id, id)))
  await writeAccess({ treeId, by, what: 'link-withdrawn', about: link.name || id })
}

async function needLink(treeId: string, id: string): Promise<GuestLink> {
  const [link] = await database()
    .select()
    .from(guestLinks)
    .where(and(eq(guestLinks.treeId, treeId), eq(guestLinks.id, id)))
  if (!link) throw noLink()
  return link
}

/** The link that an address means, while it holds and its tree isn't in the trash; null for any other. */
export async function linkOf(token: string): Promise<{ link: GuestLink; version: number; epoch: string } | null> {
  const [found] = await database()
    .select({ link: guestLinks, version: trees.version, epoch: trees.epoch })
    .from(guestLinks)
    .innerJoin(trees, and(eq(trees.id, guestLinks.treeId), isNull(trees.trashedAt)))
    .where(eq(guestLinks.tokenHash, hashed(token)))
  return found && (found.link.until === null || found.link.until > new Date()) ? found : null
}

/** Counts that a link was opened. */
export async function countOpened(id: string): Promise<void> {
  await database()
    .update(guestLinks)
    .set({ opened: sql`${guestLinks.opened} + 1`, lastOpened: new Date() })
    .where(eq(guestLinks.id, id))
}
