import { describe, expect, it } from 'vitest'
import { Planning } from '#core/derive/planning'
import { choiceOf } from '#core/figures/choosing'
import { Figures } from '#core/figures/figures'
import { fixedOf } from '#core/figures/fixed'
import { planOf } from '#core/schedule/plan'
import { runSheetOf } from '#core/calendar/run-sheet'
import { allTopics, countTopics, isTask, topicOf } from '#core/tree'
import { buildDemo } from './build'
import { DEMO_PEOPLE } from './people'
import { MEETINGS, MOVE, TRAINING } from './trees'

const people = DEMO_PEOPLE.map(({ key, name }) => ({ id: key, name }))

describe('the demo', () => {
  it('is one rich tree, a series of meetings and a small plan, with every detail understood', () => {
    for (const [demo, least, most] of [
      [MOVE, 140, 190],
      [MEETINGS, 25, 60],
      [TRAINING, 9, 20],
    ] as const) {
      let made = 0
      const tree = buildDemo(demo, people, '2027-03-03', () => `n${made++}`)
      expect(countTopics(tree)).toBeGreaterThanOrEqual(least)
      expect(countTopics(tree)).toBeLessThanOrEqual(most)
      const topics = [...allTopics(tree)]
      expect(topics.filter(topic => topic.title.includes('//')).map(topic => topic.title)).toEqual([])
      expect(topics.some(isTask)).toBe(true)
      for (const title of [...Object.keys(demo.notes), ...demo.folded])
        expect(topics.map(topic => topic.title)).toContain(title)
    }
  })
  it('has a day by the hour, on which one person has to be in two places', () => {
    let made = 0
    const tree = buildDemo(TRAINING, people, '2027-03-03', () => `n${made++}`)
    const asked = { plan: null, today: '2027-03-03', zone: 'UTC', only: null, hidden: () => false }
    const { lines } = runSheetOf(tree, asked, '2027-03-24')
    expect(lines.length).toBe(7)
    expect(lines.filter(({ clashes }) => clashes.length > 0).map(({ entry }) => topicOf(tree, entry.id).title)).toEqual(
      [...['First aid', 'Soup is fetched']],
    )
  })
  it('has a plan with a calendar, some forty dependencies and three estimates, which holds together', () => {
    let made = 0
    const tree = buildDemo(MOVE, people, '2027-03-03', () => `n${made++}`)
    const plan = planOf(tree, '2027-03-03')
    if (typeof plan === 'string') throw new Error(plan)
    expect(plan.broken).toEqual([])
    const topics = [...allTopics(tree)]
    expect(topics.flatMap(({ waits }) => waits).length).toBeGreaterThanOrEqual(40)
    expect(topics.filter(({ estimate }) => estimate).length).toBeGreaterThanOrEqual(10)
    const critical = topics.filter(({ id }) => plan.tasks.get(id)?.critical).map(({ title }) => title)
    expect(critical).toContain('Doors open')
    expect(critical.length).toBeGreaterThan(3)
    expect(critical.length).toBeLessThan(plan.tasks.size / 2)
  })
  it('has a budget of some sixty leaves that adds up to the cent, without a fault', () => {
    let made = 0
    const today = '2027-03-03'
    const tree = buildDemo(MOVE, people, today, () => `n${made++}`)
    const figures = (whatIf: string | null): Figures =>
      new Figures(
        () => tree,
        new Planning(
          () => tree,
          () => today,
        ),
        () => today,
        whatIf,
      )
    const asIs = figures(null)
    const topics = [...allTopics(tree)]
    const costs = topics.filter(({ figures: own }) =>
      own.some(({ measure, text }) => measure === 'cost' && text !== ''),
    )
    expect(costs.length).toBeGreaterThanOrEqual(55)
    for (const { id, title } of topics)
      for (const { id: measure } of tree.fields.measures)
        expect([title, asIs.of(id, measure).fault]).toEqual([title, null])
    // Added up by hand: what stands on its own, unless something above it does.
    const sum = (id: string): bigint =>
      (tree.children.get(id) ?? []).reduce((all, child) => {
        const { value, own } = asIs.of(child, 'cost')
        return all + (own ? (value ?? 0n) : sum(child))
      }, 0n)
    expect(asIs.of(tree.centre, 'cost').value).toBe(sum(tree.centre))
    // 22 × 84.90 and 9 × 262.35.
    const titled = (title: string): string => topics.find(topic => topic.title === title)!.id
    expect(asIs.of(titled('Lamps'), 'cost').value).toBe(fixedOf('4228.95'))
    // Three and a half thousand less, and 1,250 more.
    const norrby = figures('norrby').of(tree.centre, 'cost').value! - asIs.of(tree.centre, 'cost').value!
    expect(norrby).toBeLessThan(0n)
    const choice = choiceOf(tree, titled('Removal firm'), asIs, tree.fields.measures)
    expect([choice.options.length, choice.missing, choice.options.find(({ rank }) => rank === 1)!.title]).toEqual([
      3,
      0,
      'Offer from Two Rivers Carriers',
    ])
  })
  it('has dates that count from the day of loading', () => {
    const early = buildDemo(MOVE, people, '2027-03-03', () => Math.random().toString(36).slice(2))
    const late = buildDemo(MOVE, people, '2028-01-10', () => Math.random().toString(36).slice(2))
    const due = (tree: typeof early): string | null | undefined =>
      [...allTopics(tree)].find(topic => topic.title === 'Shelving')?.due
    expect(due(early)).toBe('2027-03-01')
    expect(due(late)).toBe('2028-01-08')
  })
})
