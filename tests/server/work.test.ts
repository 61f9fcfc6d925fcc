import ical from 'node-ical'
import { describe, expect, inject, it } from 'vitest'
import { addDays } from '../../core/schedule/days'
import { openHouse } from '../house'
import { add, bringIn, type Caller, signUp } from '../caller'

const url = inject('url')
interface Work {
  mine: {
    id: string
    due: string | null
    role: string
    time: string | null
    begins: string | null
    zone: string | null
  }[]
  asked: { id: string; person: string }[]
  calendar: boolean
}
const workOf = async (caller: Caller): Promise<Work> => (await caller.call<Work>('GET', '/api/work')).data

describe('my work', () => {
  it('is what one owes in every tree, and what others owe because one asked them; not what is done, removed or closed to one', async () => {
    const ines = await signUp(url)
    const rana = await signUp(url, 'Rana Tahiri')
    const [a, b] = [await ines.makeTree('Move'), await ines.makeTree('Opening')]
    await bringIn(ines, a, rana, 'editor')
    const centre = async (tree: string): Promise<string> => (await ines.open(tree)).snapshot.centre
    await ines.edit(a, [
      add('one', await centre(a), 'Order oak', { people: [ines.id], due: '2027-05-12' }),
      add('two', 'one', 'Count', { people: [ines.id], done: 100 }),
      add('gone', 'one', 'Measure', { people: [ines.id] }),
      add('asked', 'one', 'Crates', { people: [rana.id] }),
      add('later', 'one', 'Labels'),
    ])
    await ines.edit(b, [add('three', await centre(b), 'Card', { people: [ines.id] })])
    await ines.edit(a, [
      { op: 'put', topic: 'later', set: 'people', member: rana.id },
      { op: 'remove', topic: 'gone' },
    ])
    const own = await workOf(ines)
    expect(own.mine.map(task => task.id)).toEqual(['one', 'three'])
    expect(own.asked.map(task => [task.id, task.person])).toEqual([
      ['asked', 'Rana Tahiri'],
      ['later', 'Rana Tahiri'],
    ])
    const hers = await workOf(rana)
    expect([hers.mine.map(task => [task.id, task.role]), hers.asked]).toEqual([
      [
        ['asked', 'editor'],
        ['later', 'editor'],
      ],
      [],
    ])
    // Done, taken off, or in a branch that goes to the trash: no longer owed.
    await ines.edit(a, [
      { op: 'set', topic: 'asked', field: 'done', value: 100 },
      { op: 'take', topic: 'later', set: 'people', member: rana.id },
    ])
    expect((await workOf(ines)).asked).toEqual([])
    await ines.edit(a, [{ op: 'remove', topic: 'one' }])
    expect((await workOf(ines)).mine.map(task => task.id)).toEqual(['three'])
    expect(await new (ines.constructor as new (url: string) => Caller)(url).refusal('GET', '/api/work')).toBe(
      '401 sign-in',
    )
  })

  it('has a task that comes again once, for the turn that is open; finishing it brings the next, and can be taken back', async () => {
    const ines = await signUp(url)
    const rana = await signUp(url, 'Rana Tahiri')
    const viewer = await signUp(url, 'Vera Nilsson')
    const tree = await ines.makeTree('House')
    await bringIn(ines, tree, rana, 'editor')
    await bringIn(ines, tree, viewer, 'viewer')
    const again = { rule: 'FREQ=WEEKLY;BYDAY=MO', from: '2099-03-02' }
    await ines.edit(tree, [
      // 16 March 2099 is a Monday, and a holiday there.
      { op: 'tree-put', set: 'exceptions', member: { id: '2099-03-16', kind: 'closed', name: 'Fair' } },
      add('alarm', (await ines.open(tree)).snapshot.centre, 'Test the alarm', {
        ...{ people: [ines.id, rana.id], due: '2099-03-02', again },
      }),
    ])
    const finish = `/api/trees/${tree}/topics/alarm/finish`
    expect((await workOf(ines)).mine).toMatchObject([{ id: 'alarm', due: '2099-03-02', again }])
    expect(await viewer.refusal('POST', finish, {})).toBe('403 role')
    expect(await ines.refusal('POST', finish, { today: 'soon' })).toBe('400 invalid')
    expect(await ines.refusal('POST', `/api/trees/${tree}/topics/none/finish`, {})).toBe('404 no-topic')
    const both = await Promise.all(
      [ines, rana].map(one => one.call<{ next: string }>('POST', finish, { today: '2099-03-02', due: '2099-03-02' })),
    )
    // At once: one turn is done, however it came.
    expect(both.filter(({ status }) => status === 200).map(({ data }) => data.next)).toContain('2099-03-09')
    expect((await workOf(rana)).mine).toMatchObject([{ due: '2099-03-09' }])
    expect(await rana.refusal('POST', finish, { due: '2099-03-02' })).toBe('409 meanwhile')
    const { data } = await ines.call<{ number: number; next: string }>('POST', finish, { today: '2099-03-08' })
    expect(data.next).toBe('2099-03-23')
    expect((await ines.call('POST', `/api/trees/${tree}/edits/${data.number}/take-back`)).status).toBe(200)
    expect((await workOf(ines)).mine).toMatchObject([{ due: '2099-03-09' }])

    // In a calendar of another program: from the open turn on, without the holiday.
    const { path } = (await ines.call<{ path: string }>('POST', '/api/work/calendar')).data
    const text = await (await fetch(`${url}${path}.ics`)).text()
    expect(text).toContain('RRULE:FREQ=WEEKLY;BYDAY=MO')
    const [todo] = Object.values(ical.sync.parseICS(text)).filter(one => (one as { type: string }).type === 'VTODO')
    const { rrule, exdate } = todo as unknown as {
      rrule: { between(a: Date, b: Date, inclusive: boolean): Date[] }
      exdate: Record<string, Date>
    }
    const days = rrule
      .between(new Date('2099-03-01'), new Date('2099-03-31'), true)
      .map(day => day.toISOString().slice(0, 10))
    expect(days).toEqual(['2099-03-09', '2099-03-16', '2099-03-23', '2099-03-30'])
    expect(Object.keys(exdate)).toContain('2099-03-16')
  })

  it('has the times of a day in their order, what has none last, and tells them in the tree’s zone in a calendar', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree('Opening')
    const { centre } = (await ines.open(tree)).snapshot
    const [people, due] = [[ines.id], '2027-06-05']
    await ines.edit(tree, [
      { op: 'tree', field: 'zone', value: 'Europe/Lisbon' },
      add('any', centre, 'A broom', { people, due }),
      add('late', centre, 'Buns', { people, due, dueTime: '14:30' }),
      add('soon', centre, 'Van', { people, start: due, startTime: '07:30', due, dueTime: '08:15' }),
    ])
    const { mine } = await workOf(ines)
    expect(mine.map(({ id, time, begins, zone }) => [id, time, begins, zone])).toEqual([
      ['soon', '08:15', '07:30', 'Europe/Lisbon'],
      ['late', '14:30', null, 'Europe/Lisbon'],
      ['any', null, null, 'Europe/Lisbon'],
    ])
    const { path } = (await ines.call<{ path: string }>('POST', '/api/work/calendar')).data
    const text = await (await fetch(`${url}${path}`)).text()
    expect(text).toContain('DTSTART;TZID=Europe/Lisbon:20270605T073000\r\n')
    expect(text).toContain('DUE;TZID=Europe/Lisbon:20270605T143000\r\n')
    const events = Object.values(ical.sync.parseICS(text)) as unknown as { summary?: string; start?: Date }[]
    expect(events.find(({ summary }) => summary === 'Van')!.start!.toISOString()).toBe('2027-06-05T06:30:00.000Z')
  })
  it('has a private calendar address that can be read without a sign-in, replaced and withdrawn', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree('Move')
    await ines.edit(tree, [
      add('one', (await ines.open(tree)).snapshot.centre, 'Order oak, now', {
        people: [ines.id],
        due: '2027-05-12',
        done: 40,
      }),
      add('two', 'one', 'No date', { people: [ines.id] }),
    ])
    const first = (await ines.call<{ path: string }>('POST', '/api/work/calendar')).data.path
    const read = async (path: string): Promise<Response> => fetch(`${url}${path}.ics`)
    const answer = await read(first)
    expect(answer.headers.get('content-type')).toBe('text/calendar; charset=utf-8')
    const found = Object.values(ical.sync.parseICS(await answer.text())).filter(
      one => (one as { type: string }).type === 'VTODO',
    ) as unknown as { summary: string; completion: string; status: string }[]
    expect(found.map(({ summary, status }) => [summary, status])).toEqual([['Order oak, now', 'IN-PROCESS']])
    const second = (await ines.call<{ path: string }>('POST', '/api/work/calendar')).data.path
    expect([(await read(first)).status, (await read(second)).status]).toEqual([404, 200])
    await ines.call('DELETE', '/api/work/calendar')
    expect((await read(second)).status).toBe(404)
    expect((await workOf(ines)).calendar).toBe(false)
  })
})

describe('reminders', () => {
  it('come a day before and on the day, once each, also when the house is started again', async () => {
    const house = await openHouse()
    try {
      const ines = await signUp(house.url)
      const tree = await ines.makeTree('Move')
      const now = new Date()
      const today = `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, '0')}-${String(now.getDate()).padStart(2, '0')}`
      await ines.edit(tree, [
        add('t', (await ines.open(tree)).snapshot.centre, 'Order oak', { people: [ines.id], due: today }),
        add('m', 't', 'Measure', { people: [ines.id], due: addDays(today, 1) }),
        add('n', 't', 'Count', { people: [ines.id], due: addDays(today, 1) }),
        // A section to fill in by tomorrow is due as a task is; one that is ready isn't.
        add('g', 't', 'Meeting', {
          meeting: [{ id: 'begins', kind: 'begins', day: addDays(today, 3), time: '14:00', zone: 'UTC' }],
        }),
        add('s', 'g', 'Two offers', {
          people: [ines.id],
          item: [{ id: 'asked', kind: 'asked', by: addDays(today, 1), of: ines.id, at: 1 }],
        }),
        add('r', 'g', 'Neighbours', {
          people: [ines.id],
          item: [
            { id: 'asked', kind: 'asked', by: today, of: ines.id, at: 1 },
            { id: 'ready', kind: 'ready', at: 2, by: ines.id },
          ],
        }),
        add('d', 't', 'Done', { people: [ines.id], due: today, done: 100 }),
        add('l', 't', 'Later', { people: [ines.id], due: addDays(today, 2) }),
      ])
      const again = async (): Promise<void> => {
        await house.killApp('SIGTERM')
        await house.startApp()
      }
      const subjects = async (): Promise<string[]> =>
        (await ines.call<{ subject: string }[]>('GET', '/api/letters')).data.map(letter => letter.subject).sort()
      expect(await subjects()).toEqual([])
      for (let start = 0; start < 2; start++) {
        await again()
        await expect.poll(subjects, { timeout: 20_000 }).toEqual(['Due today: Order oak', 'Due tomorrow: 3 tasks'])
      }
      // Another day is another matter.
      await ines.edit(tree, [{ op: 'set', topic: 'l', field: 'due', value: today }])
      await again()
      await expect
        .poll(subjects, { timeout: 20_000 })
        .toEqual(['Due today: Later', 'Due today: Order oak', 'Due tomorrow: 3 tasks'])
    } finally {
      await house.close()
    }
  })
})
