import ical from 'node-ical'
import { inject } from 'vitest'
import type { BriefPart, Topic } from '#core/tree'
import { bringIn, type Caller, signUp } from '../caller'
import { agendaItem, person } from '../meeting-parts'

/* A meeting as it's asked to, and what comes of it. */

export const url = inject('url')

export interface Letter {
  id: string
  to: string
  subject: string
  body: string
  link: string | null
  files: string[]
}

export interface Staged {
  ines: Caller
  rana: Caller
  tree: string
  at: string
}

/** Ines leads, Rana owns the first item, a joiner without an account is asked too. Two items of 20 and 10 minutes. */
export async function staged(house = url, day = '2027-03-02', time = '14:00'): Promise<Staged> {
  const [ines, rana] = [await signUp(house), await signUp(house, 'Rana Tahiri')]
  const tree = await ines.makeTree('Coordination meetings')
  await bringIn(ines, tree, rana, 'viewer')
  const { snapshot } = await ines.open(tree)
  const meeting: BriefPart[] = [
    { id: 'why', kind: 'why', text: 'Decide who moves us.' },
    { id: 'begins', kind: 'begins', day, time, zone: 'Europe/Copenhagen' },
    { id: 'm1', kind: 'must', order: 'a0', text: 'Which firm' },
    { id: 'where', kind: 'where', text: 'The drying loft' },
    person('p1', ines.id, { role: 'chair' }),
    person('p2', rana.id),
    person('p3', null, { mail: 'joiner@oak.example', name: 'The joiner', needed: false }),
  ]
  const serves = [{ id: 'm1', kind: 'serves' }] as const
  await ines.edit(tree, [
    { op: 'add', topic: 'm', parent: snapshot.centre, order: 'a0', with: { title: 'Meeting 3', meeting } },
    agendaItem('i1', 'a0', 'Two offers', 20, rana.id, serves),
    agendaItem('i2', 'a1', 'Neighbours', 10, ines.id, serves),
  ])
  return { ines, rana, tree, at: `/api/trees/${tree}/meetings/m` }
}

export const topicIn = async (who: Caller, tree: string, id: string): Promise<Topic> =>
  (await who.open(tree)).snapshot.topics.find(topic => topic.id === id) as Topic
export const partOf = async (
  who: Caller,
  tree: string,
  id: string,
  part: string,
): Promise<Record<string, unknown> | undefined> => (await topicIn(who, tree, id)).meeting?.find(one => one.id === part)
export const letters = async (who: Caller, box = 'in'): Promise<Letter[]> =>
  (await who.call<Letter[]>('GET', `/api/letters?box=${box}`)).data
export const fileOf = async (who: Caller, letter: Letter, n = 0): Promise<string> =>
  (await who.call<string>('GET', `/api/letters/${letter.id}/files/${n}`)).data
export type Event = {
  type: string
  uid: string
  summary: string
  method: string
  start: Date
  sequence: string
  status: string
}
export const eventsIn = (text: string): Event[] =>
  Object.values(ical.sync.parseICS(text)).filter(
    one => (one as { type: string }).type === 'VEVENT',
  ) as unknown as Event[]
