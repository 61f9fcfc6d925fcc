import { describe, expect, it } from 'vitest'
import { applyChanges, changeSchema, childrenOf, topicOf, type Tree } from '../tree'
import {
  handTo,
  itemsOf,
  itemStarts,
  layOut,
  minutesNeeded,
  moveItem,
  plannedEnd,
  runningOf,
  sayItem,
  timed,
} from './agenda'
import { briefOf, sayPart } from './brief'
import { forecastEnd } from './clock'
import { invitationDigest, invitationText, whenInWords } from './invitation'
import { moveOn } from './running'
import { held, line, meetingTree, minute, nameOf, START, titles, findings } from './loop-fixture'

/*
 * The demo's third coordination meeting, from brief to the next one. What comes out is worked by hand beside each
 * case.
 */

describe('the brief and the agenda', () => {
  it('lines count as items until they are laid out, and are topics from then on, with owner, minutes, pattern', () => {
    const tree = meetingTree()
    expect(minutesNeeded(tree, 'm')).toBe(30)
    expect(findings(tree)).toEqual(['not-invited', 'not-invited', 'not-laid-out'])
    applyChanges(tree, layOut(tree, 'm'))
    expect(titles(tree, 'm')).toEqual(['Two offers', 'Neighbours'])
    expect(titles(tree, 'l1')).toEqual(['Report', 'Options'])
    expect(itemsOf(tree, 'm').map(({ minutes, owners, intent }) => [minutes, owners, intent])).toEqual([
      [20, ['oskar'], 'decide'],
      [10, ['rana'], 'discuss'],
    ])
    expect(minutesNeeded(tree, 'm')).toBe(30)
    expect(findings(tree)).toEqual(['not-invited', 'not-invited'])
    // 14:00 in Copenhagen on 2 March is 13:00 UTC; the second item comes twenty minutes later.
    expect([...itemStarts(tree, 'm').values()].map(at => new Date(at).toISOString())).toEqual([
      '2027-03-02T13:00:00.000Z',
      '2027-03-02T13:20:00.000Z',
    ])
  })
  it('laid out again, nothing is made twice or written over, whatever people did in between', () => {
    const tree = meetingTree()
    applyChanges(tree, layOut(tree, 'm'))
    expect(layOut(tree, 'm')).toEqual([])
    const [report, options] = childrenOf(tree, 'l1')
    applyChanges(tree, [
      { op: 'set', topic: report!, field: 'title', value: 'Report: both came' },
      { op: 'remove', topic: options! },
      { op: 'set', topic: 'l2', field: 'title', value: 'Bridge Street' },
      sayItem('l2', { id: 'pattern', kind: 'pattern', parts: ['News', 'Questions'] }),
      sayPart('m', line('l3', 'a3', 'Next steps')),
    ])
    applyChanges(tree, layOut(tree, 'm'))
    expect(titles(tree, 'm')).toEqual(['Two offers', 'Bridge Street', 'Next steps'])
    expect([titles(tree, 'l1'), titles(tree, 'l2')]).toEqual([['Report: both came'], ['News', 'Questions']])
    expect(layOut(tree, 'm')).toEqual([])
  })
  it('is handed to one person alone, or to nobody', () => {
    const tree = meetingTree()
    applyChanges(tree, layOut(tree, 'm'))
    const owners = (): readonly string[] => topicOf(tree, 'l1').people
    expect(handTo(topicOf(tree, 'l1'), 'oskar')).toEqual([])
    applyChanges(tree, [
      { op: 'put', topic: 'l1', set: 'people', member: 'rana' },
      { op: 'put', topic: 'l1', set: 'people', member: 'ines' },
    ])
    applyChanges(tree, handTo(topicOf(tree, 'l1'), 'rana'))
    expect(owners()).toEqual(['rana'])
    applyChanges(tree, handTo(topicOf(tree, 'l1'), null))
    expect(owners()).toEqual([])
  })
  it('items stand before what else hangs from the meeting, and move among themselves', () => {
    const tree = meetingTree()
    applyChanges(tree, [{ op: 'add', topic: 'x', parent: 'm', order: 'a5', with: { title: 'Catering' } }])
    applyChanges(tree, layOut(tree, 'm'))
    expect(titles(tree, 'm')).toEqual(['Two offers', 'Neighbours', 'Catering'])
    applyChanges(tree, moveItem(tree, 'l2', -1))
    expect(titles(tree, 'm')).toEqual(['Neighbours', 'Two offers', 'Catering'])
    expect(moveItem(tree, 'l2', -1)).toEqual([])
    applyChanges(tree, moveItem(tree, 'l2', 1))
    expect(titles(tree, 'm')).toEqual(['Two offers', 'Neighbours', 'Catering'])
  })
  it('an invitation says when, why, what must be settled and the way there; its digest changes with what people must hear of', () => {
    const tree = meetingTree()
    applyChanges(tree, layOut(tree, 'm'))
    expect(whenInWords(tree, 'm')).toBe('2 Mar 2027, 14:00 to 14:30 (Europe/Copenhagen)')
    const text = invitationText(tree, 'm', nameOf)
    for (const part of [
      'Decide who moves us.',
      '1. Which removal firm',
      '1. 14:00  Two offers (to decide, 20 min, Oskar Moreau)',
      '2. 14:20  Neighbours',
      'The joiner',
    ])
      expect(text).toContain(part)
    const before = invitationDigest(tree, 'm')
    applyChanges(tree, [sayPart('m', { id: 'why', kind: 'why', text: 'Another reason.' })])
    expect(invitationDigest(tree, 'm')).toBe(before)
    applyChanges(tree, [
      sayPart('m', { id: 'begins', kind: 'begins', day: '2027-03-02', time: '15:00', zone: 'Europe/Copenhagen' }),
    ])
    expect(invitationDigest(tree, 'm')).not.toBe(before)
  })
  it('a start that daylight saving leaves out is pointed out', () => {
    const tree = meetingTree()
    applyChanges(tree, [
      ...layOut(tree, 'm'),
      sayPart('m', { id: 'begins', kind: 'begins', day: '2027-03-28', time: '02:30', zone: 'Europe/Copenhagen' }),
    ])
    expect(findings(tree)).toContain('start-gap')
  })
  it.each([
    ['minutes', { id: 'minutes', kind: 'minutes', minutes: 0 }],
    ['minutes', { id: 'minutes', kind: 'minutes', minutes: -5 }],
    ['minutes', { id: 'minutes', kind: 'minutes', minutes: 2.5 }],
  ])('%s %j are refused at the door', (_, member) => {
    expect(changeSchema.safeParse({ op: 'put', topic: 'l1', set: 'item', member }).success).toBe(false)
    expect(
      changeSchema.safeParse({
        op: 'put',
        topic: 'm',
        set: 'meeting',
        member: { id: 'p9', kind: 'person', user: null, mail: 'not an address', name: '', needed: true, role: null },
      }).success,
    ).toBe(false)
  })
})

describe('the running', () => {
  it('counts each item by the clock of whoever calls, also through a pause and back', () => {
    const tree = meetingTree()
    applyChanges(tree, layOut(tree, 'm'))
    const steps: [Parameters<typeof moveOn>[2], number][] = [
      [{ to: 'begin' }, 0],
      [{ to: 'pause' }, 5],
      [{ to: 'go-on' }, 9],
      [{ to: 'next' }, 14],
      [{ to: 'item', item: 'l1' }, 16],
      [{ to: 'next' }, 17],
    ]
    let step: number | null = null
    for (const [move, at] of steps) {
      const moved = moveOn(tree, 'm', move, step, START + at * minute, 'ines', 1)
      if (moved.kind !== 'moved') throw new Error(moved.kind)
      applyChanges(tree, moved.changes)
      step = moved.step
    }
    // First: 0–5, 9–14 and 16–17; second: 14–16.
    expect(itemsOf(tree, 'm').map(({ spent }) => spent / minute)).toEqual([11, 2])
    // On the second since minute 17 with 8 left of its 10, at minute 20 it has 5 left and nothing comes after.
    expect(forecastEnd(itemsOf(tree, 'm').map(timed), runningOf(tree, 'm')!, START + 20 * minute)).toBe(
      START + 25 * minute,
    )
  })
  it('two chairs who press next at once move it on once; ending twice ends it once', () => {
    const tree = meetingTree()
    applyChanges(tree, layOut(tree, 'm'))
    const press = (to: 'begin' | 'next' | 'end' | 'pause', from: number | null): string => {
      const moved = moveOn(tree, 'm', { to }, from, START, 'ines', 1)
      if (moved.kind === 'moved') applyChanges(tree, moved.changes)
      return moved.kind
    }
    expect([
      press('next', null),
      press('begin', null),
      press('begin', null),
      press('next', 1),
      press('next', 1),
      press('end', 2),
      press('end', 2),
      press('next', 3),
      press('begin', null),
    ]).toEqual(['refused', 'moved', 'already', 'moved', 'already', 'moved', 'already', 'refused', 'refused'])
    expect(briefOf(topicOf(tree, 'm')).run?.current).toBe('l2')
  })
  it('ended by mistake goes on where it was; the time in between isn’t counted', () => {
    const tree = held(meetingTree())
    const press = (to: 'reopen' | 'back' | 'end', from: number, at: number): string => {
      const moved = moveOn(tree, 'm', { to }, from, START + at * minute, 'ines', 1)
      if (moved.kind === 'moved') applyChanges(tree, moved.changes)
      return moved.kind
    }
    // It ended at minute 33, after 26 and 6 minutes; ten minutes later it goes on with the second item for four more.
    expect([press('reopen', 4, 43), press('reopen', 5, 43), press('back', 5, 43), press('end', 6, 47)]).toEqual([
      'moved',
      'already',
      'moved',
      'moved',
    ])
    expect(itemsOf(tree, 'm').map(({ spent }) => spent / minute)).toEqual([26, 10])
    expect(briefOf(topicOf(tree, 'm'))).toMatchObject({ stage: 'ended', run: { ended: START + 47 * minute } })
  })
  it('goes on with what wasn’t spoken of yet when the current item is taken off', () => {
    const tree = meetingTree()
    applyChanges(tree, [
      sayPart('m', line('l3', 'a3', 'Next steps')),
      sayPart('m', line('l4', 'a4', 'Any other')),
      ...layOut(tree, 'm'),
    ])
    applyChanges(tree, layOut(tree, 'm'))
    const press = (to: 'begin' | 'next', at: number): void => {
      const moved = moveOn(tree, 'm', { to }, null, START + at * minute, 'ines', 1)
      if (moved.kind === 'moved') applyChanges(tree, moved.changes)
    }
    press('begin', 0)
    press('next', 5)
    applyChanges(tree, [{ op: 'remove', topic: 'l2' }])
    press('next', 8)
    expect(briefOf(topicOf(tree, 'm')).run?.current).toBe('l3')
  })
})

describe('a meeting begun on another day than planned', () => {
  it('counts from when it was begun; on its own day it should still end as planned', () => {
    const begin = (at: string): Tree => {
      const tree = meetingTree()
      applyChanges(tree, layOut(tree, 'm'))
      const moved = moveOn(tree, 'm', { to: 'begin' }, null, Date.parse(at), 'ines', 1)
      if (moved.kind === 'moved') applyChanges(tree, moved.changes)
      return tree
    }
    // Planned for 14:00 (13:00 UTC) on 2 March, thirty minutes long.
    expect(new Date(plannedEnd(begin('2027-03-02T13:07:00Z'), 'm')!).toISOString()).toBe('2027-03-02T13:30:00.000Z')
    const early = begin('2027-03-01T09:00:00Z')
    expect(new Date(plannedEnd(early, 'm')!).toISOString()).toBe('2027-03-01T09:30:00.000Z')
    expect(new Date(itemStarts(early, 'm').get('l2')!).toISOString()).toBe('2027-03-01T09:20:00.000Z')
  })
})
