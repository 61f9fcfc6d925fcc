import type { BriefPart, Change, ItemPart } from '../core/tree'

/* What meetings of tests are made of. */

export const put = (topic: string, member: BriefPart): Change => ({ op: 'put', topic, set: 'meeting', member })

export const person = (id: string, user: string | null, more: object = {}): BriefPart => ({
  id,
  kind: 'person',
  user,
  mail: null,
  name: '',
  needed: true,
  role: null,
  ...more,
})

/** An item of the meeting `m`, to be decided in so many minutes. */
export const agendaItem = (
  topic: string,
  order: string,
  title: string,
  minutes: number,
  owner: string,
  more: readonly ItemPart[] = [],
): Change => ({
  op: 'add',
  topic,
  parent: 'm',
  order,
  with: {
    title,
    people: [owner],
    item: [{ id: 'intent', kind: 'intent', intent: 'decide' }, { id: 'minutes', kind: 'minutes', minutes }, ...more],
  },
})
