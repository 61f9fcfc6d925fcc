import { expect, it } from 'vitest'
import { planPrint } from './on-planks'

const task = { state: 'ready', late: null, totalFloat: 3, critical: false } as const

it('a plank says what of its task must not slip, and how far the rest may', () => {
  const words = (planned: Parameters<typeof planPrint>[0]): string =>
    planPrint(planned)
      .map(({ text }) => text)
      .join()
  expect(words(task)).toBe('may slip 3 d')
  expect(words({ ...task, totalFloat: 1.3 })).toBe('may slip 1.25 d')
  expect(words({ ...task, totalFloat: 0, critical: true })).toBe('critical')
  expect(words({ ...task, late: 4, totalFloat: -4, critical: true })).toBe('slips 4 d')
  expect(words({ ...task, totalFloat: -2, critical: true })).toBe('2 d too late')
  expect(planPrint({ ...task, late: 4 })[0]!.tone).toBe('late')
  expect(words({ ...task, state: 'done', totalFloat: null })).toBe('')
  expect(words(null)).toBe('')
})
