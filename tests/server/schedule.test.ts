import { beforeAll, describe, expect, inject, it } from 'vitest'
import type { toldRunSheet } from '../../core/calendar/run-sheet'
import type { Change, Wait } from '../../core/tree'
import { bringIn, type Caller, newId, signUp } from '../caller'

const url = inject('url')
let ines: Caller
let rana: Caller
let tree: string
const MONDAY = '2027-01-11'

interface Told {
  readonly finish: string
  readonly status: string
  readonly tasks: readonly { topic: string; start: string; finish: string; critical: boolean; reason: string }[]
  readonly branches: readonly { topic: string; start: string; finish: string }[]
  readonly broken: readonly { by: string; why: string }[]
}
const wait = (topic: string, on: string, more: Partial<Wait> = {}): Change => ({
  op: 'put',
  topic,
  set: 'waits',
  member: { id: `w-${on}`, on, kind: 'FS', lag: 0, days: 'working', ...more },
})
const schedule = async (caller = ines, at = tree, status = MONDAY): Promise<Told> =>
  (await caller.call<Told>('GET', `/api/trees/${at}/schedule?status=${status}`)).data

beforeAll(async () => {
  ines = await signUp(url, 'Ines Brandt')
  rana = await signUp(url, 'Rana Tahiri')
  tree = await ines.makeTree('Move')
  await bringIn(ines, tree, rana, 'viewer')
  const { centre } = (await ines.open(tree)).snapshot
  const add = (topic: string, order: string, more: object): Change =>
    ({ op: 'add', topic, parent: centre, order, with: { title: topic, ...more } }) as Change
  await ines.edit(tree, [
    add('permit', 'a0', { duration: 4, people: [ines.id] }),
    add('lift', 'a1', { duration: 3, estimate: { best: 2, likely: 3, worst: 9 } }),
    add('open', 'a2', { duration: 0 }),
  ] as never)
})

describe('the plan by the API', () => {
  it('is refused in words until the tree has one, and told to whoever may read', async () => {
    expect(await ines.refusal('GET', `/api/trees/${tree}/schedule`)).toBe('409 no-plan')
    await ines.edit(tree, [
      { op: 'tree', field: 'planFrom', value: MONDAY },
      wait('lift', 'permit', { lag: 1 }),
      wait('open', 'lift'),
    ] as never)
    const told = await schedule(rana)
    expect([told.finish, told.status]).toEqual(['2027-01-20', MONDAY])
    expect(told.tasks.map(({ topic, start, finish, critical }) => [topic, start, finish, critical])).toEqual([
      ['permit', '2027-01-11', '2027-01-14', true],
      ['lift', '2027-01-18', '2027-01-20', true],
      ['open', '2027-01-20', '2027-01-20', true],
    ])
    expect(told.tasks[1]!.reason).toBe('waits for “permit”, 1 working day after')
    expect(told.branches.map(({ start, finish }) => [start, finish])).toEqual([['2027-01-11', '2027-01-20']])
    // A table that is handed out says the same, of a part as of the whole; without tasks nothing of it.
    const table = async (part: object, along: string[]): Promise<string> =>
      (
        await rana.call<string>('POST', `/api/trees/${tree}/hand-out`, {
          ...{ part, depth: null, with: along, as: 'csv', today: MONDAY },
        })
      ).data
    expect(await table({ kind: 'tree' }, ['tasks'])).toMatch(/lift,.*2027-01-18,2027-01-20,0,yes,,waiting/)
    expect(await table({ kind: 'branch', topic: 'lift' }, ['tasks'])).toMatch(/lift,.*2027-01-18,2027-01-20/)
    expect(await table({ kind: 'tree' }, [])).not.toContain('planned start')
    const stranger = await signUp(url, 'Nora Feld')
    for (const what of ['schedule', 'load', 'chances'])
      expect(await stranger.refusal('GET', `/api/trees/${tree}/${what}`)).toBe('404 no-tree')
    expect(await ines.refusal('GET', `/api/trees/${tree}/schedule?status=2027-02-30`)).toMatch(/^400/)
  })

  it('load and chances: the same seed says the same', async () => {
    const { data: load } = await ines.call<{ weeks: string[]; rows: { person: string; cells: { hours: number }[] }[] }>(
      'GET',
      `/api/trees/${tree}/load?status=${MONDAY}`,
    )
    expect([load.weeks[0], load.rows[0]!.person, load.rows[0]!.cells[0]!.hours]).toEqual([MONDAY, ines.id, 32])
    const ask = (seed: number) =>
      ines.call<{ days: { likely: string }; curve: unknown[]; estimated: number }>(
        'GET',
        `/api/trees/${tree}/chances?rounds=2000&seed=${seed}&status=${MONDAY}`,
      )
    const [one, again, other] = [await ask(3), await ask(3), await ask(4)]
    expect(one.data).toEqual(again.data)
    expect(one.data.curve).not.toEqual(other.data.curve)
    expect(one.data.estimated).toBe(1)
    expect(one.data.days.likely > '2027-01-20').toBe(true)
    expect(await ines.refusal('GET', `/api/trees/${tree}/chances?rounds=10000000`)).toMatch(/^400/)
  })

  it('two who make the halves of a circle at once: the second is told, with its members', async () => {
    const id = await ines.makeTree('Move')
    await bringIn(ines, id, rana, 'editor')
    const { centre } = (await ines.open(id)).snapshot
    await ines.edit(
      id,
      ['a', 'b'].map((topic, i) => ({
        op: 'add',
        topic,
        parent: centre,
        order: `a${i}`,
        with: { title: topic.toUpperCase(), duration: 1 },
      })) as never,
    )
    const post = (caller: Caller, change: Change) =>
      caller.call<{ message?: string }>('POST', `/api/trees/${id}/edits`, { id: newId(), changes: [change] })
    const answers = await Promise.all([post(ines, wait('b', 'a')), post(rana, wait('a', 'b'))])
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409])
    expect(JSON.stringify(answers.find(({ status }) => status === 409))).toContain('which waits for')
    await ines.edit(id, [{ op: 'tree', field: 'planFrom', value: MONDAY }] as never)
    expect((await schedule(ines, id)).broken).toEqual([])
  })

  it('what is out of bounds is refused, and changes nothing', async () => {
    const refused = async (change: object): Promise<number> =>
      (await ines.call('POST', `/api/trees/${tree}/edits`, { id: newId(), changes: [change] })).status
    const set = (field: string, value: unknown) => ({ op: 'set', topic: 'lift', field, value })
    for (const change of [
      set('duration', -1),
      set('estimate', { best: 5, likely: 3, worst: 9 }),
      set('began', '2027-02-30'),
      set('startMeans', 'soon'),
      wait('lift', 'permit', { lag: 3_652_500 }),
      { op: 'tree', field: 'weekdays', value: [1, 1] },
      { op: 'tree', field: 'dayHours', value: 25 },
      { op: 'tree-put', set: 'exceptions', member: { id: '2027-02-30', kind: 'closed', name: '' } },
    ])
      expect([change, await refused(change)]).toEqual([change, 400])
    expect(await refused(wait('lift', 'lift'))).toBe(409)
    await ines.edit(tree, [{ op: 'tree', field: 'weekdays', value: [] }] as never)
    expect(await ines.refusal('GET', `/api/trees/${tree}/schedule`)).toBe('409 no-working-day')
    await ines.edit(tree, [{ op: 'tree', field: 'weekdays', value: [1, 2, 3, 4, 5] }] as never)
    expect((await schedule()).finish).toBe('2027-01-20')
  })

  it('a baseline is kept with its date and author, and the plan is held against it', async () => {
    const id = await ines.makeTree('Move')
    const { centre } = (await ines.open(id)).snapshot
    const add = (topic: string, order: string, duration: number, waits: object[] = []) => ({
      op: 'add',
      topic,
      parent: centre,
      order,
      with: { title: topic, duration, waits },
    })
    await ines.edit(id, [
      { op: 'tree', field: 'planFrom', value: '2037-01-12' },
      add('permit', 'a0', 4),
      add('lift', 'a1', 3, [{ id: 'w', on: 'permit', kind: 'FS', lag: 0, days: 'working' }]),
    ] as never)
    const { version } = await ines.open(id)
    const keep = (number: number, name = 'As agreed') =>
      ines.call('PUT', `/api/trees/${id}/moments/${number}/baseline`, { name })
    expect((await keep(version + 1)).status).toBe(404)
    expect((await keep(version)).status).toBeLessThan(300)
    const { data: moments } = await ines.call<{ why: string; name: string; by: string; number: number }[]>(
      'GET',
      `/api/trees/${id}/moments`,
    )
    expect(moments.filter(({ why }) => why === 'baseline')).toMatchObject([
      { name: 'As agreed', by: ines.id, number: version },
    ])
    await ines.edit(id, [{ op: 'set', topic: 'permit', field: 'duration', value: 6 }] as never)
    const { data } = await ines.call<{
      baseline: { name: string; finish: string; tasks: Record<string, { finish: string }> }
      slips: { whole: number; later: object[] }
    }>('GET', `/api/trees/${id}/schedule?baseline=${version}`)
    expect(data.baseline).toMatchObject({ name: 'As agreed', finish: '2037-01-20' })
    expect(data.baseline.tasks.permit!.finish).toBe('2037-01-15')
    expect(data.slips).toMatchObject({
      whole: 2,
      later: [
        { topic: 'permit', days: 2 },
        { topic: 'lift', days: 2 },
      ],
    })
    await bringIn(ines, id, rana, 'viewer')
    expect(await rana.refusal('PUT', `/api/trees/${id}/moments/${version}/baseline`, { name: '' })).toMatch(/^403/)
    await ines.call('DELETE', `/api/trees/${id}/moments/${version}/baseline`)
    const { data: left } = await ines.call<{ why: string }[]>('GET', `/api/trees/${id}/moments`)
    expect(left.filter(({ why }) => why === 'baseline')).toEqual([])
  })

  it('a viewer can’t plan', async () => {
    expect(
      (await rana.call('POST', `/api/trees/${tree}/edits`, { id: newId(), changes: [wait('permit', 'open')] })).status,
    ).toBe(403)
  })

  it('tells those who owe something what their plans say of it, of their own trees alone', async () => {
    const lev = await signUp(url, 'Lev Aalto')
    const id = await lev.makeTree('Plan')
    const plain = await lev.makeTree('No plan')
    const task = (topic: string, order: string, more: object): Change =>
      ({ op: 'add', topic, parent: null, order, with: { title: topic, people: [lev.id], ...more } }) as Change
    await lev.edit(id, [
      { op: 'tree', field: 'planFrom', value: MONDAY },
      task('permit', 'a0', { duration: 4 }),
      task('lift', 'a1', { duration: 3 }),
      wait('lift', 'permit'),
    ] as never)
    await lev.edit(plain, [task('card', 'a0', {})] as never)
    type Told = { treeId: string; topic: string; state: string; waits: boolean; reason: string }[]
    const ask = async (caller: Caller) => (await caller.call<Told>('GET', `/api/work/plan?today=${MONDAY}`)).data
    expect((await ask(lev)).map(one => [one.treeId, one.topic, one.state, one.waits])).toEqual([
      // By due date, then by title.
      [id, 'lift', 'waiting', true],
      [id, 'permit', 'ready', false],
    ])
    expect((await ask(rana)).filter(({ treeId }) => treeId === id)).toEqual([])
    // Taken out of the tree, it's none of theirs any more.
    await bringIn(lev, id, rana, 'editor')
    await lev.edit(id, [{ op: 'put', topic: 'lift', set: 'people', member: rana.id }] as never)
    expect((await ask(rana)).filter(({ treeId }) => treeId === id)).toHaveLength(1)
    await lev.call('DELETE', `/api/trees/${id}/members/${rana.id}`)
    expect((await ask(rana)).filter(({ treeId }) => treeId === id)).toEqual([])
  })

  it('the run-sheet of a day: on the tree’s wall, with who would have to be in two places; for whoever may read', async () => {
    const ines = await signUp(url, 'Ines Brandt')
    const [rana, stranger] = [await signUp(url, 'Rana Tahiri'), await signUp(url)]
    const id = await ines.makeTree('Opening')
    await bringIn(ines, id, rana, 'viewer')
    const { centre } = (await ines.open(id)).snapshot
    const [start, due, people] = ['2027-06-05', '2027-06-05', [ines.id]]
    const timed = (topic: string, startTime: string, dueTime: string): Change => ({
      ...{ op: 'add', topic, parent: centre, order: `a${topic}` },
      with: { title: topic, start, due, startTime, dueTime, people },
    })
    await ines.edit(id, [timed('doors', '10:00', '12:00'), timed('speech', '10:15', '10:40')])
    await ines.edit(id, [{ op: 'add', topic: 'tidy', parent: centre, order: 'aa', with: { title: 'tidy', due } }])
    const sheet = async (who: Caller, query = 'day=2027-06-05') =>
      who.call<ReturnType<typeof toldRunSheet>>('GET', `/api/trees/${id}/run-sheet?${query}`)
    const { data, status } = await sheet(rana)
    expect(status).toBe(200)
    expect(data.lines.map(({ topic, begins, ends, clashes }) => [topic, begins, ends, clashes])).toEqual([
      ['doors', '2027-06-05T10:00', '2027-06-05T12:00', [{ person: ines.id, with: 'speech', title: 'speech' }]],
      ['speech', '2027-06-05T10:15', '2027-06-05T10:40', [{ person: ines.id, with: 'doors', title: 'doors' }]],
    ])
    expect(data.lines[0]!.people).toEqual([{ id: ines.id, name: 'Ines Brandt' }])
    expect(data.untimed.map(({ topic }) => topic)).toEqual(['tidy'])
    // With a plan that puts it on another day, the typed time is no longer that day's.
    await ines.edit(id, [{ op: 'tree', field: 'planFrom', value: '2027-06-07' }])
    expect((await sheet(ines)).data.lines).toEqual([])
    expect((await sheet(stranger)).status).toBe(404)
    for (const query of ['', 'day=2027-02-30', 'day=2027-06-05&zone=%3Cscript%3E'])
      expect((await sheet(ines, query)).status).toBe(400)
    // A zone that has a name's form and is none: as if none had been given.
    expect((await sheet(ines, 'day=2027-06-05&zone=Nowhere/At_all')).status).toBe(200)
    expect((await ines.tryEdit(id, [{ op: 'set', topic: 'tidy', field: 'dueTime', value: '24:00' }])).status).toBe(400)
    expect((await rana.tryEdit(id, [{ op: 'set', topic: 'tidy', field: 'dueTime', value: '12:00' }])).status).toBe(403)
  })
  it('is told as a calendar file to whoever may read, and to nobody else', async () => {
    const { status, headers, data } = await rana.call<string>(
      'GET',
      `/api/trees/${tree}/plan-calendar?status=${MONDAY}`,
    )
    expect([status, headers.get('content-type')]).toEqual([200, 'text/calendar; charset=utf-8'])
    expect(headers.get('content-disposition')).toContain('Move.ics')
    expect(data).toContain(`RELATED-TO;RELTYPE=FINISHTOSTART:${tree}.permit@sun-porch`.slice(0, 74))
    const stranger = await signUp(url, 'Nora Feld')
    expect(await stranger.refusal('GET', `/api/trees/${tree}/plan-calendar`)).toMatch(/^404/)
  })

  it('reads closed days of a calendar file and changes nothing; two hundred at once of a broken one are refused in words', async () => {
    const year = new Date().getUTCFullYear() + 1
    const text = `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTART;VALUE=DATE:${year}0501\r\nSUMMARY:Labour Day\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n`
    const before = (await ines.open(tree)).version
    const { data } = await ines.call<object>('POST', `/api/trees/${tree}/closed-days`, { text })
    expect(data).toEqual([{ day: `${year}-05-01`, name: 'Labour Day' }])
    expect((await ines.open(tree)).version).toBe(before)
    expect(await rana.refusal('POST', `/api/trees/${tree}/closed-days`, { text })).toMatch(/^403/)
    const many = await Promise.all(
      Array.from({ length: 200 }, () =>
        ines.refusal('POST', `/api/trees/${tree}/closed-days`, { text: 'no calendar' }),
      ),
    )
    for (const said of many) expect(said).toMatch(/^4\d\d (?!no error)/)
  })
})
