import { describe, expect, it } from 'vitest'
import type { Change } from '#core/tree'
import type { GuestMeeting, ListedMeeting, MeetingWorld, Section } from '#core/contract'
import { bringIn, type Caller, signUp } from '../caller'
import { openHouse } from '../house'
import { person, put } from '../meeting-parts'
import { eventsIn, fileOf, letters, partOf, staged, topicIn, url } from './meeting-stage'

describe('an invitation', () => {
  it('goes to everybody with a calendar file; a change raises its sequence, cancelling says so, the address stays', async () => {
    const { ines, rana, tree, at } = await staged()
    expect((await ines.call('POST', `${at}/invitation`, {})).data).toEqual({ letters: 3, sequence: 0 })
    const [first] = await letters(rana)
    expect(first!.subject).toBe('Invitation: Meeting 3')
    for (const part of [
      'Decide who moves us.',
      '1. 14:00  Two offers (to decide, 20 min, Rana Tahiri)',
      'The drying loft',
    ])
      expect(first!.body).toContain(part)
    await ines.edit(tree, [
      put('m', { id: 'begins', kind: 'begins', day: '2027-04-06', time: '14:00', zone: 'Europe/Copenhagen' }),
    ])
    await ines.call('POST', `${at}/invitation`, {})
    await ines.call('POST', `${at}/invitation`, { cancel: true })
    const files = await Promise.all(
      (await letters(rana)).filter(({ files }) => files.length > 0).map(letter => fileOf(rana, letter)),
    )
    // The last letter first. 14:00 is 12:00 UTC in April and 13:00 in March.
    expect(
      files
        .map(text => eventsIn(text)[0]!)
        .map(({ uid, sequence, start, status }) => [uid, Number(sequence), start.toISOString(), status]),
    ).toEqual([
      [`m.${tree}@sun-porch`, 2, '2027-04-06T12:00:00.000Z', 'CANCELLED'],
      [`m.${tree}@sun-porch`, 1, '2027-04-06T12:00:00.000Z', 'CONFIRMED'],
      [`m.${tree}@sun-porch`, 0, '2027-03-02T13:00:00.000Z', 'CONFIRMED'],
    ])
    expect(files.map(text => /METHOD:(\w+)/.exec(text)![1])).toEqual(['CANCEL', 'REQUEST', 'REQUEST'])
    expect(await partOf(ines, tree, 'm', 'stage')).toMatchObject({ stage: 'cancelled' })
    // Asked again without the joiner, who hears that it's off for them alone.
    await ines.edit(tree, [{ op: 'take', topic: 'm', set: 'meeting', member: 'p3' }])
    expect((await ines.call('POST', `${at}/invitation`, {})).data).toEqual({ letters: 3, sequence: 3 })
    const off = (await letters(ines, 'sent')).find(
      ({ to, subject }) => to === 'joiner@oak.example' && subject.startsWith('You aren’t needed'),
    )!
    expect(await fileOf(ines, off)).toMatch(/METHOD:CANCEL[\s\S]*joiner@oak\.example/)
    expect(await partOf(ines, tree, 'm', 'stage')).toMatchObject({ stage: 'planned' })
    await ines.call('POST', `${at}/invitation`, { cancel: true })
    expect(await ines.refusal('POST', `${at}/invitation`, { cancel: true })).toBe('409 cancelled')
    expect(await rana.refusal('POST', `${at}/invitation`, {})).toBe('403 role')
  })

  it('that two people send at once goes out once', async () => {
    const { ines, rana, tree, at } = await staged()
    await ines.call('PUT', `/api/trees/${tree}/members/${rana.id}`, { role: 'editor' })
    const sent = await Promise.all(
      [ines, rana, ines, rana].map(who =>
        who.call<{ letters?: number; error?: { code: string } }>('POST', `${at}/invitation`, {}),
      ),
    )
    const once = sent.filter(({ status }) => status === 200).length
    // Who came after the first was stored sends the next one, which is a change of its own; nobody sends the same one
    // twice.
    expect(sent.map(({ status, data }) => status === 200 || data.error?.code === 'already')).toEqual([
      true,
      true,
      true,
      true,
    ])
    expect(await partOf(ines, tree, 'm', 'invitation')).toMatchObject({ sequence: once - 1 })
    expect((await letters(rana)).filter(({ subject }) => /Meeting 3/.test(subject))).toHaveLength(once)
  })

  it('isn’t sent for a time that doesn’t exist, without a day, or to nobody', async () => {
    const { ines, tree, at } = await staged(url, '2027-03-28', '02:30')
    expect(await ines.refusal('POST', `${at}/invitation`, {})).toBe('409 gap')
    await ines.edit(tree, [{ op: 'take', topic: 'm', set: 'meeting', member: 'begins' }])
    expect(await ines.refusal('POST', `${at}/invitation`, {})).toBe('409 no-start')
    await ines.edit(tree, [
      put('m', { id: 'begins', kind: 'begins', day: '2027-03-29', time: '02:30', zone: 'Europe/Copenhagen' }),
      ...['p1', 'p2', 'p3'].map((member): Change => ({ op: 'take', topic: 'm', set: 'meeting', member })),
    ])
    expect(await ines.refusal('POST', `${at}/invitation`, {})).toBe('409 nobody')
    expect(await letters(ines, 'sent')).toEqual([])
    const wrong = await ines.tryEdit(tree, [put('m', person('p9', null, { mail: 'not an address' }))])
    expect([wrong.status, wrong.data.error?.code]).toEqual([400, 'invalid'])
  })

  it('is answered in the app by a viewer, by a guest’s link, and by a calendar file that is dropped in', async () => {
    const { ines, rana, tree, at } = await staged()
    await ines.call('POST', `${at}/invitation`, {})
    expect((await rana.call('POST', `${at}/answer`, { answer: 'accepted', comment: 'By bike' })).status).toBe(200)
    expect(await partOf(ines, tree, 'm', 'a-p2')).toMatchObject({ of: 'p2', answer: 'accepted', comment: 'By bike' })
    const guest = (await letters(ines, 'sent')).find(({ to }) => to === 'joiner@oak.example')!
    const token = guest.link!.replace('/answer/', '')
    const nobody = new (ines.constructor as new (url: string) => Caller)(url)
    const shown = await nobody.call<GuestMeeting>('GET', `/api/answers/${token}`)
    expect(shown.data).toMatchObject({
      title: 'Meeting 3',
      when: '2 Mar 2027, 14:00 to 14:30 (Europe/Copenhagen)',
      name: 'The joiner',
      answer: 'needs-action',
      organizer: 'Ines Brandt',
    })
    expect((await nobody.call('POST', `/api/answers/${token}`, { answer: 'declined' })).status).toBe(200)
    expect(await partOf(ines, tree, 'm', 'a-p3')).toMatchObject({ answer: 'declined' })
    expect(await nobody.refusal('GET', `/api/answers/${'x'.repeat(32)}`)).toBe('404 no-link')
    const reply = (mail: string, uid = `m.${tree}@sun-porch`): string =>
      `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//A//B//EN\r\nMETHOD:REPLY\r\nBEGIN:VEVENT\r\nUID:${uid}\r\nSEQUENCE:0\r\nDTSTAMP:20270301T080000Z\r\nATTENDEE;PARTSTAT=TENTATIVE:mailto:${mail}\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n`
    expect((await ines.call('POST', `/api/trees/${tree}/replies`, { text: reply('Joiner@oak.example') })).data).toEqual(
      [{ name: 'The joiner', answer: 'tentative', meeting: 'Meeting 3' }],
    )
    expect(await partOf(ines, tree, 'm', 'a-p3')).toMatchObject({ answer: 'tentative' })
    for (const [text, code] of [
      ['BEGIN:VCALENDAR\nnonsense', '422 unreadable'],
      [`x${' '.repeat(600_000)}`, '422 unreadable'],
      [reply('stranger@oak.example'), '422 no-meeting'],
      [reply('joiner@oak.example', 'm.other@sun-porch'), '422 no-meeting'],
    ] as const)
      expect(await ines.refusal('POST', `/api/trees/${tree}/replies`, { text })).toBe(code)
    expect((await ines.open(tree)).version).toBe(5)
    const stranger = await signUp(url, 'Lev Aalto')
    await bringIn(ines, tree, stranger, 'viewer')
    expect(await stranger.refusal('POST', `${at}/answer`, { answer: 'accepted' })).toBe('409 not-asked')
  })
})

describe('before a meeting', () => {
  it('owners are asked for their sections once a day wanted, see them among their work, and mark them ready', async () => {
    const { ines, rana, tree, at } = await staged()
    expect((await ines.call('POST', `${at}/requests`, { by: '2027-03-01' })).data).toEqual({ asked: 2 })
    expect((await ines.call('POST', `${at}/requests`, { by: '2027-03-01' })).data).toEqual({ asked: 0 })
    expect((await letters(rana))[0]).toMatchObject({
      subject: 'Please fill in: Two offers',
      link: `/trees/${tree}?topic=i1`,
    })
    const work = async (): Promise<{ mine: unknown[]; sections: Section[] }> =>
      (await rana.call<{ mine: unknown[]; sections: Section[] }>('GET', '/api/work')).data
    expect((await work()).sections).toMatchObject([
      { id: 'i1', title: 'Two offers', by: '2027-03-01', meeting: 'Meeting 3' },
    ])
    expect((await work()).mine).toEqual([])
    expect(
      (await rana.call<{ sections: Section[]; meetings: ListedMeeting[] }>('GET', '/api/home')).data,
    ).toMatchObject({ sections: [{ id: 'i1' }], meetings: [{ id: 'm', part: 'needed', answer: 'needs-action' }] })
    await ines.edit(tree, [
      { op: 'put', topic: 'i1', set: 'item', member: { id: 'ready', kind: 'ready', at: 1, by: rana.id } },
    ])
    expect((await work()).sections).toEqual([])
    expect(await ines.refusal('POST', `${at}/requests`, { by: '2027-03-05' })).toBe('409 too-late')
  })

  it('somebody in two meetings at once is pointed out, by name of the meeting only where one may see it', async () => {
    const one = await staged(url, '2027-05-04', '10:00')
    const two = await staged(url, '2027-05-04', '10:29')
    const three = await staged(url, '2027-05-04', '10:30')
    for (const { ines, tree } of [two, three])
      await ines.edit(tree, [put('m', person('px', null, { mail: one.rana.email.toUpperCase() }))])
    const look = async (): Promise<MeetingWorld> => (await one.ines.call<MeetingWorld>('GET', one.at)).data
    // The first runs from 10:00 to 10:30: the second overlaps by a minute, the third begins when it ends. The guest is
    // Rana by her mail address. Of the third, whom Ines shares no tree with, nothing is told.
    expect((await look()).elsewhere).toEqual({ p2: 'another meeting' })
    await bringIn(two.ines, two.tree, one.ines, 'viewer')
    expect((await look()).elsewhere).toEqual({ p2: 'Meeting 3', p3: 'Meeting 3' })
    await two.ines.edit(two.tree, [{ op: 'remove', topic: 'm' }])
    expect((await look()).elsewhere).toEqual({})
  })

  it('a document that isn’t there is named', async () => {
    const { ines, tree, at } = await staged()
    await ines.edit(tree, [
      {
        op: 'put',
        topic: 'i1',
        set: 'files',
        member: { id: 'f', file: 'e'.repeat(64), name: 'Offer.pdf', type: 'application/pdf', size: 1, preview: null },
      },
    ])
    expect((await ines.call<MeetingWorld>('GET', at)).data.closed).toEqual(['e'.repeat(64)])
  })

  it('is listed with how ready it is, and stands in one’s private calendar beside one’s tasks', async () => {
    const { ines, rana, at } = await staged(url, '2027-06-01', '14:00')
    const mine = async (): Promise<ListedMeeting> =>
      (await ines.call<ListedMeeting[]>('GET', '/api/meetings?from=2027-06-01')).data[0]!
    expect(await mine()).toMatchObject({
      title: 'Meeting 3',
      day: '2027-06-01',
      minutes: 30,
      part: 'chair',
      invited: false,
      findings: 2,
    })
    expect((await mine()).readiness).toBeLessThan(1)
    await ines.call('POST', `${at}/invitation`, {})
    expect(await mine()).toMatchObject({ readiness: 1, findings: 0 })
    expect((await ines.call<ListedMeeting[]>('GET', '/api/meetings?from=2027-06-02')).data).toEqual([])
    const { path } = (await rana.call<{ path: string }>('POST', '/api/work/calendar')).data
    const read = async (): Promise<string[]> =>
      eventsIn(await (await fetch(`${url}${path}.ics`)).text()).map(
        ({ summary, start }) => `${summary} ${start.toISOString()}`,
      )
    expect(await read()).toEqual(['Meeting 3 2027-06-01T12:00:00.000Z'])
    await rana.call('POST', `${at}/answer`, { answer: 'declined' })
    expect(await read()).toEqual([])
  })
})

describe('a running meeting', () => {
  it('is timed by the server; two chairs who press at once move it on once; it ends once', async () => {
    const { ines, rana, tree, at } = await staged()
    const move = (to: string, from: number | null, more: object = {}): Promise<{ data: { already: boolean } }> =>
      ines.call<{ already: boolean }>('POST', `${at}/moves`, { to, from, ...more })
    expect(await ines.refusal('POST', `${at}/moves`, { to: 'next' })).toBe('409 not-now')
    const before = Date.now()
    await move('begin', null)
    const run = async (): Promise<{ step: number; current: string | null; since: number | null }> =>
      (await partOf(ines, tree, 'm', 'run')) as never
    expect((await run()).since).toBeGreaterThanOrEqual(before)
    const both = await Promise.all(Array.from({ length: 6 }, () => move('next', 1)))
    expect(both.map(({ data }) => data.already).sort()).toEqual([false, true, true, true, true, true])
    expect(new Set(both.map(({ data }) => (data as { step?: number }).step))).toEqual(new Set([2]))
    expect(await run()).toMatchObject({ step: 2, current: 'i2' })
    await new Promise(done => setTimeout(done, 1100))
    await move('pause', 2)
    const spent = (await topicIn(ines, tree, 'i2')).item!.find(part => part.kind === 'spent') as { ms: number }
    expect(spent.ms).toBeGreaterThanOrEqual(1000)
    expect(spent.ms).toBeLessThan(10_000)
    expect(await ines.refusal('POST', `${at}/moves`, { to: 'item', item: 'gone', from: 3 })).toBe('409 not-now')
    expect((await Promise.all([move('end', 3), move('end', 3)])).map(({ data }) => data.already).sort()).toEqual([
      false,
      true,
    ])
    expect(await ines.refusal('POST', `${at}/moves`, { to: 'next', from: 4 })).toBe('409 not-now')
    expect(await rana.refusal('POST', `${at}/moves`, { to: 'end', from: 4 })).toBe('403 role')
    expect(await ines.refusal('POST', `/api/trees/${tree}/meetings/i1/moves`, { to: 'begin' })).toBe('409 no-meeting')
  })

  it('goes on where it was when the house is started again', async () => {
    const house = await openHouse()
    try {
      const { ines, tree, at } = await staged(house.url)
      await ines.call('POST', `${at}/moves`, { to: 'begin' })
      const since = (await partOf(ines, tree, 'm', 'run'))!.since
      await house.killApp('SIGTERM')
      await house.startApp()
      expect((await partOf(ines, tree, 'm', 'run'))!.since).toBe(since)
      const before = Date.now()
      await ines.call('POST', `${at}/moves`, { to: 'next', from: 1 })
      const after = Date.now()
      const spent = (await topicIn(ines, tree, 'i1')).item!.find(part => part.kind === 'spent') as { ms: number }
      expect(spent.ms).toBeGreaterThanOrEqual(before - Number(since))
      expect(spent.ms).toBeLessThanOrEqual(after - Number(since))
    } finally {
      await house.close()
    }
  })
})
