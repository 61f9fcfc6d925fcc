import { parseTyped } from '#core/figures/parse'
import { namesOf } from '#core/figures/shown'
import { allTopics, applyChanges, type Change, type Measure, type Tree } from '#core/tree'

/** Figures of a demo tree, as they're typed in English; by topic title. */
export interface DemoFigures {
  readonly measures: readonly (Pick<Measure, 'id' | 'name' | 'unit'> & Partial<Measure>)[]
  readonly values: readonly {
    readonly id: string
    readonly name: string
    readonly unit: string
    readonly text: string
  }[]
  readonly whatIfs: readonly { readonly id: string; readonly name: string }[]
  /** By measure: what topics have; a text that begins with `=` is a formula. */
  readonly given: Readonly<Record<string, Readonly<Record<string, string>>>>
  /** By what-if: what they have instead, in the first measure. */
  readonly instead: Readonly<Record<string, Readonly<Record<string, string>>>>
  /** Targets in the first measure. */
  readonly targets: Readonly<Record<string, string>>
  /** The least and the most that something may come to, in the first measure. */
  readonly ranges: Readonly<Record<string, readonly [low: string, high: string]>>
  /** By what one chooses among the topics below another: measures, points, whether more of it is better. */
  readonly choices: Readonly<
    Record<string, readonly (readonly [measure: string, weight: number, better: 'more' | 'less'])[]>
  >
}

export const MOVE_FIGURES: DemoFigures = {
  measures: [
    { id: 'cost', name: 'Cost', unit: 'EUR', decimals: 2, onPlank: true },
    { id: 'hours', name: 'Hours', unit: 'h', decimals: 1 },
    { id: 'care', name: 'Care', unit: '', decimals: 0, rollUp: 'none', limit: 'least' },
    { id: 'near', name: 'Nearness', unit: '', decimals: 0, rollUp: 'none', limit: 'least' },
  ],
  values: [
    { id: 'wage', name: 'Wage', unit: 'EUR/h', text: '38.50' },
    { id: 'spare', name: 'Spare', unit: '%', text: '0.08' },
  ],
  whatIfs: [
    { id: 'norrby', name: 'Norrby builds the lift' },
    { id: 'cork', name: 'Cork and pine' },
  ],
  given: {
    cost: {
      'Front room, 84 metres': '9420.40',
      'Window seats, 12 metres': '2310',
      'Paint pine shelves': '= Hours × Wage + 420',
      'Old shelves to the scouts': '0',
      'Desk lamps, 22': '= 22 × 84.90',
      'Pendant lamps, 9': '= 9 × 262.35',
      'Carpet or cork?': '5180',
      'Curtains to the river': '1264.80',
      'Big table from the old branch': '190',
      Measure: '240',
      Order: '18200',
      Cladding: '3900',
      'Acceptance by the inspector': '610.10',
      'Emergency call line': '385',
      'Sign for the weight limit': '22.50',
      'Low shelves': '1475',
      'Rug and cushions': '398.20',
      'A tannery made of cardboard': '60',
      'Place for prams': '145',
      'Sockets at every desk': '2960',
      'Network cabinet': '1148.30',
      'Radio survey': '350',
      'Second line from the street': '2400',
      'Ramp approved': '3950',
      'Door openers': '2950',
      'Mat in the porch': '212.40',
      '400 crates from the carriers': '= 400 × 1.35',
      'Labels in four colours': '118.60',
      'Book trolleys, 12': '= 12 × 149',
      'Tables from the school': '0',
      'Cash box': '24.95',
      Poster: '86',
      'New shelf marks': '310.20',
      'Return box outside': '742',
      'Choir on the stairs': '250',
      'Music by the river': '480',
      Card: '196.40',
      'Notice in the paper': '164',
      'Bakery at the bridge': '= 300 × 0.85',
      'Coffee, and tea in quantity': '210.75',
      'Cups for 300': '99.90',
      'Lunch for the helpers': '= 34 × 5 × 7.20',
      'Thank-you evening': '680',
      'Insurance asked': '415.30',
      'First aid': '260',
      'Letter to Bridge Street': '38',
      'Coffee morning in the porch': '75',
      'Offer from Two Rivers Carriers': '8940',
      'Offer from Lindqvist Removals': '7680',
      'Offer from Ferry & Sons': '9725',
      'Removal firm': '= Cost of "Offer from Two Rivers Carriers"',
      Reserve: '= (Cost of "Fit-out" + Cost of "Move week") × Spare',
      'No-stopping zone': '132',
      Lorry:
        '= (workdays(start of "Monday: magazine"; finish of "Friday: children\'s books") + 1) × 118 EUR/d + Cost of "No-stopping zone"',
      'Packing table and tape': '94.60',
      'Radio sets for both doors': '168',
      'Soup at noon': '= 5 × 46.20',
      'Hand over keys': '0',
      'Take down the sign': '320',
      'Clean and paint': '= length × 8 h/d × Wage',
      'Forward the mail': '35.90',
    },
    hours: {
      'Count what we have': '9',
      'Paint pine shelves': '24',
      Fiction: '36',
      'Non-fiction': '44',
      'Local history': '26',
      'Maps and newspapers': '18',
      'Labels in four colours': '7.5',
      'New shelf marks': '32',
      'Packing team, 14 people': '= 14 × 12',
      'Unpacking team, 20 people': '= 20 × 8',
      'Training day': '= 9 × 6',
      Card: '10',
      'Clean and paint': '48',
      'Run sheet': '14',
    },
    care: {
      'Offer from Two Rivers Carriers': '9',
      'Offer from Lindqvist Removals': '6',
      'Offer from Ferry & Sons': '8',
    },
    near: {
      'Offer from Two Rivers Carriers': '7',
      'Offer from Lindqvist Removals': '8',
      'Offer from Ferry & Sons': '5',
    },
  },
  instead: {
    norrby: { Order: '15400', Cladding: '5150', 'Emergency call line': '0' },
    cork: { 'Carpet or cork?': '6890', 'Front room, 84 metres': '6120' },
  },
  targets: {
    'Move to the tannery': '92000',
    'Fit-out': '62000',
    Books: '4000',
    'Opening day': '1200',
    Lamps: '4000',
    Lift: '24000',
  },
  ranges: {
    'Front room, 84 metres': ['8800', '11500'],
    Order: ['17600', '21400'],
    Cladding: ['3600', '5800'],
    'Carpet or cork?': ['4700', '7200'],
    'Second line from the street': ['1900', '5200'],
    'Ramp approved': ['3600', '6400'],
    'Door openers': ['2800', '3700'],
  },
  choices: {
    'Removal firm': [
      ['cost', 40, 'less'],
      ['care', 40, 'more'],
      ['near', 20, 'more'],
    ],
  },
}

/** The changes that give a demo tree its figures. Its plan and its titles stand already. */
export function giveDemoFigures(tree: Tree, figures: DemoFigures): void {
  const [first] = figures.measures
  applyChanges(tree, [
    ...figures.measures.map((one, i): Change => ({
      op: 'tree-put',
      set: 'measures',
      member: {
        order: `a${i}`,
        decimals: 2,
        rounding: 'half-even',
        rollUp: 'sum',
        by: null,
        hue: null,
        limit: 'most',
        onPlank: false,
        ...one,
      },
    })),
    ...figures.values.map((one, i): Change => ({
      op: 'tree-put',
      set: 'namedValues',
      member: { ...one, order: `a${i}` },
    })),
    ...figures.whatIfs.map((one, i): Change => ({
      op: 'tree-put',
      set: 'whatIfs',
      member: { ...one, order: `a${i}` },
    })),
  ])
  const byTitle = new Map([...allTopics(tree)].reverse().map(({ id, title }) => [title, id]))
  const at = (title: string): string => {
    const id = byTitle.get(title)
    if (id === undefined) throw new Error(`the demo has no topic “${title}”`)
    return id
  }
  const names = namesOf(tree, 'en-GB')
  const stored = (text: string): string =>
    text.startsWith('=') ? `=${parseTyped(text.slice(1).trim(), names).stored}` : text
  const changes = new Map<string, Extract<Change, { op: 'put'; set: 'figures' }>>()
  const give = (title: string, measure: string, whatIf: string | null, text: string): void => {
    const topic = at(title)
    const id = whatIf === null ? measure : `${measure}-${whatIf}`
    changes.set(`${topic} ${id}`, {
      op: 'put',
      topic,
      set: 'figures',
      member: {
        id,
        measure,
        whatIf,
        text: stored(text),
        target: whatIf === null && measure === first!.id ? (figures.targets[title] ?? null) : null,
        range:
          whatIf === null && measure === first!.id && figures.ranges[title]
            ? { low: figures.ranges[title][0], high: figures.ranges[title][1] }
            : null,
      },
    })
  }
  for (const [measure, table] of Object.entries(figures.given))
    for (const [title, text] of Object.entries(table)) give(title, measure, null, text)
  for (const title of Object.keys(figures.targets))
    if (!(title in figures.given[first!.id]!)) give(title, first!.id, null, '')
  for (const [whatIf, table] of Object.entries(figures.instead))
    for (const [title, text] of Object.entries(table)) give(title, first!.id, whatIf, text)
  applyChanges(tree, [...changes.values()])
  for (const [title, criteria] of Object.entries(figures.choices))
    applyChanges(
      tree,
      criteria.map(([id, weight, better], i): Change => ({
        op: 'put',
        topic: at(title),
        set: 'choice',
        member: { id, kind: 'criterion', order: `a${i}`, weight, better },
      })),
    )
}
