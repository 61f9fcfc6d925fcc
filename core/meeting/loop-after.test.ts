import { describe, expect, it } from 'vitest'
import { applyChanges, BLANK, childrenOf, emptyTree, fromSnapshot, toSnapshot, topicOf, toOutline } from '../tree'
import { differencesOf } from '../compare/differences'
import { minutesLetter } from '../formats/minutes-letter'
import { writeMinutesMarkdown } from '../formats/minutes-markdown'
import { itemsOf, sayItem } from './agenda'
import { briefOf, meetingOf, nearestMeeting, sayPart, seriesOf } from './brief'
import { minutesOf } from './minutes'
import { carriedInto, dayOfNext, nextMeeting, nextTitle, openItemId, stillOpen } from './next'
import { asEntry, capture, entriesOf } from './record'
import { seriesFigures } from './series'
import { held, meetingTree, minute, nameOf, newId, START, titles } from './loop-fixture'

/*
 * The same meeting once it's held: its record, what changed since, the next one, and the series over time.
 */

describe('the record', () => {
  it('is assembled by itself: attendance, what was decided, actions with owner and day, planned against used, files', () => {
    const tree = held(meetingTree())
    applyChanges(tree, [
      { op: 'put', topic: 'm', set: 'meeting', member: { id: 'c-p1', kind: 'attendance', of: 'p1', came: true } },
      { op: 'put', topic: 'm', set: 'meeting', member: { id: 'c-p3', kind: 'attendance', of: 'p3', came: false } },
      {
        op: 'put',
        topic: 'l1',
        set: 'files',
        member: { id: 'f1', file: 'a'.repeat(64), name: 'Offer.pdf', type: 'application/pdf', size: 9, preview: null },
      },
    ])
    const minutes = minutesOf(tree, 'm', nameOf)
    expect([minutes.day, minutes.began, minutes.ended, minutes.planned, minutes.actual]).toEqual([
      '2027-03-02',
      '14:02',
      '14:35',
      30,
      32,
    ])
    expect(minutes.items.map(({ number, planned, actual, lines }) => [number, planned, actual, lines.length])).toEqual([
      ['1', 20, 26, 2],
      ['2', 10, 6, 1],
    ])
    expect(minutes.musts).toEqual([
      { text: 'Which removal firm', decisions: ['Two Rivers moves us'], is: 'reached', why: '', byHand: false },
    ])
    expect(minutes.actions.map(({ title, owners, due, item }) => [title, owners, due, item])).toEqual([
      ['Sign the offer', ['Oskar Moreau'], '2027-03-05', 'Two offers'],
    ])
    expect(minutes.people.map(({ name, came }) => [name, came])).toEqual([
      ['Ines Brandt', true],
      ['Oskar Moreau', null],
      ['The joiner', false],
    ])
    expect(minutes.parked.map(({ title, by, at }) => [title, by, at])).toEqual([
      ['Late opening', 'Rana Tahiri', '14:12'],
    ])
    const text = writeMinutesMarkdown(minutes)
    for (const part of [
      '# Meeting 3',
      '## 1 Two offers',
      '**Decision**: Two Rivers moves us',
      'File: Offer.pdf',
      '20 min planned, 26 used',
      '**Not there**: The joiner',
    ])
      expect(text).toContain(part)
    expect(text).toMatch(/\| Sign the offer \| Oskar Moreau \| 5 Mar 2027 \| Two offers \|/)
    const letter = minutesLetter(minutes, 'oskar')
    expect(letter.text.startsWith('Yours to do\n-----------\n\n- Sign the offer, due 5 Mar 2027 (Two offers)\n')).toBe(
      true,
    )
    expect(letter.text).not.toMatch(/[*_]{2}|\\[.*_]|\|\s*-/)
    for (const line of letter.text.split('\n')) expect(line.length).toBeLessThanOrEqual(78)
    expect(letter.html).toContain('<h2>Yours to do</h2>')
    expect(letter.html).toContain('<th>What</th>')
    expect(minutesLetter(minutes, 'ines').text.startsWith('Nothing is yours to do')).toBe(true)
  })
  it('a line changes its kind with its marker', () => {
    const tree = held(meetingTree())
    applyChanges(tree, asEntry(topicOf(tree, 'q1'), 'idea', { by: 'ines', name: 'Ines', at: 1 }))
    expect([topicOf(tree, 'q1').markers, topicOf(tree, 'q1').entry]).toEqual([
      ['idea'],
      { kind: 'idea', by: 'rana', name: 'Rana Tahiri', at: START + 10 * minute },
    ])
  })
  it('a copy of a meeting that runs is a plan that nobody was invited to; of one that ended, its record', () => {
    const tree = meetingTree()
    applyChanges(tree, [
      sayPart('m', {
        id: 'invitation',
        kind: 'invitation',
        uid: 'u',
        sequence: 1,
        at: 1,
        by: 'ines',
        to: [],
        digest: 'd',
      }),
      sayPart('m', { id: 'a-p2', kind: 'answer', of: 'p2', answer: 'accepted', comment: '', at: 1 }),
      sayPart('m', { id: 'stage', kind: 'stage', stage: 'running' }),
    ])
    const kinds = (): string[] => (toOutline(tree, 'm').details!.meeting ?? []).map(({ kind }) => kind)
    expect(kinds().filter(kind => ['invitation', 'answer', 'stage'].includes(kind))).toEqual([])
    applyChanges(tree, [sayPart('m', { id: 'stage', kind: 'stage', stage: 'ended' })])
    expect(kinds().filter(kind => ['invitation', 'answer', 'stage'].includes(kind))).toEqual(['answer', 'stage'])
  })
  it('what changed since a number is told topic by topic', () => {
    const tree = meetingTree()
    const before = fromSnapshot(toSnapshot(tree))
    held(tree)
    applyChanges(tree, [
      { op: 'set', topic: 'm', field: 'title', value: 'Meeting 3, moved' },
      { op: 'place', topic: 'a1', parent: 'l2', order: 'a9' },
    ])
    const found = differencesOf(before, tree).map(({ kind, title }) => `${kind} ${title}`)
    expect(found).toContain('changed Meeting 3, moved')
    expect(found.filter(one => one.startsWith('added'))).toHaveLength(8)
    const later = fromSnapshot(toSnapshot(tree))
    applyChanges(tree, [
      { op: 'remove', topic: 'l1' },
      { op: 'place', topic: 'q1', parent: 'm', order: 'a8' },
    ])
    expect(
      differencesOf(later, tree)
        .map(({ kind, id }) => `${kind} ${id}`)
        .sort(),
    ).toEqual(
      [
        'moved q1',
        'removed d1',
        'removed l1',
        ...childrenOf(later, 'l1')
          .filter(id => !['d1', 'a1'].includes(id))
          .map(id => `removed ${id}`),
      ].sort(),
    )
  })
})

describe('the next meeting', () => {
  it('comes by the rule past closed days, with the same people and shape and what is still open as references with their age', () => {
    const tree = held(meetingTree())
    // Every second Tuesday after 2 March; the 16th is closed.
    expect(dayOfNext(tree, 'm')).toBe('2027-03-30')
    const { changes, id } = nextMeeting(tree, 'm', newId)
    applyChanges(tree, changes)
    const brief = briefOf(topicOf(tree, id))
    expect([
      topicOf(tree, id).title,
      brief.begins?.day,
      brief.begins?.time,
      brief.stage,
      brief.why,
      brief.people.length,
      brief.invitation,
      brief.run,
    ]).toEqual(['Meeting 4', '2027-03-30', '14:00', 'planned', '', 3, null, null])
    expect(titles(tree, id)).toEqual(['Still open', 'Two offers', 'Neighbours'])
    expect(childrenOf(tree, openItemId(id)).map(child => topicOf(tree, child).reference?.topic)).toEqual([
      'a1',
      'q1',
      'k1',
    ])
    expect(
      carriedInto(tree, id, '2027-03-20').map(({ carried }) => [
        carried.id,
        carried.meetings,
        carried.days,
        carried.late,
      ]),
    ).toEqual([
      ['a1', 1, 28, true],
      ['q1', 1, 28, false],
      ['k1', 1, 28, false],
    ])
    expect(titles(tree, childrenOf(tree, id)[1]!)).toEqual(['Report', 'Options'])
    expect(seriesOf(tree, id)).toEqual(['m', id])
    expect([meetingOf(tree, openItemId(id)), nearestMeeting(tree, '2027-03-10')]).toEqual([id, id])
  })
  it('leaves out what is settled, and counts on through a second meeting', () => {
    const tree = held(meetingTree())
    applyChanges(tree, [{ op: 'set', topic: 'a1', field: 'done', value: 100 }])
    const second = nextMeeting(tree, 'm', newId)
    applyChanges(tree, second.changes)
    applyChanges(tree, [
      sayPart(second.id, { id: 'stage', kind: 'stage', stage: 'ended' }),
      { op: 'set', topic: 'q1', field: 'done', value: 100 },
    ])
    expect(entriesOf(tree, second.id)).toEqual([])
    expect(stillOpen(tree, second.id, '2027-04-13').map(({ id, meetings, days }) => [id, meetings, days])).toEqual([
      ['k1', 2, 42],
    ])
    const third = nextMeeting(tree, second.id, newId)
    applyChanges(tree, third.changes)
    expect(childrenOf(tree, openItemId(third.id)).map(child => topicOf(tree, child).reference?.topic)).toEqual(['k1'])
    expect(briefOf(topicOf(tree, third.id)).begins?.day).toBe('2027-04-13')
  })
  it('stands first where the newest stands first, and hangs from the centre where that is the meeting', () => {
    const tree = held(meetingTree())
    applyChanges(tree, [
      {
        op: 'add',
        topic: 'm2',
        parent: 'c',
        order: 'a1',
        with: {
          title: 'Meeting 2',
          meeting: [{ id: 'begins', kind: 'begins', day: '2027-02-16', time: '14:00', zone: 'UTC' }],
        },
      },
    ])
    const { changes, id } = nextMeeting(tree, 'm', newId)
    applyChanges(tree, changes)
    expect(childrenOf(tree, 'c')).toEqual([id, 'm', 'm2'])
    const alone = emptyTree({
      ...BLANK,
      id: 'c',
      parent: null,
      order: 'a0',
      title: 'Kick-off',
      meeting: [{ id: 'stage', kind: 'stage', stage: 'ended' }],
    })
    const after = nextMeeting(alone, 'c', newId)
    applyChanges(alone, after.changes)
    expect([topicOf(alone, after.id).parent, seriesOf(alone, after.id)]).toEqual(['c', ['c', after.id]])
  })
  it.each([
    ['Meeting 9', 'Meeting 10'],
    ['Kick-off', 'Kick-off'],
    ['Week 12 ', 'Week 13 '],
  ])('“%s” is followed by “%s”', (title, next) => {
    expect(nextTitle(title)).toBe(next)
  })
})

describe('a series over time', () => {
  it('shows decisions, actions, overruns and how long actions live, as worked by hand', () => {
    const tree = held(meetingTree())
    const second = nextMeeting(tree, 'm', newId)
    applyChanges(tree, second.changes)
    const [, offers] = itemsOf(tree, second.id)
    const began = Date.parse('2027-03-30T12:00:00Z')
    applyChanges(tree, [
      sayPart(second.id, { id: 'stage', kind: 'stage', stage: 'ended' }),
      sayPart(second.id, {
        id: 'run',
        kind: 'run',
        step: 3,
        current: null,
        since: null,
        began,
        ended: began + 40 * minute,
        version: 9,
        by: 'ines',
      }),
      sayItem(offers!.id, { id: 'spent', kind: 'spent', ms: 18 * minute }),
      { op: 'put', topic: second.id, set: 'meeting', member: { id: 'c', kind: 'attendance', of: 'p1', came: true } },
      ...capture(
        tree,
        offers!.id,
        'decision',
        { title: 'Cancel the second offer' },
        { by: null, name: 'The joiner', at: began },
        () => 'd2',
      ).changes,
      ...capture(
        tree,
        offers!.id,
        'action',
        { title: 'Tell Lindqvist', due: '2027-04-02' },
        { by: 'ines', name: 'Ines', at: began },
        () => 'a2',
      ).changes,
      { op: 'set', topic: 'a1', field: 'done', value: 100 },
    ])
    // The first action was due on 5 March and done on the 12th: closed before the second meeting, which raised one more
    // that is open still.
    const figures = seriesFigures(tree, 'm', id => (id === 'a1' ? '2027-03-12' : null), '2027-04-10')
    expect(
      figures.rows.map(({ title, day, raised, closed, overdue, came, invited, planned, actual }) => [
        title,
        day,
        raised,
        closed,
        overdue,
        came,
        invited,
        planned,
        actual,
      ]),
    ).toEqual([
      ['Meeting 3', '2027-03-02', 1, 0, 0, 0, 3, 30, 32],
      ['Meeting 4', '2027-03-30', 1, 1, 0, 1, 3, 36, 18],
    ])
    expect([figures.median, figures.open, figures.openDays]).toEqual([10, 1, [11]])
    expect(figures.decisions.map(({ title, meeting, item, name }) => [title, meeting, item, name])).toEqual([
      ['Cancel the second offer', 'Meeting 4', 'Two offers', 'The joiner'],
      ['Two Rivers moves us', 'Meeting 3', 'Two offers', 'Rana Tahiri'],
    ])
    // Two offers: 20 min twice planned, 26 and 18 used; Neighbours 10 planned once that it was held, 6 used.
    expect(figures.overruns).toEqual([
      { title: 'Two offers', times: 2, planned: 40, actual: 44 },
      { title: 'Neighbours', times: 1, planned: 10, actual: 6 },
    ])
  })
})
