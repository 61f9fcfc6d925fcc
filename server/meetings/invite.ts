import { createHash, randomBytes } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import type { GuestMeeting, Principal } from '#core/contract'
import { type CalendarMeeting, writeInvitation } from '#core/formats/icalendar'
import { lengthOfMeeting } from '#core/meeting/agenda'
import { type Brief, briefOf, instantOfStart, startOf } from '#core/meeting/brief'
import { invitationDigest, invitationText, whenInWords } from '#core/meeting/invitation'
import { type Answer, cut, isLive, shorten, topicOf, type Tree } from '#core/tree'
import type { Account } from '../access/accounts'
import { hashed } from '../access/hashed'
import { Fault } from '../access/fault'
import { database } from '../database/connect'
import { meetingGuests, trees } from '../database/schema'
import { writeAccess } from '../access/access-log'
import { runJob } from '../jobs/runner'
import { sendLetter } from '../letters/send'
import { newEditId, submit } from '../trees/door'
import { accountsOf, everybodyIn, mailOf, nameFrom, openMeeting } from './meeting'

/** The same as long as the meeting is the same (RFC 5545, section 3.8.4.7). */
export const uidOf = (treeId: string, topicId: string): string => `${topicId}.${treeId}@sun-porch`

type Accounts = Awaited<ReturnType<typeof accountsOf>>

/** A meeting as calendars take it. `organizer`: whoever invites. Null while it has no start. */
export function asCalendarMeeting(
  treeId: string,
  tree: Tree,
  topicId: string,
  accounts: Accounts,
  organizer: { name: string; email: string },
  sequence: number,
  stamp: number,
): CalendarMeeting | null {
  const topic = topicOf(tree, topicId)
  const brief = briefOf(topic)
  const start = instantOfStart(brief)
  if (start === null || !brief.begins) return null
  const nameOf = nameFrom(accounts)
  return {
    uid: uidOf(treeId, topicId),
    sequence,
    title: topic.title || 'Meeting',
    text: invitationText(tree, topicId, nameOf),
    where: brief.where,
    start,
    minutes: lengthOfMeeting(tree, topicId),
    zone: brief.begins.zone,
    organizer: { mail: organizer.email, name: organizer.name },
    people: brief.people.flatMap(person => {
      const mail = mailOf(person, accounts)
      return mail === null
        ? []
        : [
            {
              mail,
              name: person.user === null ? person.name || mail : nameOf(person.user),
              part:
                person.role === 'chair'
                  ? ('chair' as const)
                  : person.needed
                    ? ('needed' as const)
                    : ('optional' as const),
              answer: person.answer,
            },
          ]
    }),
    // Each meeting of a series is an event of its own here, so that each can have its own agenda.
    rule: null,
    stamp,
    cancelled: brief.stage === 'cancelled',
  }
}

function checkInvitable(brief: Brief): void {
  const start = startOf(brief)
  if (start === null) throw new Fault(409, 'no-start', 'It has no day and time yet. Nobody was invited.')
  if (start.kind === 'gap')
    throw new Fault(409, 'gap', 'That time is left out: clocks go forward then. Choose another; nobody was invited.')
  if (brief.people.length === 0) throw new Fault(409, 'nobody', 'Nobody is asked to come yet.')
  if (brief.stage === 'ended') throw new Fault(409, 'ended', 'This meeting has ended.')
}

/**
 * Writes everybody an invitation, or a new one after a change, or says that it's cancelled. Returns how many letters
 * that were.
 */
export async function inviteAll(
  treeId: string,
  topicId: string,
  version: number,
  from: Account,
  cancel: boolean,
): Promise<{ letters: number; sequence: number }> {
  const { tree, topic, brief } = await openMeeting(treeId, topicId, version)
  if (cancel && brief.stage === 'cancelled') throw new Fault(409, 'cancelled', 'It was cancelled already.')
  if (!cancel) checkInvitable(brief)
  const accounts = await everybodyIn(tree)
  const sequence = brief.invitation ? brief.invitation.sequence + 1 : 0
  const at = Date.now()
  const meeting = asCalendarMeeting(treeId, tree, topicId, accounts, from, sequence, at)
  const to = brief.people.flatMap(person => {
    const mail = mailOf(person, accounts)
    return mail === null ? [] : [{ id: person.id, mail }]
  })
  // The tree says so first: should a letter fail, nobody is told what the tree doesn't say.
  // The edit's id is made from the sequence, so that two who send at once send it once.
  const { again } = await submit(treeId, from.id, {
    id: createHash('sha256')
      .update(`${treeId}/${topicId}/invitation/${sequence}/${brief.invitation?.at ?? 'first'}`)
      .digest('base64url')
      .slice(0, 32),
    deed: true,
    changes: [
      {
        op: 'put',
        topic: topicId,
        set: 'meeting',
        member: {
          id: 'invitation',
          kind: 'invitation',
          uid: uidOf(treeId, topicId),
          sequence,
          at,
          by: from.id,
          to,
          digest: invitationDigest(tree, topicId),
        },
      },
      {
        op: 'put',
        topic: topicId,
        set: 'meeting',
        member: {
          id: 'stage',
          kind: 'stage',
          stage: cancel ? 'cancelled' : brief.stage === 'cancelled' ? 'planned' : brief.stage,
        },
      },
    ],
  })
  if (again) throw new Fault(409, 'already', 'Somebody else has just sent it.')
  if (cancel && !brief.invitation) return { letters: 0, sequence }
  const calendar = meeting
    ? [
        {
          name: cancel ? 'cancelled.ics' : 'invitation.ics',
          type: `text/calendar; charset=utf-8; method=${cancel ? 'CANCEL' : 'REQUEST'}`,
          text: writeInvitation({ ...meeting, cancelled: cancel }),
        },
      ]
    : []
  const title = shorten(topic.title || 'Meeting', 150)
  const subject = cancel ? `Cancelled: ${title}` : sequence === 0 ? `Invitation: ${title}` : `Changed: ${title}`
  let letters = 0
  for (const person of brief.people) {
    const to = mailOf(person, accounts)
    if (to === null) continue
    const link =
      person.user === null
        ? `/answer/${await guestToken(treeId, topicId, person.id, from.id, to)}`
        : `/trees/${treeId}?topic=${topicId}&view=meeting`
    await sendLetter({
      to,
      subject,
      from: from.id,
      tree: treeId,
      link,
      attachments: calendar,
      body: `${cancel ? `${from.name} has cancelled this meeting.` : `${from.name} (${from.email}) asks you to ${person.needed ? 'come to' : 'join, if you like,'} this meeting.`}\n\n${invitationText(tree, topicId, nameFrom(accounts))}`,
    })
    letters++
  }
  // Whoever isn't asked any more hears that it's off for them (RFC 5546, section 3.2.2.6).
  const dropped = cancel
    ? []
    : (brief.invitation?.to ?? []).filter(({ id, mail }) => !to.some(other => other.id === id || other.mail === mail))
  for (const { mail } of dropped) {
    await sendLetter({
      to: mail,
      from: from.id,
      tree: treeId,
      subject: `You aren’t needed any more: ${title}`,
      body: `${from.name} has taken you off “${topic.title}”. You needn’t come.`,
      attachments: meeting
        ? [
            {
              name: 'cancelled.ics',
              type: 'text/calendar; charset=utf-8; method=CANCEL',
              text: writeInvitation({
                ...meeting,
                people: [{ mail, name: mail, part: 'optional', answer: 'needs-action' }],
                uninvited: true,
              }),
            },
          ]
        : [],
    })
    letters++
  }
  return { letters, sequence }
}

/** A guest's link; the one before goes on working, since it stands in letters that have been sent. */
async function guestToken(treeId: string, topicId: string, person: string, by: string, mail: string): Promise<string> {
  const token = randomBytes(24).toString('base64url')
  await database()
    .insert(meetingGuests)
    .values({ tokenHash: hashed(token), treeId, topicId, person, createdAt: new Date() })
  await writeAccess({ treeId, by, what: 'guest-asked', about: mail })
  return token
}

function answerPart(person: string, answer: Answer, comment: string) {
  return {
    op: 'put' as const,
    set: 'meeting' as const,
    member: {
      id: `a-${person}`.slice(0, 40),
      kind: 'answer' as const,
      of: person,
      answer,
      comment: cut(comment.trim(), 1000),
      at: Date.now(),
    },
  }
}

/** Keeps a member's own answer. */
export async function answerAs(
  account: Account,
  treeId: string,
  topicId: string,
  version: number,
  answer: Answer,
  comment: string,
): Promise<void> {
  const { brief } = await openMeeting(treeId, topicId, version)
  const own = brief.people.find(({ user, mail }) => user === account.id || mail?.toLowerCase() === account.email)
  if (!own) throw new Fault(409, 'not-asked', 'You aren’t among the people of this meeting.')
  // Somebody who was asked by address only is known by it, which the core can't see.
  const principal: Principal =
    own.user === account.id ? { kind: 'account', id: account.id } : { kind: 'app', of: account.id }
  await submit(treeId, principal, {
    id: newEditId(),
    changes: [{ topic: topicId, ...answerPart(own.id, answer, comment) }],
  })
}

async function guestOf(
  token: string,
): Promise<{ treeId: string; topicId: string; person: string; tree: Tree; brief: Brief }> {
  const gone = new Fault(404, 'no-link', 'This link doesn’t lead to a meeting any more.')
  const [found] = await database()
    .select({
      treeId: meetingGuests.treeId,
      topicId: meetingGuests.topicId,
      person: meetingGuests.person,
      version: trees.version,
      trashed: trees.trashedAt,
    })
    .from(meetingGuests)
    .innerJoin(trees, eq(trees.id, meetingGuests.treeId))
    .where(and(eq(meetingGuests.tokenHash, hashed(token))))
  if (!found || found.trashed) throw gone
  const { tree, brief } = await openMeeting(found.treeId, found.topicId, found.version).catch(() => {
    throw gone
  })
  if (!isLive(tree, found.topicId) || !brief.people.some(({ id }) => id === found.person)) throw gone
  return { ...found, tree, brief }
}

/** What a guest sees by the link in their letter. */
export async function guestMeeting(token: string): Promise<GuestMeeting> {
  const { topicId, person, tree, brief } = await guestOf(token)
  const accounts = await everybodyIn(tree)
  const own = brief.people.find(({ id }) => id === person)!
  const organizer = brief.invitation
    ? ((await accountsOf([brief.invitation.by])).get(brief.invitation.by)?.name ?? '')
    : ''
  return {
    title: topicOf(tree, topicId).title,
    when: whenInWords(tree, topicId),
    text: invitationText(tree, topicId, nameFrom(accounts)),
    name: own.name || own.mail || '',
    answer: own.answer,
    stage: brief.stage,
    organizer,
  }
}

export async function answerAsGuest(token: string, answer: Answer, comment: string): Promise<void> {
  const { treeId, topicId, person, brief } = await guestOf(token)
  if (brief.stage === 'cancelled' || brief.stage === 'ended')
    throw new Fault(409, 'over', brief.stage === 'ended' ? 'This meeting is over.' : 'This meeting was cancelled.')
  await submit(
    treeId,
    { kind: 'guest', id: person, meeting: topicId },
    { id: newEditId(), changes: [{ topic: topicId, ...answerPart(person, answer, comment) }] },
  )
}

/**
 * Takes the answers in a calendar file (RFC 5546, REPLY) to meetings of this tree. One to an older invitation than the
 * last counts too: the person is the same.
 */
export async function takeReplies(
  treeId: string,
  tree: Tree,
  account: Account,
  text: string,
): Promise<{ name: string; answer: Answer; meeting: string }[]> {
  const replies = await runJob('replies', { text }, { person: account.id })
  const accounts = await everybodyIn(tree)
  const taken: { name: string; answer: Answer; meeting: string }[] = []
  for (const { uid, mail, answer, comment, instead } of replies) {
    const topicId = uid.endsWith(`.${treeId}@sun-porch`) ? uid.slice(0, -`.${treeId}@sun-porch`.length) : ''
    const topic = tree.topics.get(topicId)
    if (!topic || !isLive(tree, topicId)) continue
    const person = briefOf(topic).people.find(one => mailOf(one, accounts) === mail)
    if (!person) continue
    const said = answer === 'delegated' && instead ? [comment, `sends ${instead}`].filter(Boolean).join('; ') : comment
    // Whoever is sent instead is asked from then on, as a guest or as the member they are.
    const sent =
      instead !== null && !briefOf(topic).people.some(one => mailOf(one, accounts) === instead)
        ? [
            {
              op: 'put' as const,
              topic: topicId,
              set: 'meeting' as const,
              member: {
                id: newEditId().slice(0, 12),
                kind: 'person' as const,
                user: [...accounts.values()].find(one => one.email === instead)?.id ?? null,
                mail: [...accounts.values()].some(one => one.email === instead) ? null : instead,
                name: '',
                needed: person.needed,
                role: null,
              },
            },
          ]
        : []
    await submit(treeId, account.id, {
      id: newEditId(),
      changes: [{ topic: topicId, ...answerPart(person.id, answer, said) }, ...sent],
    })
    taken.push({
      name: person.user === null ? person.name || mail : nameFrom(accounts)(person.user),
      answer,
      meeting: topic.title,
    })
  }
  if (taken.length === 0)
    throw new Fault(
      422,
      'no-meeting',
      'This answer is to no meeting of this tree, or from nobody who was invited. Nothing was changed.',
    )
  return taken
}
