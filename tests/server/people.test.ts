import { describe, expect, inject, it } from 'vitest'
import { bringIn, type Caller, newId, signUp } from '../caller'

const url = inject('url')

interface Letter {
  id: string
  subject: string
  link: string | null
}
interface Pending {
  id: string
  email: string
  role: string
  by: string
}
interface Home {
  invited: { link: string; tree: string; by: string }[]
  changed: { id: string }[]
}
const pending = async (who: Caller, tree: string): Promise<Pending[]> =>
  (await who.call<Pending[]>('GET', `/api/trees/${tree}/invitations`)).data
const unread = async (who: Caller): Promise<number> =>
  (await who.call<{ count: number }>('GET', '/api/letters/unread')).data.count
const address = (): string => `${newId().toLowerCase()}@porch.example`

describe('inviting', () => {
  it('many at once; who is in or asked already gets no second letter, and nobody is told who has an account', async () => {
    const [ines, rana] = [await signUp(url), await signUp(url, 'Rana Tahiri')]
    const tree = await ines.makeTree()
    await bringIn(ines, tree, rana, 'editor')
    const [known, unknown] = [await signUp(url, 'Lev Aalto'), address()]
    const invite = (emails: string[]) =>
      ines.call<{ invited: number }>('POST', `/api/trees/${tree}/invitations`, { emails, role: 'viewer' })
    expect((await invite([known.email, unknown, known.email.toUpperCase(), rana.email])).data).toEqual({ invited: 2 })
    expect((await invite([known.email, unknown])).data).toEqual({ invited: 0 })
    expect((await pending(ines, tree)).map(({ email, role, by }) => [email, role, by]).sort()).toEqual(
      [
        [known.email, 'viewer', 'Ines Brandt'],
        [unknown, 'viewer', 'Ines Brandt'],
      ].sort(),
    )
    expect(await rana.refusal('GET', `/api/trees/${tree}/invitations`)).toBe('403 role')
    expect(await ines.refusal('POST', `/api/trees/${tree}/invitations`, { role: 'viewer' })).toBe('400 invalid')
    expect(
      await ines.refusal('POST', `/api/trees/${tree}/invitations`, { emails: ['no address'], role: 'viewer' }),
    ).toBe('400 invalid')
  })

  it('withdrawn, its letter leads nowhere, and Home shows it no more', async () => {
    const [ines, lev] = [await signUp(url), await signUp(url, 'Lev Aalto')]
    const tree = await ines.makeTree('Fit-out')
    await ines.call('POST', `/api/trees/${tree}/invitations`, { email: lev.email, role: 'editor' })
    expect(await unread(lev)).toBe(1)
    const { invited } = (await lev.call<Home>('GET', '/api/home')).data
    expect(invited).toEqual([
      { link: expect.stringMatching(/^\/invitation\//), tree: 'Fit-out', by: 'Ines Brandt', role: 'editor' },
    ])
    const [one] = await pending(ines, tree)
    const stranger = await signUp(url)
    expect(await stranger.refusal('DELETE', `/api/trees/${tree}/invitations/${one!.id}`)).toBe('404 no-tree')
    expect((await ines.call('DELETE', `/api/trees/${tree}/invitations/${one!.id}`)).status).toBe(200)
    expect(await pending(ines, tree)).toEqual([])
    expect((await lev.call<Home>('GET', '/api/home')).data.invited).toEqual([])
    expect(await lev.refusal('POST', `/api/invitations/${invited[0]!.link.split('/').at(-1)}`)).toBe(
      '404 no-invitation',
    )
    expect(await ines.refusal('DELETE', `/api/trees/${tree}/invitations/${one!.id}`)).toBe('404 no-invitation')
    const [letter] = (await lev.call<Letter[]>('GET', '/api/letters')).data
    await lev.call('POST', `/api/letters/${letter!.id}/read`)
    expect(await unread(lev)).toBe(0)
  })
})

describe('who joins', () => {
  it('is known at once on every open line; so is a new role, and who leaves', async () => {
    const [ines, rana] = [await signUp(url), await signUp(url, 'Rana Tahiri')]
    const tree = await ines.makeTree()
    const line = ines.line(tree)
    await line.hello(null)
    const people = (): string[] | undefined =>
      line
        .of('people')
        .at(-1)
        ?.people.map(({ name, role }) => `${name} ${role}`)
        .sort()
    await bringIn(ines, tree, rana, 'viewer')
    await line.until(() => people()?.includes('Rana Tahiri viewer') ?? false)
    await ines.call('PUT', `/api/trees/${tree}/members/${rana.id}`, { role: 'editor' })
    await line.until(() => people()?.includes('Rana Tahiri editor') ?? false)
    await rana.call('DELETE', `/api/trees/${tree}/members/${rana.id}`)
    await line.until(() => people()?.length === 1)
    await line.close()
  })

  it('gets what a brief meant for their name and address, with no browser open', async () => {
    const [ines, oskar] = [await signUp(url), await signUp(url, 'Oskar Moreau')]
    const tree = await ines.makeTree()
    const { snapshot } = await ines.open(tree)
    await ines.edit(tree, [
      {
        op: 'add',
        topic: 'm',
        parent: snapshot.centre,
        order: 'a0',
        with: {
          title: 'Meeting 1',
          meeting: [
            { id: 'p1', kind: 'person', user: null, mail: oskar.email, name: '', needed: true, role: 'notes' },
            {
              id: 'l1',
              kind: 'line',
              order: 'a0',
              title: 'Two offers',
              intent: 'decide',
              minutes: 20,
              floor: null,
              owner: null,
              wish: 'Oskar',
              serves: [],
              pattern: [],
            },
          ],
        },
      },
      {
        op: 'add',
        topic: 'i1',
        parent: 'm',
        order: 'a0',
        with: { title: 'Neighbours', item: [{ id: 'wish', kind: 'wish', name: 'Oskar Moreau' }] },
      },
    ])
    // A viewer can't edit, and yet what was meant for them is theirs.
    await bringIn(ines, tree, oskar, 'viewer')
    const topics = new Map((await ines.open(tree)).snapshot.topics.map(topic => [topic.id, topic]))
    expect(topics.get('m')!.meeting).toEqual([
      expect.objectContaining({ id: 'p1', user: oskar.id, mail: null, role: 'notes' }),
      expect.objectContaining({ id: 'l1', owner: oskar.id }),
    ])
    expect(topics.get('m')!.meeting![1]).not.toHaveProperty('wish')
    expect(topics.get('i1')).toMatchObject({ people: [oskar.id] })
  })

  it('one’s own edits don’t count as changed since one looked; others’ do', async () => {
    const [ines, rana] = [await signUp(url), await signUp(url, 'Rana Tahiri')]
    const tree = await ines.makeTree()
    await bringIn(ines, tree, rana, 'editor')
    const changed = async (): Promise<boolean> =>
      (await ines.call<Home>('GET', '/api/home')).data.changed.some(({ id }) => id === tree)
    const { snapshot } = await ines.open(tree)
    await ines.edit(tree, [{ op: 'add', topic: 'a', parent: snapshot.centre, order: 'a0' }])
    expect(await changed()).toBe(false)
    await rana.edit(tree, [{ op: 'set', topic: 'a', field: 'title', value: 'Lift' }])
    expect(await changed()).toBe(true)
    await ines.call('POST', `/api/trees/${tree}/seen`, { version: 2 })
    expect(await changed()).toBe(false)
  })
})

describe('an answer by calendar', () => {
  it('that sends somebody else is kept as that, and they are asked', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const { snapshot } = await ines.open(tree)
    const guest = address()
    await ines.edit(tree, [
      {
        op: 'add',
        topic: 'm',
        parent: snapshot.centre,
        order: 'a0',
        with: {
          title: 'Meeting 1',
          meeting: [
            { id: 'begins', kind: 'begins', day: '2027-03-02', time: '10:00', zone: 'UTC' },
            { id: 'p1', kind: 'person', user: null, mail: guest, name: 'The joiner', needed: true, role: null },
          ],
        },
      },
    ])
    await ines.call('POST', `/api/trees/${tree}/meetings/m/invitation`, {})
    const reply = [
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      'METHOD:REPLY',
      'BEGIN:VEVENT',
      `ATTENDEE;PARTSTAT=DELEGATED;DELEGATED-TO="mailto:helper@oak.example":mailto:${guest}`,
      `UID:m.${tree}@sun-porch`,
      'SEQUENCE:0',
      'DTSTAMP:20270101T000000Z',
      'END:VEVENT',
      'END:VCALENDAR',
      '',
    ].join('\r\n')
    expect((await ines.call('POST', `/api/trees/${tree}/replies`, { text: reply })).data).toEqual([
      { name: 'The joiner', answer: 'delegated', meeting: 'Meeting 1' },
    ])
    const { meeting } = (await ines.open(tree)).snapshot.topics.find(topic => topic.id === 'm')!
    expect(meeting).toContainEqual(
      expect.objectContaining({ kind: 'answer', of: 'p1', answer: 'delegated', comment: 'sends helper@oak.example' }),
    )
    expect(meeting).toContainEqual(
      expect.objectContaining({ kind: 'person', user: null, mail: 'helper@oak.example', needed: true }),
    )
  })
})

describe('importing', () => {
  it('says which rows may be meant, takes the answer, and says what stayed behind', async () => {
    const ines = await signUp(url)
    const text = 'title,parent\nA,\nB,\nPaint,A\nPaint,B\nCeiling,Paint\n'
    const asked = await ines.call<{ error: { code: string; details: unknown } }>('POST', '/api/trees/import', {
      format: 'csv',
      name: 'plan.csv',
      text,
    })
    expect([asked.status, asked.data.error.code, asked.data.error.details]).toEqual([
      422,
      'which-parent',
      [
        {
          parent: 'Paint',
          rows: [
            { at: 4, path: 'A' },
            { at: 5, path: 'B' },
          ],
        },
      ],
    ])
    expect(
      (
        await ines.call<{ id: string }>('POST', '/api/trees/import', {
          format: 'csv',
          name: 'plan.csv',
          text,
          parents: { Paint: 4 },
        })
      ).status,
    ).toBe(200)
    const { data } = await ines.call<{ id: string; left: unknown }>('POST', '/api/trees/import', {
      format: 'markdown',
      name: 'plan.md',
      text: '# Plan\n\n![](a.png)\n',
    })
    expect(data.left).toEqual([{ what: 'picture', count: 1 }])
  })
})

it('a zone is one that there is, or none: an empty one is refused, and the clocks that go by it go on', async () => {
  const ines = await signUp(url)
  for (const zone of ['', ' ', 'Mars/Olympus', '+25:00'])
    expect(await ines.refusal('PATCH', '/api/account', { zone })).toBe('400 invalid')
  expect((await ines.call('GET', '/api/told/count')).status).toBe(200)
  expect((await ines.call('PATCH', '/api/account', { zone: 'Europe/Copenhagen' })).status).toBe(200)
  expect((await ines.call('PATCH', '/api/account', { zone: null })).status).toBe(200)
  // Many tabs say theirs at the same moment.
  const answers = await Promise.all(
    Array.from({ length: 100 }, (_, i) => ines.call('GET', `/api/told/count?zone=${i % 2 ? 'Europe/Lisbon' : 'UTC'}`)),
  )
  expect(answers.map(({ status }) => status)).toEqual(answers.map(() => 200))
})
