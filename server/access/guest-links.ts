import { randomBytes } from 'node:crypto'
import { and, desc, eq, isNull, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import type { LinkSettings, LinkShown } from '#core/contract/operations/links'
import { database } from '../database/connect'
import { guestLinks, talks, trees, users } from '../database/schema'
import { writeAccess } from './access-log'
import { Fault } from './fault'
import { hashed } from './hashed'

/** Links that one tree may have. */
const MOST = 200

export type GuestLink = typeof guestLinks.$inferSelect
/** A link that holds, and where its tree stands: its number and epoch, and the number of its talk. */
export interface FoundLink {
  readonly link: GuestLink
  readonly version: number
  readonly epoch: string
  readonly said: number
}

const freshToken = (): string => randomBytes(24).toString('base64url')
const addressFor = (token: string): string => `/look/${token}`
/** The last moment of a day, UTC; the next day's first may lie in a year that no column holds. */
const endOf = (day: string | null): Date | null => (day === null ? null : new Date(`${day}T23:59:59.999Z`))
const dayOf = (until: Date | null): string | null => until?.toISOString().slice(0, 10) ?? null
/** A browser gives a frame nothing that it keeps for us: the word would be asked for for ever. */
const inFrame = (): Fault =>
  new Fault(
    409,
    'word-in-frame',
    'A page that asks for a word can’t stand in a frame. Take the word or the sites away.',
  )
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
    may: link.may,
    hosts: [...link.hosts],
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
  { name, part, with: along, may, hosts, copying, word, until, listed }: LinkSettings,
): Promise<{ id: string; address: string }> {
  const [{ count } = { count: 0 }] = await database()
    .select({ count: sql<number>`count(*)` })
    .from(guestLinks)
    .where(eq(guestLinks.treeId, treeId))
  if (Number(count) >= MOST) throw new Fault(409, 'too-many', `A tree has ${MOST} links at most. Withdraw some first.`)
  if (word !== null && hosts.length > 0) throw inFrame()
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
      may,
      hosts,
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
  by: string,
  { with: along, word, until, ...rest }: Partial<LinkSettings>,
): Promise<void> {
  const changed = {
    ...rest,
    ...(along === undefined ? {} : { along }),
    ...(word === undefined ? {} : { wordHash: word === null ? null : await hashPassword(word) }),
    ...(until === undefined ? {} : { until: endOf(until) }),
  }
  const now = await needLink(treeId, id)
  const asksWord = word === undefined ? now.wordHash !== null : word !== null
  if (asksWord && (rest.hosts ?? now.hosts).length > 0) throw inFrame()
  if (Object.keys(changed).length === 0) return
  await database()
    .update(guestLinks)
    .set(changed)
    .where(and(eq(guestLinks.treeId, treeId), eq(guestLinks.id, id)))
  const wider = [
    rest.may === undefined || rest.may === now.may ? '' : `may ${rest.may}`,
    rest.hosts === undefined ? '' : rest.hosts.length > 0 ? `in pages of ${rest.hosts.join(', ')}` : 'in no other page',
  ].filter(Boolean)
  if (wider.length > 0)
    await writeAccess({ treeId, by, what: 'link-changed', about: `${now.name || id}: ${wider.join(', ')}` })
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
export async function linkOf(token: string): Promise<FoundLink | null> {
  const [found] = await database()
    .select({
      link: guestLinks,
      version: trees.version,
      epoch: trees.epoch,
      said: sql<number>`coalesce(${talks.number}, 0)`,
    })
    .from(guestLinks)
    .innerJoin(trees, and(eq(trees.id, guestLinks.treeId), isNull(trees.trashedAt)))
    .leftJoin(talks, eq(talks.treeId, guestLinks.treeId))
    .where(eq(guestLinks.tokenHash, hashed(token)))
  return found && (found.link.until === null || found.link.until > new Date())
    ? { ...found, said: Number(found.said) }
    : null
}

/** Counts that a link was opened. */
export async function countOpened(id: string): Promise<void> {
  await database()
    .update(guestLinks)
    .set({ opened: sql`${guestLinks.opened} + 1`, lastOpened: new Date() })
    .where(eq(guestLinks.id, id))
}
