import ical from 'node-ical'
import mammoth from 'mammoth'
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'
import { describe, expect, it } from 'vitest'
import type { Change } from '#core/tree'
import { newId, signUp } from '../caller'
import { fileOf, letters, type Staged, staged, url } from './meeting-stage'

/** Held and ended: one decision, one action of Rana's, one question. */
async function ended(): Promise<Staged> {
  const all = await staged()
  const { ines, rana, tree, at } = all
  await ines.call('POST', `${at}/moves`, { to: 'begin' })
  const said = (
    id: string,
    order: string,
    kind: 'decision' | 'action' | 'question',
    title: string,
    more: object = {},
  ): Change => ({
    op: 'add',
    topic: id,
    parent: 'i1',
    order,
    with: { title, entry: { kind, by: ines.id, name: 'Ines Brandt', at: Date.parse('2027-03-02T13:10:00Z') }, ...more },
  })
  await ines.edit(tree, [
    said('d1', 'a1', 'decision', 'Two Rivers moves us ✓ Перевозка'),
    said('a1', 'a2', 'action', 'Sign the offer', { people: [rana.id], due: '2027-03-05' }),
    said('q1', 'a3', 'question', 'Who holds the keys?'),
    {
      op: 'put',
      topic: 'i1',
      set: 'links',
      member: { id: 'l', url: 'https://carriers.example/offer?a=1&b=2', title: 'The offer' },
    },
  ])
  await ines.call('POST', `${at}/moves`, { to: 'end', from: 1 })
  return all
}

describe('the minutes', () => {
  it('come as a document, a PDF, Markdown and tasks, with owners and days as an independent reader finds them', async () => {
    const { ines, rana, at } = await ended()
    const get = async (format: string): Promise<Buffer> => {
      const response = await fetch(`${url}${at}/minutes/${format}`, { headers: { cookie: rana.cookie } })
      expect(response.status).toBe(200)
      return Buffer.from(await response.arrayBuffer())
    }
    const html = (await mammoth.convertToHtml({ buffer: await get('docx') })).value
    for (const part of [
      'Meeting 3',
      'Two offers',
      'Sign the offer',
      'Rana Tahiri',
      '5 Mar 2027',
      'Перевозка',
      'href="https://carriers.example/offer?a=1&amp;b=2"',
      'Decide who moves us.',
    ])
      expect(html).toContain(part)
    expect(html.match(/<table>/g)).toHaveLength(2)
    const task = getDocument({ data: new Uint8Array(await get('pdf')), useSystemFonts: false, verbosity: 0 })
    const pdf = await task.promise
    let text = ''
    for (let n = 1; n <= pdf.numPages; n++)
      text += (await (await pdf.getPage(n)).getTextContent()).items
        .map(item => ('str' in item ? item.str : ''))
        .join(' ')
    for (const part of ['Sign the offer', 'Rana Tahiri', '5 Mar 2027', 'Перевозка', '20 min planned'])
      expect(text.replace(/\s+/g, ' ')).toContain(part)
    expect((await pdf.getOutline()).map(({ title }) => title)).toEqual(['Actions', '1 Two offers', '2 Neighbours'])
    await task.destroy()
    expect((await get('markdown')).toString()).toContain('| Sign the offer | Rana Tahiri | 5 Mar 2027 | Two offers |')
    const tasks = Object.values(ical.sync.parseICS((await get('tasks')).toString())).filter(
      one => (one as { type: string }).type === 'VTODO',
    ) as unknown as { summary: string }[]
    expect(tasks.map(({ summary }) => summary)).toEqual(['Sign the offer'])
    expect(await ines.refusal('GET', `${at}/minutes/slides`)).toBe('400 invalid')
  })

  it('say how the plan stands since it began, in documents and letters; without a plan nothing', async () => {
    const { ines, tree, at } = await staged()
    const { centre } = (await ines.open(tree)).snapshot
    const markdown = async (): Promise<string> => (await ines.call<string>('GET', `${at}/minutes/markdown`)).data
    await ines.edit(tree, [
      { op: 'tree', field: 'planFrom', value: '2027-03-01' },
      { op: 'tree', field: 'statusDay', value: '2027-03-01' },
      ...['lift', 'doors'].map((topic): Change => ({
        op: 'add',
        topic,
        parent: centre,
        order: 'a5',
        with: { title: topic === 'lift' ? 'Lift' : 'Doors', duration: 3 },
      })),
    ])
    await ines.call('POST', `${at}/moves`, { to: 'begin' })
    expect(await markdown()).toContain('All is done as early as then, on 3 Mar 2027')
    await ines.edit(tree, [{ op: 'set', topic: 'lift', field: 'duration', value: 5 }])
    await ines.call('POST', `${at}/moves`, { to: 'end', from: 1 })
    const words = [
      'The plan since it began',
      'All is done 2 working days later than then',
      'Lift: 2 working days later',
    ]
    const document = Buffer.from(
      await (await fetch(`${url}${at}/minutes/docx`, { headers: { cookie: ines.cookie } })).arrayBuffer(),
    )
    const told = [
      await markdown(),
      (await mammoth.extractRawText({ buffer: document })).value,
      (await ines.call<{ text: string }>('GET', `${at}/letters`)).data.text,
    ]
    for (const one of told) {
      for (const word of words) expect(one).toContain(word)
      expect(one).not.toContain('Doors:')
    }
    expect((await ines.call('POST', `${at}/letters`)).data).toEqual({ letters: 3 })
    expect((await letters(ines))[0]!.body).toContain('Lift: 2 working days later')
    await ines.edit(tree, [{ op: 'tree', field: 'planFrom', value: null }])
    expect(await markdown()).not.toContain('The plan since it began')
  })

  it('are mailed to everybody with their own actions first', async () => {
    const { ines, rana, at } = await ended()
    // Seen before they go: one's own letter, and to whom; nothing is sent by looking.
    const seen = (
      await ines.call<{ to: string[]; subject: string; text: string; html: string }>('GET', `${at}/letters`)
    ).data
    expect([seen.to, seen.subject]).toEqual([
      [`Ines Brandt <${ines.email}>`, `Rana Tahiri <${rana.email}>`, 'The joiner <joiner@oak.example>'],
      'Minutes: Meeting 3',
    ])
    expect(seen.html).toContain('<td>Sign the offer</td>')
    expect(await rana.refusal('GET', `${at}/letters`)).toBe('403 role')
    expect((await letters(rana)).some(({ subject }) => subject.startsWith('Minutes'))).toBe(false)
    expect((await ines.call('POST', `${at}/letters`)).data).toEqual({ letters: 3 })
    const [toRana] = await letters(rana)
    expect(toRana!.body.startsWith('Yours to do\n-----------\n\n- Sign the offer, due 5 Mar 2027 (Two offers)')).toBe(
      true,
    )
    expect(await fileOf(rana, toRana!)).toContain('SUMMARY:Sign the offer')
    const sent = await letters(ines, 'sent')
    expect(sent.find(({ to }) => to === 'joiner@oak.example')!.body.startsWith('Meeting 3\n=========\n')).toBe(true)
    expect((await letters(ines))[0]!.body.startsWith('Nothing is yours to do')).toBe(true)
    const stranger = await signUp(url)
    expect(await stranger.refusal('GET', `/api/letters/${toRana!.id}/files/0`)).toBe('404 no-file')
    const early = await staged()
    expect(await early.ines.refusal('POST', `${early.at}/letters`)).toBe('409 not-ended')
  })

  it('what changed in the tree since the meeting began is told topic by topic, and when actions were done comes from the log', async () => {
    const { ines, tree, at } = await ended()
    await ines.edit(tree, [{ op: 'set', topic: 'i2', field: 'title', value: 'Bridge Street' }])
    await ines.edit(tree, [{ op: 'set', topic: 'a1', field: 'done', value: 100 }], newId())
    const since = (await ines.call<{ id: string; kind: string; was: string | null }[]>('GET', `${at}/since`)).data.map(
      ({ id, kind, was }) => `${kind} ${id}${was === null ? '' : ` was ${was}`}`,
    )
    expect(since.sort()).toEqual([
      'added a1',
      'added d1',
      'added q1',
      'changed i1',
      'changed i2 was Neighbours',
      'changed m',
    ])
    const today = new Date()
    const told = await ines.call<{ closedOn: object; endedAt: Record<string, number> }>('GET', `${at}/series`)
    // What figures came to when it ended can be asked for by the number of that edit.
    expect(Object.keys(told.data.endedAt)).toEqual(['m'])
    const then = await ines.call('GET', `/api/trees/${tree}/figures?moment=${told.data.endedAt.m}&topic=i1`)
    expect(then).toMatchObject({ status: 200, data: { figures: [] } })
    expect(told.data).toMatchObject({
      closedOn: {
        a1: [
          today.getFullYear(),
          String(today.getMonth() + 1).padStart(2, '0'),
          String(today.getDate()).padStart(2, '0'),
        ].join('-'),
      },
    })
  })
})
