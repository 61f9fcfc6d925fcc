import { describe, expect, it } from 'vitest'
import { allTopics, countTopics, isTask } from '#core/tree'
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
  it('has dates that count from the day of loading', () => {
    const early = buildDemo(MOVE, people, '2027-03-03', () => Math.random().toString(36).slice(2))
    const late = buildDemo(MOVE, people, '2028-01-10', () => Math.random().toString(36).slice(2))
    const due = (tree: typeof early): string | null | undefined =>
      [...allTopics(tree)].find(topic => topic.title === 'Shelving')?.due
    expect(due(early)).toBe('2027-03-01')
    expect(due(late)).toBe('2028-01-08')
  })
})
