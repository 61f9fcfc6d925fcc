import { type CalendarTask, taskUid, writeCalendar } from '#core/formats/icalendar'
import { minutesLetter } from '#core/formats/minutes-letter'
import { writeMinutesMarkdown } from '#core/formats/minutes-markdown'
import { type Minutes, minutesOf } from '#core/meeting/minutes'
import { fileStem, shorten, topicOf, type Tree } from '#core/tree'
import type { Account } from '../access/accounts'
import { Fault } from '../access/fault'
import { withOwnTemplate } from '../documents/own-templates'
import { minutesAsPdf } from '../documents/minutes-pdf'
import { runJob } from '../jobs/runner'
import { sendLetter } from '../letters/send'
import { everybodyIn, mailOf, nameFrom, openMeeting } from './meeting'
import { planSinceBegin } from './plan-since'

export const MINUTES_TYPES = {
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  pdf: 'application/pdf',
  markdown: 'text/markdown; charset=utf-8',
  tasks: 'text/calendar; charset=utf-8',
} as const
const ENDINGS: Record<keyof typeof MINUTES_TYPES, string> = { docx: 'docx', pdf: 'pdf', markdown: 'md', tasks: 'ics' }

/** The actions of a meeting as calendar tasks. `person`: only theirs. */
function tasksOf(treeId: string, tree: Tree, minutes: Minutes, person: string | null): CalendarTask[] {
  const stamp = Date.now()
  return minutes.actions
    .filter(({ ownerIds }) => person === null || ownerIds.includes(person))
    .map(({ id, title, owners }) => {
      const { due, done, priority } = topicOf(tree, id)
      return {
        uid: taskUid(treeId, id),
        title: title || 'untitled',
        text: [minutes.title, owners.join(', ')].filter(Boolean).join('\n'),
        due,
        done,
        priority,
        stamp,
      }
    })
}

/** The minutes as a file. */
export async function minutesFile(
  treeId: string,
  topicId: string,
  version: number,
  format: keyof typeof MINUTES_TYPES,
  asking: Account,
  template: string | null,
): Promise<{ data: Buffer | string; type: string; name: string }> {
  const { tree, topic, brief } = await openMeeting(treeId, topicId, version)
  const plan = format === 'tasks' ? undefined : await planSinceBegin(treeId, version, brief, asking.id)
  const minutes = { ...minutesOf(tree, topicId, nameFrom(await everybodyIn(tree))), plan }
  const { templates } = tree.fields
  const { own, need } = await withOwnTemplate(treeId, asking.id, templates, format === 'docx' ? template : null)
  const data =
    format === 'docx'
      ? await runJob(
          'minutes',
          { minutes, author: asking.name, templates: [...templates, ...own], template },
          { person: asking.id, need },
        ).then(Buffer.from)
      : format === 'pdf'
        ? await minutesAsPdf(minutes)
        : format === 'markdown'
          ? writeMinutesMarkdown(minutes)
          : writeCalendar([], tasksOf(treeId, tree, minutes, null))
  return { data, type: MINUTES_TYPES[format], name: `${fileStem(topic.title)}.${ENDINGS[format]}` }
}

function letterTo(minutes: Minutes, person: string | null): { body: string; html: string } {
  const { text, html } = minutesLetter(minutes, person)
  return { body: text, html }
}

/** Who would get the minutes by mail, and what they'd read: as one's own letter has it. Nothing is sent. */
export async function previewMinutes(
  treeId: string,
  topicId: string,
  version: number,
  from: Account,
): Promise<{ to: string[]; without: string[]; subject: string; text: string; html: string }> {
  const { tree, topic, brief } = await openMeeting(treeId, topicId, version)
  const plan = await planSinceBegin(treeId, version, brief, from.id)
  const accounts = await everybodyIn(tree)
  const nameOf = nameFrom(accounts)
  const named = brief.people.map(person => ({
    name: person.user === null ? person.name || person.mail || '' : nameOf(person.user),
    mail: mailOf(person, accounts),
  }))
  return {
    to: named.filter(({ mail }) => mail !== null).map(({ name, mail }) => (name === mail ? name : `${name} <${mail}>`)),
    without: named.filter(({ mail }) => mail === null).map(({ name }) => name),
    subject: minutesSubject(topic.title),
    ...minutesLetter({ ...minutesOf(tree, topicId, nameOf), plan }, from.id),
  }
}

const minutesSubject = (title: string): string => `Minutes: ${shorten(title || 'Meeting', 150)}`

/** Mails the minutes to everybody of the meeting, each with their own actions first and as tasks. */
export async function mailMinutes(
  treeId: string,
  topicId: string,
  version: number,
  from: Account,
): Promise<{ letters: number }> {
  const { tree, topic, brief } = await openMeeting(treeId, topicId, version)
  if (brief.stage !== 'ended') throw new Fault(409, 'not-ended', 'The meeting hasn’t ended. Nobody was written to.')
  const accounts = await everybodyIn(tree)
  const plan = await planSinceBegin(treeId, version, brief, from.id)
  const minutes = { ...minutesOf(tree, topicId, nameFrom(accounts)), plan }
  let letters = 0
  for (const person of brief.people) {
    const to = mailOf(person, accounts)
    if (to === null) continue
    const own = person.user === null ? [] : tasksOf(treeId, tree, minutes, person.user)
    letters++
    await sendLetter({
      to,
      from: from.id,
      tree: treeId,
      subject: minutesSubject(topic.title),
      ...letterTo(minutes, person.user),
      ...(person.user === null ? {} : { link: `/trees/${treeId}?topic=${topicId}&view=meeting` }),
      attachments:
        own.length > 0
          ? [{ name: 'tasks.ics', type: 'text/calendar; charset=utf-8', text: writeCalendar([], own) }]
          : [],
    })
  }
  return { letters }
}
