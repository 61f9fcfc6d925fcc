import type { Figure } from '#core/tree'
import type { Visitor } from './porch'

/* A tree with figures for tests. */

export const sheet = (page: Visitor['page']) => page.getByRole('treegrid', { name: 'Sheet of figures' })

export const row = (page: Visitor['page'], title: string) =>
  sheet(page)
    .getByRole('row')
    .filter({ has: page.getByRole('rowheader', { name: title }) })

export const cell = (page: Visitor['page'], title: string, column = 0) =>
  row(page, title).getByRole('gridcell').nth(column)

export const measure = (id: string, name: string, more: object = {}) => ({
  op: 'tree-put',
  set: 'measures',
  member: {
    id,
    order: id === 'cost' ? 'a0' : id === 'hours' ? 'a1' : 'a2',
    name,
    unit: 'EUR',
    decimals: 2,
    rounding: 'half-even',
    rollUp: 'sum',
    by: null,
    hue: null,
    limit: 'most',
    onPlank: id === 'cost',
    ...more,
  },
})

export const give = (topicId: string, id: string, text: string, more: Partial<Figure> = {}) => ({
  op: 'put',
  topic: topicId,
  set: 'figures',
  member: { id, measure: id, whatIf: null, text, target: null, range: null, ...more },
})

/** Two branches with leaves; with measures and figures where they're asked for. */
export async function laid({ caller }: Visitor, id: string, ...more: object[]): Promise<string> {
  const { centre } = (await caller.open(id)).snapshot
  const add = (at: string, parent: string, order: string) => ({
    op: 'add',
    topic: at,
    parent,
    order,
    with: { title: at[0]!.toUpperCase() + at.slice(1) },
  })
  await caller.edit(id, [
    add('rooms', centre, 'a0'),
    add('lift', 'rooms', 'a0'),
    add('lamps', 'rooms', 'a1'),
    add('paint', 'rooms', 'a2'),
    add('books', centre, 'a1'),
    add('crates', 'books', 'a0'),
    ...more,
  ] as never)
  return centre
}

export const COST = measure('cost', 'Cost')

export const HOURS = measure('hours', 'Hours', { unit: 'h', decimals: 1 })

export const figuresOf = async ({ caller }: Visitor, id: string, at: string): Promise<Record<string, string>> => {
  const { topics } = (await caller.open(id)).snapshot as unknown as { topics: { id: string; figures?: Figure[] }[] }
  return Object.fromEntries((topics.find(one => one.id === at)!.figures ?? []).map(one => [one.id, one.text]))
}
