import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bodyOf, type Body } from '../talk/body'
import { ALL } from '../talk/everybody'
import { BENCH, type Told } from '../talk/saying'
import type { Change } from '../tree'
import { type Around, type Telling, tellingsOfEdit, watchedAbove } from './from-edit'
import { tellingsOfSaying } from './from-saying'
import { grouped, type Tidings, tidingsInWords, tidingsLink } from './grouped'
import { type ToldKind, USUAL_WAYS, type Ways, waysSchema } from './kinds'
import { mondayOf } from '../schedule/weekdays'
import { isQuiet, lettersDue } from './when'

const told = (list: readonly Telling[]): string[] => list.map(({ to, kind, topic }) => `${to} ${kind} ${topic}`)

describe('an edit', () => {
  const on = (topic: string): string[] => (topic === 'lift' ? ['rana', 'ines'] : [])
  const around: Around = { peopleOn: on, peopleBelow: () => new Map(), was: () => undefined }
  const done = (...changes: Change[]): string[] => told(tellingsOfEdit({ number: 7, by: 'ines', changes }, around))
  const put = (member: string, topic = 'lift'): Change => ({ op: 'put', topic, set: 'people', member })
  const take = (member: string, topic = 'lift'): Change => ({ op: 'take', topic, set: 'people', member })
  const due = (value: string | null, topic = 'lift'): Change => ({ op: 'set', topic, field: 'due', value })

  it('tells whoever is given a task or loses one, but not whoever did it', () => {
    expect(done(put('rana'), put('ines'))).toEqual(['rana task lift'])
    expect(done(take('rana'))).toEqual(['rana task lift'])
    expect(
      done({ op: 'add', topic: 'x', parent: null, order: 'a0', with: { title: 'Lamps', people: ['rana', 'ines'] } }),
    ).toEqual(['rana task x'])
    const [given] = tellingsOfEdit({ number: 7, by: 'ines', changes: [put('rana')] }, around)
    expect(given).toMatchObject({ data: { given: true }, once: 'e7 task lift' })
  })

  it('says nothing of what it takes back itself', () => {
    expect(done(put('rana'), take('rana'))).toEqual([])
    expect(done(take('rana'), put('rana'))).toEqual([])
  })

  it('tells the others on a task that its date was moved, once, and not beside that they were put on it', () => {
    expect(done(due('2026-05-12'), due('2026-05-13'))).toEqual(['rana date lift'])
    expect(tellingsOfEdit({ number: 7, by: 'ines', changes: [due('2026-05-12'), due(null)] }, around)[0]!.data).toEqual(
      { field: 'due', value: null },
    )
    expect(done(put('rana'), due('2026-05-12'))).toEqual(['rana task lift'])
    expect(done(due('2026-05-12', 'lamps'))).toEqual([])
  })

  it('says what a date was, where that is known; one that is what it was is nothing', () => {
    const was = (value: string | null, to: string | null): unknown[] =>
      tellingsOfEdit({ number: 7, by: 'ines', changes: [due(to)] }, { ...around, was: () => value }).map(
        ({ data }) => data,
      )
    expect(was('2026-05-12', '2026-05-14')).toEqual([{ field: 'due', value: '2026-05-14', was: '2026-05-12' }])
    expect(was(null, '2026-05-14')).toEqual([{ field: 'due', value: '2026-05-14', was: null }])
    expect(was('2026-05-14', '2026-05-14')).toEqual([])
  })

  it('tells whoever was on what went with a branch, once, and nothing beside it', () => {
    const branch: Around = {
      ...around,
      peopleBelow: root =>
        new Map(
          root === 'fit'
            ? [
                ['lift', ['rana', 'ines']],
                ['lamps', ['carl']],
              ]
            : [],
        ),
    }
    const found = (...changes: Change[]) => tellingsOfEdit({ number: 7, by: 'ines', changes }, branch)
    const remove: Change = { op: 'remove', topic: 'fit' }
    expect(told(found(remove))).toEqual(['rana task lift', 'carl task lamps'])
    expect(found(remove)[0]!.data).toEqual({ gone: true })
    expect(told(found(due('2026-05-12'), take('rana'), remove))).toEqual(['rana task lift', 'carl task lamps'])
    expect(found(remove, { op: 'restore', topic: 'fit' })).toEqual([])
  })

  it('tells who is asked to fill in a section', () => {
    const asked: Change = {
      op: 'put',
      topic: 'lift',
      set: 'item',
      member: { id: 'asked', kind: 'asked', by: '2026-05-12', of: 'ines', at: 1 },
    }
    expect(done(asked)).toEqual(['rana section lift'])
    expect(done(asked, { op: 'take', topic: 'lift', set: 'item', member: 'asked' })).toEqual([])
  })

  it('law: nobody is told of their own doing, and nothing twice', () => {
    const person = fc.constantFrom('ines', 'rana', 'carl')
    const topic = fc.constantFrom('lift', 'lamps')
    const change: fc.Arbitrary<Change> = fc.oneof(
      fc.tuple(person, topic).map(([member, at]) => put(member, at)),
      fc.tuple(person, topic).map(([member, at]) => take(member, at)),
      topic.map(at => due('2026-05-12', at)),
    )
    fc.assert(
      fc.property(person, fc.array(change, { maxLength: 12 }), (by, changes) => {
        const found = tellingsOfEdit(
          { number: 1, by, changes },
          { ...around, peopleOn: () => ['ines', 'rana', 'carl'] },
        )
        expect(found.some(({ to }) => to === by)).toBe(false)
        expect(new Set(found.map(({ to, once }) => `${to} ${once}`)).size).toBe(found.length)
      }),
    )
  })

  it('touches what is watched above its topics, and stops at a round', () => {
    const parents: Record<string, string | null> = { bolt: 'lift', lift: 'move', move: null, a: 'b', b: 'a' }
    const parentOf = (id: string): string | null | undefined => parents[id]
    expect(watchedAbove('bolt', new Set(['move', 'lift', 'lamps']), parentOf)).toEqual(['lift', 'move'])
    expect(watchedAbove('lift', new Set(['bolt']), parentOf)).toEqual([])
    expect(watchedAbove('a', new Set(['b']), parentOf)).toEqual(['b'])
    expect(watchedAbove(null, new Set(['b']), parentOf)).toEqual([])
  })
})

describe('a saying', () => {
  const mention = (id: string): Body => ({
    type: 'doc',
    content: [{ type: 'paragraph', content: [{ type: 'person', attrs: { id, label: 'x' } }] }],
  })
  const say = (body: Body | null, thread = 'c0', by = 'ines'): Told => ({
    id: 's',
    op: 'say',
    comment: 'c1',
    thread,
    body,
    number: 3,
    by,
    at: '',
  })
  const around = {
    topic: 'lift',
    speakers: ['rana', 'ines', 'carl', 'rana'],
    members: ['ines', 'rana', 'carl', 'vera'],
  }
  const said = (one: Told): string[] => told(tellingsOfSaying(one, around))

  it('tells who talked in the thread, and who is mentioned: each once', () => {
    expect(said(say(bodyOf('By 4 cm.')))).toEqual(['rana reply lift', 'carl reply lift'])
    expect(said(say(mention('rana')))).toEqual(['rana mention lift', 'carl reply lift'])
    expect(said(say(mention(ALL)))).toEqual(['rana mention lift', 'carl mention lift', 'vera mention lift'])
  })

  it('tells of the talk of the tree only mentions, and of a withdrawn comment nothing', () => {
    expect(said(say(bodyOf('Who has the key?'), BENCH))).toEqual([])
    expect(said(say(mention('carl'), BENCH))).toEqual(['carl mention lift'])
    expect(said(say(null))).toEqual([])
    expect(said({ id: 's', op: 'settle', thread: 'c0', settled: true, number: 4, by: 'ines', at: '' })).toEqual([])
  })

  it('that is reworded tells those whom it names, and nobody of a reply again', () => {
    const reworded: Told = {
      id: 's',
      op: 'reword',
      comment: 'c1',
      thread: 'c0',
      body: mention('rana'),
      number: 5,
      by: 'ines',
      at: '',
    }
    expect(said(reworded)).toEqual(['rana mention lift'])
    // The same telling as before, which is kept once.
    expect(tellingsOfSaying(reworded, around)[0]!.once).toBe(tellingsOfSaying(say(mention('rana')), around)[0]!.once)
  })
})

describe('quiet hours', () => {
  it.each([
    ['20:00', '07:00', '19:59', false],
    ['20:00', '07:00', '20:00', true],
    ['20:00', '07:00', '00:00', true],
    ['20:00', '07:00', '06:59', true],
    ['20:00', '07:00', '07:00', false],
    ['12:00', '13:00', '12:30', true],
    ['12:00', '13:00', '13:00', false],
    ['09:00', '09:00', '09:00', false],
  ])('from %s to %s: %s is quiet: %s', (from, to, time, quiet) => {
    expect(isQuiet({ from, to }, time)).toBe(quiet)
  })
})

describe('letters', () => {
  const MINUTE = 60_000
  const now = Date.UTC(2026, 4, 12, 10)
  const never = { nowAt: null, dailyOn: null, weeklyOn: null }
  // 12 May 2026 is a Tuesday.
  const wall = { day: '2026-05-12', time: '12:00' }
  const some = (kind: ToldKind, minutes: number) => ({ kind, at: now - minutes * MINUTE })
  const ways = (change: Partial<Ways['kinds']>): Ways => ({ ...USUAL_WAYS, kinds: { ...USUAL_WAYS.kinds, ...change } })

  it('at once wait two minutes for more, and ten after the one before', () => {
    expect(lettersDue([some('mention', 1)], USUAL_WAYS, never, now, wall)).toEqual([])
    expect(lettersDue([some('mention', 1), some('reply', 2)], USUAL_WAYS, never, now, wall)).toEqual(['now'])
    const before = { ...never, nowAt: now - 9 * MINUTE }
    expect(lettersDue([some('mention', 5)], USUAL_WAYS, before, now, wall)).toEqual([])
    expect(lettersDue([some('mention', 5)], USUAL_WAYS, { ...never, nowAt: now - 10 * MINUTE }, now, wall)).toEqual([
      'now',
    ])
  })

  it('of the day come once in the morning of the reader’s own day', () => {
    const date = [some('date', 300)]
    expect(lettersDue(date, USUAL_WAYS, never, now, { ...wall, time: '06:59' })).toEqual([])
    expect(lettersDue(date, USUAL_WAYS, { ...never, dailyOn: '2026-05-11' }, now, { ...wall, time: '07:00' })).toEqual([
      'daily',
    ])
    expect(lettersDue(date, USUAL_WAYS, { ...never, dailyOn: '2026-05-12' }, now, wall)).toEqual([])
  })

  it('of the week come on Monday morning, or later where Monday was missed', () => {
    const weekly = ways({ watched: 'weekly' })
    const watched = [some('watched', 300)]
    const on = (day: string, time: string, last: string | null) =>
      lettersDue(watched, weekly, { ...never, weeklyOn: last }, now, { day, time })
    expect(on('2026-05-10', '12:00', '2026-05-04')).toEqual([])
    expect(on('2026-05-11', '06:59', '2026-05-04')).toEqual([])
    expect(on('2026-05-11', '07:00', '2026-05-04')).toEqual(['weekly'])
    expect(on('2026-05-13', '09:00', '2026-05-04')).toEqual(['weekly'])
    expect(on('2026-05-17', '23:00', '2026-05-11')).toEqual([])
    expect(mondayOf('2026-05-17')).toBe('2026-05-11')
    expect(mondayOf('2026-05-11')).toBe('2026-05-11')
  })

  it('don’t go out in quiet hours, to who wants none, of what is never told, nor of what has a letter of its own', () => {
    const long = [some('mention', 60)]
    expect(lettersDue(long, USUAL_WAYS, never, now, { ...wall, time: '23:00' })).toEqual([])
    expect(lettersDue(long, { ...USUAL_WAYS, letters: false }, never, now, wall)).toEqual([])
    expect(lettersDue(long, ways({ mention: 'never' }), never, now, wall)).toEqual([])
    expect(lettersDue([some('section', 60), some('invited', 60)], USUAL_WAYS, never, now, wall)).toEqual([])
  })
})

describe('the ways to be told', () => {
  it('are kept as they are usual, and nothing else is taken', () => {
    expect(waysSchema.parse(USUAL_WAYS)).toEqual(USUAL_WAYS)
    expect(waysSchema.safeParse({ ...USUAL_WAYS, quiet: { from: '24:00', to: '07:00' } }).success).toBe(false)
    const { mention: _, ...some } = USUAL_WAYS.kinds
    expect(waysSchema.safeParse({ ...USUAL_WAYS, kinds: some }).success).toBe(false)
    expect(waysSchema.safeParse({ ...USUAL_WAYS, kinds: { ...some, mention: 'hourly' } }).success).toBe(false)
  })
})

describe('what is told together', () => {
  let id = 100
  const one = (kind: ToldKind, by: string, more: Partial<Tidings> = {}): Tidings => ({
    id: id--,
    kind,
    at: '2026-05-12T10:00:00Z',
    by: { id: by, name: by },
    tree: { id: 'move', title: 'Move' },
    topic: { id: 'lift', title: 'Lift' },
    said: null,
    data: {},
    read: false,
    loud: true,
    ...more,
  })
  const words = (...list: Tidings[]): string[] => grouped(list).map(tidingsInWords)
  const lamps = { topic: { id: 'lamps', title: 'Lamps' } }

  it('is of one kind and place, and stands where its newest does', () => {
    expect(
      words(one('mention', 'Rana'), one('task', 'Rana', { data: { given: true } }), one('mention', 'Carl')),
    ).toEqual(['Rana and Carl mentioned you twice on “Lift”', 'Rana put you on “Lift”'])
    expect(words(one('mention', 'Rana'), one('mention', 'Rana', lamps))).toHaveLength(2)
    expect(words(one('mention', 'Rana'), one('mention', 'Rana', { read: true }))).toHaveLength(2)
    const many = ['a', 'b', 'c', 'd'].map(by => one('reply', by))
    expect(words(...many)).toEqual(['a and 3 others replied 4 times on “Lift”'])
  })

  it('is said in a sentence', () => {
    const data = (some: object): Partial<Tidings> => ({ data: some as Tidings['data'] })
    expect(words(one('mention', 'Rana', { topic: null }))).toEqual(['Rana mentioned you in the talk of “Move”'])
    expect(words(one('task', 'Rana', data({ given: false })))).toEqual(['Rana took you off “Lift”'])
    expect(
      words(one('task', 'Rana', data({ given: true })), one('task', 'Rana', { ...data({ given: true }), ...lamps })),
    ).toEqual(['Rana put you on “Lift” and 1 more'])
    expect(words(one('date', 'Rana', data({ field: 'due', value: '2026-05-14' })))).toEqual([
      'Rana set the due date of “Lift” to 14 May 2026',
    ])
    expect(words(one('date', 'Rana', data({ field: 'start', value: null })))).toEqual([
      'Rana took the start from “Lift”',
    ])
    expect(words(one('section', 'Rana', data({ by: '2026-05-14' })))).toEqual([
      'Rana asks you to fill in “Lift” by 14 May 2026',
    ])
    const tree = { topic: null }
    expect(words(one('invited', 'Rana', { ...tree, ...data({ role: 'editor', waits: true }) }))).toEqual([
      'Rana invites you to “Move”',
    ])
    expect(words(one('invited', 'Rana', { ...tree, ...data({ role: 'viewer' }) }))).toEqual([
      'Rana made you viewer of “Move”',
    ])
    expect(words(one('invited', 'Rana', { ...tree, ...data({ role: null }) }))).toEqual(['Rana took you out of “Move”'])
    const watched = { ...tree, ...data({ count: 3, from: 1, to: 4, topics: ['lift'] }) }
    expect(words(one('watched', 'Rana', watched))).toEqual(['Rana changed “Move” 3 times'])
  })

  it('leads where it is about', () => {
    const link = (of: Tidings): string => tidingsLink(grouped([of])[0]!)
    const said = { thread: 't', words: 'By 4 cm.' }
    expect(link(one('mention', 'Rana', { said }))).toBe('/trees/move?topic=lift&panel=comments')
    expect(link(one('mention', 'Rana', { said, topic: null }))).toBe('/trees/move?panel=bench')
    expect(link(one('date', 'Rana'))).toBe('/trees/move?topic=lift')
    expect(link(one('watched', 'Rana', { topic: null }))).toBe('/trees/move?panel=since')
    expect(link(one('invited', 'Rana', { topic: null, data: { role: 'editor', waits: true } }))).toBe('/')
    expect(link(one('invited', 'Rana', { topic: null, data: { role: null } }))).toBe('/trees')
  })
})
