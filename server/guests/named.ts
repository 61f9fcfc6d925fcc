import type { H3Event } from 'h3'
import { eq, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { addressOf } from '../access/address'
import { Fault } from '../access/fault'
import type { GuestLink } from '../access/guest-links'
import { isSealed, sealed } from '../access/hashed'
import { mustSpend } from '../access/tries'
import { database } from '../database/connect'
import { linkGuests } from '../database/schema'

/*
 * Guests are known by the name they give, at one link in one browser. Nothing shows that the name is theirs: wherever it's read it says
 * that it's a guest's.
 */

const COOKIE = 'sun-porch-guest'
/** Names that one link takes, and that one network address may give at it in an hour. */
const MOST_NAMES = 2000
const NAMES_AN_HOUR = 20
const KEPT_SECONDS = 60 * 60 * 24 * 180

export interface Named {
  readonly id: string
  readonly name: string
}

/** Who has come by a link with this browser before; null for nobody. */
export async function namedGuest(event: H3Event, link: GuestLink): Promise<Named | null> {
  const [id = '', seal = ''] = (getCookie(event, COOKIE) ?? '').split('.')
  if (!/^[\w-]{8,40}$/.test(id) || !isSealed('guest', `${link.id} ${id}`, seal)) return null
  const [found] = await database().select().from(linkGuests).where(eq(linkGuests.id, id))
  return found && found.linkId === link.id ? { id, name: found.name } : null
}

/** Gives somebody a name at a link, which their browser keeps. Throws a `Fault` for none, and for too many. */
export async function nameGuest(event: H3Event, link: GuestLink, said: string): Promise<Named> {
  const name = said.replace(/\s+/g, ' ').trim().slice(0, 80).toWellFormed()
  if (name === '') throw new Fault(422, 'name', 'Say who you are first: a name is enough.')
  await mustSpend('guest name', `${link.id} ${addressOf(event)}`, NAMES_AN_HOUR, 3600)
  const [{ count } = { count: 0 }] = await database()
    .select({ count: sql<number>`count(*)` })
    .from(linkGuests)
    .where(eq(linkGuests.linkId, link.id))
  if (Number(count) >= MOST_NAMES)
    throw new Fault(409, 'too-many', 'So many have come by this link that it takes no more.')
  const id = `g${nanoid(16)}`
  await database().insert(linkGuests).values({ id, linkId: link.id, treeId: link.treeId, name, at: new Date() })
  setCookie(event, COOKIE, `${id}.${sealed('guest', `${link.id} ${id}`)}`, {
    httpOnly: true,
    sameSite: 'lax',
    path: event.path.split('?')[0]!,
    secure: getRequestProtocol(event) === 'https',
    maxAge: KEPT_SECONDS,
  })
  return { id, name }
}
