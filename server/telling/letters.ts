import { and, eq, gt, inArray, isNull, lte, max, min, notInArray } from 'drizzle-orm'
import { grouped, type TidingsGroup, tidingsInWords, tidingsLink } from '#core/telling/grouped'
import { LETTERED, type ToldKind, type When } from '#core/telling/kinds'
import { lettersDue } from '#core/telling/when'
import { cut } from '#core/tree'
import { database } from '../database/connect'
import { tellings, tellingWays, users } from '../database/schema'
import { inTransaction } from '../database/transaction'
import { outsideAddress } from '../letters/addresses'
import { sendLetter } from '../letters/send'
import { log } from '../log'
import { changesInWords } from './changes-in-words'
import { tidingsOf, wallOf } from './read'
import { waysOf } from './ways'

/*
 * What somebody was told and hasn't read goes to them by letter, as they want it. That it was written is kept with the letter, so that
 * neither a restart nor another process writes it again.
 */

/** What is older than this isn't written any more: ms. */
const OLDEST_MS = 9 * 86_400_000
/** Tellings that a letter is made from, the newest. */
const MOST_READ = 1000
/** Groups that a letter tells; what is beyond is counted. */
const MOST_GROUPS = 30

/** Writes what is due at `now` (ms since 1970 UTC). Returns how many letters that were. */
export async function writeLetters(now: number): Promise<number> {
  const rows = await database()
    .select({ user: tellings.userId, kind: tellings.kind, at: min(tellings.at) })
    .from(tellings)
    .where(
      and(
        isNull(tellings.readAt),
        isNull(tellings.writtenAt),
        notInArray(tellings.kind, [...LETTERED]),
        // Whoever wants no letters wouldn't want an old one either, once they do.
        gt(tellings.at, new Date(now - OLDEST_MS)),
      ),
    )
    .groupBy(tellings.userId, tellings.kind)
  const untold = new Map<string, { kind: ToldKind; at: number }[]>()
  for (const { user, kind, at } of rows)
    untold.set(user, [...(untold.get(user) ?? []), { kind, at: new Date(at!).getTime() }])
  let written = 0
  for (const [user, list] of untold)
    try {
      written += await writeTo(user, list, now)
    } catch (error) {
      log.error({ error }, 'a letter of what happened waits for the next round')
    }
  return written
}

async function writeTo(user: string, untold: readonly { kind: ToldKind; at: number }[], now: number): Promise<number> {
  const ways = (await waysOf([user])).get(user)!
  const wall = await wallOf(user, now)
  const [was] = await database().select().from(tellingWays).where(eq(tellingWays.userId, user))
  const before = {
    nowAt: was?.nowAt?.getTime() ?? null,
    dailyOn: was?.dailyOn ?? null,
    weeklyOn: was?.weeklyOn ?? null,
  }
  const due = lettersDue(untold, ways, before, now, wall)
  let written = 0
  for (const when of due) {
    const kinds = (Object.keys(ways.kinds) as ToldKind[]).filter(
      kind => ways.kinds[kind] === when && !LETTERED.has(kind),
    )
    if (await write(user, when, kinds, now, wall.day)) written++
  }
  return written
}

async function write(
  user: string,
  when: Exclude<When, 'never'>,
  kinds: readonly ToldKind[],
  now: number,
  day: string,
): Promise<boolean> {
  return inTransaction(async tx => {
    const [to] = await tx
      .select({ email: users.email })
      .from(users)
      .where(and(eq(users.id, user), isNull(users.deletedAt), isNull(users.lockedAt)))
    // Held, so that two processes don't write the same.
    await tx.insert(tellingWays).ignore().values({ userId: user })
    await tx.select({ id: tellingWays.userId }).from(tellingWays).where(eq(tellingWays.userId, user)).for('update')
    const untold = and(
      eq(tellings.userId, user),
      isNull(tellings.readAt),
      isNull(tellings.writtenAt),
      inArray(tellings.kind, [...kinds]),
    )
    const [newest] = await tx
      .select({ id: max(tellings.id) })
      .from(tellings)
      .where(untold)
    if (!newest?.id) return false
    const these = and(untold, lte(tellings.id, newest.id))
    const list = to ? await tidingsOf(user, these, MOST_READ, tx) : []
    await tx
      .update(tellings)
      .set({ writtenAt: new Date(now) })
      .where(these)
    const set = when === 'now' ? { nowAt: new Date(now) } : when === 'daily' ? { dailyOn: day } : { weeklyOn: day }
    await tx.update(tellingWays).set(set).where(eq(tellingWays.userId, user))
    if (!to || list.length === 0) return false
    await sendLetter(await letterOf(to.email, grouped(list), when), tx)
    return true
  })
}

const TITLES = { now: '', daily: 'Yesterday and today', weekly: 'The last week' } as const

async function letterOf(
  to: string,
  groups: readonly TidingsGroup[],
  when: Exclude<When, 'never'>,
): Promise<Parameters<typeof sendLetter>[0]> {
  const told: string[] = []
  for (const group of groups.slice(0, MOST_GROUPS)) {
    const words = group.all
      .flatMap(({ said }) => (said?.words ? [`  “${said.words.replaceAll('\n', ' ')}”`] : []))
      .slice(0, 3)
    const changes = group.kind === 'watched' ? await changesInWords(group) : []
    told.push([`${tidingsInWords(group)}.`, ...words, ...changes, outsideAddress(tidingsLink(group))].join('\n'))
  }
  if (groups.length > MOST_GROUPS) told.push(`And ${groups.length - MOST_GROUPS} more.`)
  const first = tidingsInWords(groups[0]!)
  const subject =
    groups.length === 1 ? first : `${TITLES[when] ? `${TITLES[when]}: ` : ''}${groups.length} things for you`
  return {
    to,
    subject: cut(subject, 200),
    body: told.join('\n\n'),
    link: groups.length === 1 ? tidingsLink(groups[0]!) : '/news',
  }
}
