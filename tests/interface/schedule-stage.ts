import type { Topic } from '#core/tree'
import type { Visitor } from './porch'

/* A tree with a plan for tests. */

export const bars = (page: Visitor['page']) => page.getByRole('tree', { name: 'Schedule' })

/** Three tasks one after the other, from Monday 11 January 2027 on, known up to that day. */
export async function begun(person: Visitor, id: string): Promise<void> {
  const { centre } = (await person.caller.open(id)).snapshot
  const add = (at: string, order: string, more: object) => ({
    op: 'add',
    topic: at,
    parent: centre,
    order,
    with: { title: at[0]!.toUpperCase() + at.slice(1), ...more },
  })
  await person.caller.edit(id, [
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    { op: 'tree', field: 'statusDay', value: '2027-01-11' },
    add('permit', 'a0', { duration: 4 }),
    add('lift', 'a1', { duration: 3 }),
    add('doors', 'a2', { duration: 2 }),
  ] as never)
}

export const topicsOf = async ({ caller }: Visitor, id: string): Promise<Map<string, Partial<Topic>>> =>
  new Map(((await caller.open(id)).snapshot.topics as readonly Partial<Topic>[]).map(one => [one.title!, one]))
