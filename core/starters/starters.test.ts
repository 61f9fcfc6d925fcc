import { describe, expect, it } from 'vitest'
import { smallPicture } from '../scene/small-picture'
import { wearOf } from '../dress/wear'
import { Planning } from '../derive/planning'
import { criteriaOf } from '../figures/choosing'
import { Figures } from '../figures/figures'
import { numeralOf } from '../figures/fixed'
import { allTopics, applyChanges, type Change, childrenOf, lookOf, LOOKS, topicOf } from '../tree'
import { layOut, minutesNeeded } from '../meeting/agenda'
import { briefOf, meetingsOf } from '../meeting/brief'
import { plannedOf } from '../meeting/planned'
import { findingsOf } from '../meeting/readiness'
import { growStarter } from './grow'
import { STARTERS, starterOf } from './starters'

let made = 0
const newId = (): string => `n${made++}`

describe('starters', () => {
  it('are at least ten, each with a name, a purpose and a look that exists', () => {
    expect(STARTERS.length).toBeGreaterThanOrEqual(10)
    expect(new Set(STARTERS.map(starter => starter.id)).size).toBe(STARTERS.length)
    for (const { look, purpose } of STARTERS) {
      expect(LOOKS.some(one => one.id === look)).toBe(true)
      expect(purpose.endsWith('.')).toBe(true)
    }
  })
  it.each(STARTERS.map(starter => [starter.name, starter] as const))(
    '%s grows into a tree of several branches with every detail understood',
    (_, starter) => {
      const tree = growStarter(starter, 'Ours', '2027-03-01', newId)
      const topics = [...allTopics(tree)]
      expect(topicOf(tree, tree.centre).title).toBe('Ours')
      expect(childrenOf(tree, tree.centre).length).toBeGreaterThanOrEqual(4)
      expect(topics.length).toBe(starter.lines.split('\n').length + 1)
      // Whatever stands after // that isn't understood would stay in the title.
      for (const topic of topics) expect(topic.title).not.toContain('//')
      for (const { due } of topics) if (due !== null) expect(due > '2027-03-01').toBe(true)
    },
  )
  it('of meetings are meetings, whose agenda needs nothing laid out and whose things to be settled are all served', () => {
    const brief = growStarter(starterOf('meeting-brief')!, 'Ours', '2027-03-01', newId, 'ines')
    expect(briefOf(topicOf(brief, brief.centre))).toMatchObject({
      stage: 'planned',
      people: [{ user: 'ines', role: 'chair' }],
      musts: [{ text: 'First thing' }, { text: 'Second thing' }],
    })
    expect([layOut(brief, brief.centre), minutesNeeded(brief, brief.centre)]).toEqual([[], 60])
    const kinds = findingsOf(
      plannedOf(brief, brief.centre, {
        nameOf: id => id,
        lead: 'ines',
        elsewhere: new Map(),
        closed: new Set(),
        reading: {},
      }),
    ).map(({ kind }) => kind)
    expect([...new Set(kinds)]).toEqual(['why-missing', 'item-owner', 'start-missing', 'not-invited'])
    const series = growStarter(starterOf('meeting-series')!, 'Ours', '2027-03-01', newId)
    expect(meetingsOf(series).map(id => topicOf(series, id).title)).toEqual(['Meeting 1'])
    expect(layOut(series, meetingsOf(series)[0]!)).toEqual([])
  })
  it('of a budget reckon what is left, exactly; of a decision stand ready to choose by three measures', () => {
    const budget = growStarter(starterOf('budget')!, 'Ours', '2027-03-01', newId)
    const [amount] = budget.fields.measures
    const called = (title: string) => [...allTopics(budget)].find(topic => topic.title === title)!.id
    for (const [title, text] of [
      ['Grant', '1000.10'],
      ['Gifts', '0.20'],
      ['Bought', '400.05'],
      ['For what we don’t', '100'],
    ] as const)
      applyChanges(budget, [
        {
          ...{ op: 'put', topic: called(title), set: 'figures' },
          member: { id: amount!.id, measure: amount!.id, whatIf: null, text, target: null, range: null },
        } as Change,
      ])
    const today = (): string => '2027-03-01'
    const figures = new Figures(() => budget, new Planning(() => budget, today), today)
    expect(numeralOf(figures.of(budget.centre, amount!.id).value!)).toBe('500.25')

    const decision = growStarter(starterOf('decision')!, 'Ours', '2027-03-01', newId)
    const options = [...allTopics(decision)].find(topic => topic.title === 'Options')!
    expect(criteriaOf(options).map(({ id }) => decision.fields.measures.find(one => one.id === id)!.name)).toEqual([
      ...['Price', 'Quality', 'Trust'],
    ])
    expect(childrenOf(decision, options.id).length).toBe(3)
  })
  it('count dates from the day they are used', () => {
    const due = (today: string): string | null =>
      [...allTopics(growStarter(starterOf('new-colleague')!, 'x', today, newId))].find(
        topic => topic.title === 'First day',
      )!.due
    expect(due('2027-03-01')).toBe('2027-03-15')
    expect(due('2027-06-01')).toBe('2027-06-15')
  })
})

describe('the small picture of a tree', () => {
  it('is an SVG of the size asked for, with a bar for each topic in sight and no text of the tree', () => {
    const tree = growStarter(starterOf('decision')!, 'Secret & <b>', '2027-03-01', newId)
    const svg = smallPicture(tree, 200, 120, '2027-03-01')
    // By dusk it wears dusk: another ground, and hues that are light enough on it.
    const dusk = smallPicture(tree, 200, 120, '2027-03-01', true)
    expect(dusk).not.toBe(svg)
    expect(/<rect[^>]*fill="(#[0-9a-f]{6})"/.exec(dusk)![1]).toBe(wearOf(lookOf(tree.fields), true).page)
    expect(svg).toMatch(/^<svg xmlns="http:\/\/www.w3.org\/2000\/svg" width="200" height="120"/)
    expect(svg.match(/<rect /g)!.length).toBe([...allTopics(tree)].length + 1)
    expect(svg).not.toContain('Secret')
    for (const [, x, y, w, h] of svg.matchAll(
      /<rect x="([\d.-]+)" y="([\d.-]+)" width="([\d.]+)" height="([\d.]+)"/g,
    )) {
      expect(Number(x)).toBeGreaterThanOrEqual(0)
      expect(Number(y)).toBeGreaterThanOrEqual(0)
      expect(Number(x) + Number(w)).toBeLessThanOrEqual(200.5)
      expect(Number(y) + Number(h)).toBeLessThanOrEqual(120.5)
    }
  })
})
