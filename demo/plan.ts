import { addDays } from '#core/schedule/days'
import { allTopics, type Change, type Estimate, type Tree, type Wait } from '#core/tree'

/** What the plan of a demo tree is made of; days count from the day of loading. */
export interface DemoPlan {
  /** Days ago on which it began. */
  readonly began: number
  readonly closed: readonly (readonly [inDays: number, why: string])[]
  /** Working days. */
  readonly lengths: Readonly<Record<string, number>>
  readonly estimates: Readonly<Record<string, readonly [best: number, likely: number, worst: number]>>
  /** Hours of work. */
  readonly efforts: Readonly<Record<string, number>>
  /** Who waits, for what, and how. */
  readonly waits: readonly (readonly [by: string, on: string, how?: Partial<Pick<Wait, 'kind' | 'lag' | 'days'>>])[]
  /** Starts that are meant just so, in days. */
  readonly fixed: Readonly<Record<string, number>>
  /** Due dates that aren't mere deadlines. */
  readonly notAfter: readonly string[]
  /** By the first name: hours a day, and days off. */
  readonly people: Readonly<Record<string, { readonly hours: number | null; readonly off: readonly number[] }>>
}

export const MOVE_PLAN: DemoPlan = {
  began: 12,
  closed: [[13, 'Stocktaking of the whole town library']],
  lengths: {
    'Count what we have': 3,
    'Old shelves to the scouts': 1,
    'Curtains to the river': 2,
    'Shaft dry?': 2,
    Order: 1,
    'Emergency call line': 2,
    'Sign for the weight limit': 1,
    'Low shelves': 3,
    'Sockets at every desk': 4,
    'Network cabinet': 2,
    'Radio survey': 2,
    Fiction: 4,
    'Non-fiction': 5,
    'Local history': 3,
    'Maps and newspapers': 3,
    'Labels in four colours': 2,
    'Closed for lending, notice': 1,
    'List of guests': 3,
    Card: 4,
    'Notice in the paper': 1,
    'Run sheet': 3,
    'Training day': 1,
    'Rota for the move week': 2,
    'Letter to Bridge Street': 1,
    'No-stopping zone': 3,
    Decide: 1,
    'Report for the second half': 3,
    'Hand over keys': 1,
    'Take down the sign': 1,
    'Lease ends': 0,
    'Doors open': 0,
  },
  estimates: {
    'Order oak shelves': [1, 2, 5],
    'Paint pine shelves': [3, 4, 8],
    Lamps: [3, 5, 9],
    Measure: [1, 1, 3],
    Cladding: [4, 6, 14],
    'Acceptance by the inspector': [1, 1, 6],
    'Second line from the street': [5, 8, 25],
    'Ramp approved': [4, 7, 20],
    'Door openers': [3, 5, 12],
    '400 crates from the carriers': [2, 4, 9],
    'New shelf marks': [3, 4, 7],
    'Clean and paint': [3, 5, 9],
  },
  efforts: { 'Non-fiction': 44, 'Local history': 26, Card: 10, 'Clean and paint': 48 },
  waits: [
    ['Order oak shelves', 'Count what we have'],
    ['Paint pine shelves', 'Order oak shelves', { kind: 'SS', lag: 2 }],
    ['Old shelves to the scouts', "Friday: children's books"],
    ['Curtains to the river', 'Lamps'],
    ['Measure', 'Shaft dry?'],
    ['Order', 'Measure'],
    ['Cladding', 'Order', { lag: 63, days: 'calendar' }],
    ['Emergency call line', 'Cladding', { kind: 'SS', lag: 2 }],
    ['Acceptance by the inspector', 'Cladding'],
    ['Acceptance by the inspector', 'Emergency call line'],
    ['Sign for the weight limit', 'Acceptance by the inspector'],
    ['Low shelves', 'Paint pine shelves'],
    ['Network cabinet', 'Sockets at every desk'],
    ['Radio survey', 'Network cabinet'],
    ['Second line from the street', 'Radio survey'],
    ['Door openers', 'Ramp approved', { lag: 5 }],
    ['400 crates from the carriers', 'Decide'],
    ['Labels in four colours', 'Sort before packing', { kind: 'FF' }],
    ['Closed for lending, notice', 'Decide'],
    ['New shelf marks', 'Sort before packing'],
    ['Book sale', 'Sort before packing'],
    ['Move week', '400 crates from the carriers'],
    ['Move week', 'Labels in four colours'],
    ['Move week', 'Rota for the move week'],
    ['Move week', 'Low shelves'],
    ['Monday: magazine', 'No-stopping zone'],
    ['Monday: magazine', 'Closed for lending, notice', { lag: 5 }],
    ['Tuesday: fiction', 'Monday: magazine'],
    ['Wednesday: non-fiction', 'Tuesday: fiction'],
    ['Thursday: local history', 'Wednesday: non-fiction'],
    ["Friday: children's books", 'Thursday: local history'],
    ['Take down the sign', "Friday: children's books"],
    ['Clean and paint', "Friday: children's books", { lag: 1 }],
    ['Hand over keys', 'Clean and paint'],
    ['Hand over keys', 'Take down the sign'],
    ['Lease ends', 'Hand over keys'],
    ['Card', 'List of guests'],
    ['Notice in the paper', 'Card'],
    ['Report for the second half', 'Ramp approved'],
    ['Letter to Bridge Street', 'No-stopping zone', { kind: 'SS' }],
    ['Training day', 'Radio survey'],
    ['Doors open', 'Fit-out'],
    ['Doors open', 'Move week'],
    ['Doors open', 'Run sheet'],
    ['Doors open', 'Notice in the paper', { lag: 10, days: 'calendar' }],
    ['Doors open', 'Training day'],
  ],
  fixed: { 'Lease ends': 60 },
  notAfter: ['Hand over keys'],
  people: { Rana: { hours: 6, off: [9, 10] }, Lev: { hours: null, off: [16] }, Ines: { hours: 5, off: [] } },
}

/** The changes that make a plan of a demo tree. */
export function demoPlan(
  tree: Tree,
  plan: DemoPlan,
  people: readonly { readonly id: string; readonly name: string }[],
  today: string,
): Change[] {
  const byTitle = new Map([...allTopics(tree)].reverse().map(({ id, title }) => [title, id]))
  const at = (title: string): string => {
    const id = byTitle.get(title)
    if (id === undefined) throw new Error(`the demo has no topic “${title}”`)
    return id
  }
  const each = <T>(table: Readonly<Record<string, T>>, change: (topic: string, value: T) => Change[]): Change[] =>
    Object.entries(table).flatMap(([title, value]) => change(at(title), value))
  return [
    { op: 'tree', field: 'planFrom', value: addDays(today, -plan.began) },
    ...plan.closed.map(([inDays, name]): Change => ({
      op: 'tree-put',
      set: 'exceptions',
      member: { id: addDays(today, inDays), kind: 'closed', name },
    })),
    ...Object.entries(plan.people).map(([name, { hours, off }]): Change => {
      const { id } = people.find(person => person.name.startsWith(name))!
      return { op: 'tree-put', set: 'capacities', member: { id, hours, off: off.map(n => addDays(today, n)) } }
    }),
    ...each(plan.lengths, (topic, value) => [{ op: 'set', topic, field: 'duration', value }]),
    ...each(plan.efforts, (topic, value) => [{ op: 'set', topic, field: 'effort', value }]),
    ...each(plan.estimates, (topic, [best, likely, worst]) => [
      { op: 'set', topic, field: 'estimate', value: { best, likely, worst } satisfies Estimate },
      { op: 'set', topic, field: 'duration', value: likely },
    ]),
    ...each(plan.fixed, (topic, inDays) => [
      { op: 'set', topic, field: 'start', value: addDays(today, inDays) },
      { op: 'set', topic, field: 'startMeans', value: 'fixed' },
    ]),
    ...plan.notAfter.map((title): Change => ({ op: 'set', topic: at(title), field: 'dueMeans', value: 'not-after' })),
    ...plan.waits.map(([by, on, how], i): Change => ({
      op: 'put',
      topic: at(by),
      set: 'waits',
      member: { id: `w${i}`, on: at(on), kind: 'FS', lag: 0, days: 'working', ...how },
    })),
  ]
}
