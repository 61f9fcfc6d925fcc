import { sql } from 'drizzle-orm'
import type { ListedMeeting, Section, Role } from '#core/contract'
import { itemOf, lengthOfMeeting } from '#core/meeting/agenda'
import { briefOf, dayOf, instantOfStart, meetingOf } from '#core/meeting/brief'
import { plannedOf } from '#core/meeting/planned'
import { findingsOf, readinessOf } from '#core/meeting/readiness'
import { isLive, topicOf, type Tree } from '#core/tree'
import { database } from '../database/connect'
import { readTree } from '../trees/held'
import { elsewhereOf } from './elsewhere'
import { everybodyIn, nameFrom } from './meeting'
import { readingIn } from './reading'

interface Row {
  readonly treeId: string
  readonly tree: string
  readonly version: number
  readonly role: Role
  readonly id: string
}

async function meetingRows(userId: string): Promise<Row[]> {
  const [rows] = (await database().execute(sql`
    select t.tree_id as treeId, tr.title as tree, tr.version, m.role, t.id from members m
    join trees tr on tr.id = m.tree_id and tr.trashed_at is null and tr.starter = 0
    join topics t on t.tree_id = m.tree_id and t.meets = 1 and t.removed = 0
    where m.user_id = ${userId} limit 2000`)) as unknown as [Row[]]
  return rows
}

/** A meeting and the tree it stands in. */
export interface OpenedMeeting {
  readonly row: Row
  readonly tree: Tree
}

/** Every live meeting in the trees that are open to somebody. */
export async function meetingsOpenTo(userId: string): Promise<OpenedMeeting[]> {
  const found: OpenedMeeting[] = []
  for (const row of await meetingRows(userId)) {
    const held = await readTree(row.treeId, row.version)
    if (held?.tree.topics.has(row.id) && isLive(held.tree, row.id) && topicOf(held.tree, row.id).meeting.length > 0)
      found.push({ row, tree: held.tree })
  }
  return found
}

/** How ready a meeting is, and how much is still in its way; nothing of either once it has begun. */
async function readinessFor(
  userId: string,
  { row, tree }: OpenedMeeting,
): Promise<Pick<ListedMeeting, 'readiness' | 'findings'>> {
  const brief = briefOf(topicOf(tree, row.id))
  if (brief.stage !== 'planned') return { readiness: null, findings: 0 }
  const planned = plannedOf(tree, row.id, {
    nameOf: nameFrom(await everybodyIn(tree)),
    lead: brief.run?.by ?? userId,
    elsewhere: await elsewhereOf(row.treeId, tree, row.id, userId),
    closed: new Set(),
    reading: await readingIn(row.treeId, tree, row.id),
  })
  return { readiness: readinessOf(planned), findings: findingsOf(planned).length }
}

/**
 * Meetings open to somebody by their start, those without one last, with how ready they are. `from`: the first day that
 * is listed (ISO 8601), what runs now always is; null for all. `most`: no more than these, since each costs a look at
 * everybody else's meetings.
 */
export async function listMeetings(userId: string, from: string | null, most = 500): Promise<ListedMeeting[]> {
  const start = ({ row, tree }: OpenedMeeting): number => instantOfStart(briefOf(topicOf(tree, row.id))) ?? Infinity
  const opened = (await meetingsOpenTo(userId))
    .filter(({ row, tree }) => {
      const brief = briefOf(topicOf(tree, row.id))
      const day = dayOf(brief)
      return from === null || brief.stage === 'running' || (brief.stage === 'planned' && (day === '' || day >= from))
    })
    .sort((a, b) => start(a) - start(b))
  const listed: ListedMeeting[] = []
  for (const one of opened.slice(0, most)) {
    const { row, tree } = one
    const topic = topicOf(tree, row.id)
    const brief = briefOf(topic)
    const own = brief.people.find(({ user }) => user === userId)
    listed.push({
      treeId: row.treeId,
      tree: row.tree,
      id: row.id,
      title: topic.title,
      stage: brief.stage,
      day: dayOf(brief),
      start: instantOfStart(brief),
      zone: brief.begins?.zone ?? null,
      minutes: lengthOfMeeting(tree, row.id),
      where: brief.where,
      people: brief.people.length,
      part: own ? (own.role ?? (own.needed ? 'needed' : 'optional')) : null,
      answer: own?.answer ?? null,
      invited: brief.invitation !== null,
      ...(await readinessFor(userId, one)),
    })
  }
  return listed
}

/** Sections that somebody has been asked to fill in and hasn't marked ready, by the day they are wanted. */
export async function sectionsOf(userId: string): Promise<Section[]> {
  const [rows] = (await database().execute(sql`
    select p.tree_id as treeId, tr.title as tree, tr.version, m.role, p.topic_id as id from topic_people p
    join members m on m.tree_id = p.tree_id and m.user_id = p.user_id
    join trees tr on tr.id = p.tree_id and tr.trashed_at is null and tr.starter = 0
    join topics t on t.tree_id = p.tree_id and t.id = p.topic_id and t.removed = 0
    where p.user_id = ${userId} and json_exists(t.rest, '$.item') limit 500`)) as unknown as [Row[]]
  const sections: Section[] = []
  for (const row of rows) {
    const held = await readTree(row.treeId, row.version)
    if (!held?.tree.topics.has(row.id) || !isLive(held.tree, row.id)) continue
    const item = itemOf(topicOf(held.tree, row.id))
    const meeting = meetingOf(held.tree, row.id)
    if (!item.asked || item.ready || meeting === null || briefOf(topicOf(held.tree, meeting)).stage !== 'planned')
      continue
    sections.push({
      treeId: row.treeId,
      tree: row.tree,
      role: row.role,
      id: row.id,
      title: item.title,
      by: item.asked.by,
      meeting: topicOf(held.tree, meeting).title,
    })
  }
  return sections.sort((a, b) => (a.by < b.by ? -1 : a.by > b.by ? 1 : 0))
}
