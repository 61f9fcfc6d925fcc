import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { BenchPage, TalkNews, TalkOverview, ThreadPage } from '../../core/contract'
import { bodyOf, textOf } from '../../core/talk/body'
import { BENCH, type Saying, type Told } from '../../core/talk/saying'
import { hear, signOf, type Thread } from '../../core/talk/thread'
import { bringIn, type Caller, newId, signUp } from '../caller'
import { type House, openHouse } from '../house'

let house: House
let ines: Caller
let rana: Caller
let commenter: Caller
let viewer: Caller
let stranger: Caller
let id: string
let centre: string

const begin = (words: string, topic = centre, comment = newId()): Extract<Saying, { op: 'say' }> => ({
  id: newId(),
  op: 'say',
  comment,
  thread: comment,
  place: { on: 'topic', topic },
  body: bodyOf(words),
})
const goOn = (words: string, thread: string): Extract<Saying, { op: 'say' }> => ({
  id: newId(),
  op: 'say',
  comment: newId(),
  thread,
  body: bodyOf(words),
})
const say = (who: Caller, saying: unknown, tree = id) =>
  who.call<{ number: number }>('POST', `/api/trees/${tree}/talk`, saying)
const unsaid = (who: Caller, saying: unknown, tree = id) => who.refusal('POST', `/api/trees/${tree}/talk`, saying)
const get = async <T>(path: string, who = ines): Promise<T> =>
  (await who.call<T>('GET', `/api/trees/${id}/talk${path}`)).data

beforeAll(async () => {
  house = await openHouse()
  ines = await signUp(house.url)
  rana = await signUp(house.url, 'Rana Tahiri')
  commenter = await signUp(house.url, 'Carl Commenter')
  viewer = await signUp(house.url, 'Viola Viewer')
  stranger = await signUp(house.url, 'Stranger')
  id = await ines.makeTree()
  await bringIn(ines, id, rana, 'editor')
  await bringIn(ines, id, commenter, 'commenter')
  await bringIn(ines, id, viewer, 'viewer')
  centre = (await ines.open(id)).snapshot.centre
  await ines.edit(id, [{ op: 'add', topic: 'lift', parent: centre, order: 'a0', with: { title: 'Lift' } }])
}, 60_000)
afterAll(() => house.close())

it('a comment is said, answered, settled and heard by everybody in the tree, in one order', async () => {
  const lines = [rana.line(id), viewer.line(id)]
  for (const line of lines) await line.hello(0)
  const first = begin('Is the shaft wide enough?', 'lift')
  expect((await say(commenter, first)).status).toBe(200)
  await say(ines, goOn('By 4 cm.', first.thread))
  await say(commenter, { id: newId(), op: 'settle', thread: first.thread, settled: true })
  for (const line of lines) {
    const heard = (): Told[] => line.of('said').flatMap(({ told }) => told)
    await line.until(() => heard().length === 3, 'three sayings')
    expect(heard().map(({ op, by }) => [op, by])).toEqual([
      ['say', commenter.id],
      ['say', ines.id],
      ['settle', commenter.id],
    ])
    const numbers = heard().map(({ number }) => number)
    expect(numbers).toEqual([numbers[0], numbers[0]! + 1, numbers[0]! + 2])
    await line.close()
  }
  const { threads } = await get<ThreadPage>('/threads?topic=lift', viewer)
  expect(threads.map(({ comments }) => comments.map(({ body }) => textOf(body!)))).toEqual([
    ['Is the shaft wide enough?', 'By 4 cm.'],
  ])
  expect(threads[0]!.settled?.by).toBe(commenter.id)
  // No edit of the tree: its number stays, and nobody has anything new to take.
  expect((await ines.open(id)).version).toBe(1)
})

it('the same once more is said once; something else under its id isn’t said', async () => {
  const saying = begin('Once')
  const { number } = (await say(ines, saying)).data
  expect((await say(ines, saying)).data.number).toBe(number)
  expect(await unsaid(ines, { ...saying, body: bodyOf('Twice') })).toBe('409 saying-id')
  expect(await unsaid(rana, saying)).toBe('409 saying-id')
  expect(await unsaid(ines, begin('Other', centre, saying.comment))).toBe('409 taken')
  const line = ines.line(id)
  await line.hello(0)
  line.say({ type: 'say', saying })
  await line.until(() => line.of('said').some(({ told }) => told.some(one => one.number === number)), 'it again')
  await line.close()
})

describe('who may', () => {
  it('a viewer and a stranger say nothing, by REST and by the line', async () => {
    expect(await unsaid(viewer, begin('Me too'))).toBe('403 role')
    expect(await unsaid(stranger, begin('Me too'))).toBe('404 no-tree')
    expect(await stranger.refusal('GET', `/api/trees/${id}/talk/threads`)).toBe('404 no-tree')
    const line = viewer.line(id)
    await line.hello(0)
    const saying = begin('Me too')
    line.say({ type: 'say', saying })
    await line.until(() => line.of('unsaid').length === 1, 'the refusal')
    expect(line.of('unsaid')[0]).toMatchObject({ saying: saying.id, code: 'role' })
    await line.close()
  })
  it('a commenter says and does nothing else', async () => {
    expect((await say(commenter, begin('Here'))).status).toBe(200)
    expect((await commenter.tryEdit(id, [{ op: 'set', topic: 'lift', field: 'title', value: 'x' }])).status).toBe(403)
    const other = begin('Mine')
    await say(ines, other)
    expect(await unsaid(commenter, { id: newId(), op: 'reword', comment: other.comment, body: bodyOf('x') })).toBe(
      '403 not-yours',
    )
    expect(await unsaid(commenter, { id: newId(), op: 'withdraw', comment: other.comment })).toBe('403 not-yours')
    expect(
      await unsaid(commenter, {
        id: newId(),
        op: 'became',
        comment: other.comment,
        became: { as: 'task', topic: 'lift' },
      }),
    ).toBe('403 role')
  })
  it('somebody whose right was taken away is told so, and what they said stays', async () => {
    const leaver = await signUp(house.url, 'Lea Leaver')
    await bringIn(ines, id, leaver, 'commenter')
    const said = begin('Before I go')
    await say(leaver, said)
    await ines.call('DELETE', `/api/trees/${id}/members/${leaver.id}`)
    expect(await unsaid(leaver, begin('After'))).toBe('404 no-tree')
    const { threads, names } = await get<ThreadPage>('/threads?text=before%20I')
    expect(threads.map(({ id: one }) => one)).toEqual([said.thread])
    expect(names).toEqual({ [leaver.id]: 'Lea Leaver' })
  })
})

it('nothing that is said while somebody is greeted goes unheard', async () => {
  for (let i = 0; i < 12; i++) {
    const line = rana.line(id)
    await new Promise(done => line.socket.once('open', done))
    const saying = begin(`Greeting ${i}`)
    line.say({ type: 'hello', since: null })
    const { number } = (await say(ines, saying)).data
    await line.until(
      () =>
        line.of('welcome').some(({ talk }) => talk >= number) ||
        line.of('said').some(({ told }) => told.some(one => one.number === number)),
      `line ${number}`,
    )
    await line.close()
  }
})

it('words that were withdrawn are nowhere, and that there were some is', async () => {
  const one = begin('The safe opens at Rumpelstilz')
  await say(ines, one)
  await say(ines, {
    id: newId(),
    op: 'reword',
    comment: one.comment,
    body: bodyOf('The safe opens at Rumpelstilzchen'),
  })
  await say(rana, goOn('Not here!', one.thread))
  await say(ines, { id: newId(), op: 'withdraw', comment: one.comment })
  const all = JSON.stringify([await get('/news?since=0'), await get('/threads'), await get('')])
  expect(all).not.toContain('Rumpelstilz')
  const { threads } = await get<ThreadPage>(`/threads?text=not%20here`)
  expect(threads[0]!.comments.map(({ body }) => body && textOf(body))).toEqual([null, 'Not here!'])
  // Whoever sends it again, not having heard, doesn't bring it back.
  expect((await say(ines, one)).status).toBe(200)
  expect(JSON.stringify(await get('/threads'))).not.toContain('Rumpelstilz')
})

it('threads are found by topic, words without case and accents, person, mention, and whether they are settled', async () => {
  const tree = await ines.makeTree('Found')
  const { centre: middle } = (await ines.open(tree)).snapshot
  await ines.edit(tree, [{ op: 'add', topic: 'ramp', parent: middle, order: 'a0', with: { title: 'Ramp' } }])
  await bringIn(ines, tree, rana, 'editor')
  const a = begin('Gerüst für die Rampe', 'ramp')
  const b = {
    ...begin('x', middle),
    body: {
      type: 'doc',
      content: [{ type: 'paragraph', content: [{ type: 'person', attrs: { id: rana.id, label: 'Rana' } }] }],
    },
  }
  await say(ines, a, tree)
  await say(rana, b, tree)
  await say(rana, { id: newId(), op: 'settle', thread: a.thread, settled: true }, tree)
  const found = async (query: string): Promise<string[]> =>
    (await ines.call<ThreadPage>('GET', `/api/trees/${tree}/talk/threads?${query}`)).data.threads.map(one => one.id)
  expect(await found('')).toEqual([a.thread, b.thread])
  expect(await found('topic=ramp')).toEqual([a.thread])
  expect(await found('text=GERUST')).toEqual([a.thread])
  expect(await found('text=100%25')).toEqual([])
  expect(await found(`by=${rana.id}`)).toEqual([b.thread])
  expect(await found(`mentions=${rana.id}`)).toEqual([b.thread])
  expect(await found('settled=true')).toEqual([a.thread])
  expect(await found('settled=false')).toEqual([b.thread])
})

it('the talk of the tree: paged from its end, searched, and what one hasn’t read is counted', async () => {
  const words = Array.from({ length: 130 }, (_, i) => `Line ${i}`)
  for (const line of words) await say(rana, goOn(line, BENCH))
  expect((await get<TalkOverview>('')).unread).toBe(130)
  expect((await get<TalkOverview>('', rana)).unread).toBe(0)
  const seen: string[] = []
  let before: number | null | undefined
  do {
    const page: BenchPage = await get(`/bench${before ? `?before=${before}` : ''}`)
    seen.unshift(...page.comments.map(({ body }) => textOf(body!)))
    before = page.next
  } while (before !== null)
  expect(seen).toEqual(words)
  expect((await get<BenchPage>('/bench?text=line%2099')).comments).toHaveLength(1)
  const { number } = await get<TalkOverview>('')
  await ines.call('POST', `/api/trees/${id}/talk/seen`, { number: number - 5 })
  expect((await get<TalkOverview>('')).unread).toBe(5)
  // On another device further back: what was read stays read.
  await ines.call('POST', `/api/trees/${id}/talk/seen`, { number: 1 })
  expect((await get<TalkOverview>('')).unread).toBe(5)
  expect(await unsaid(ines, { id: newId(), op: 'settle', thread: BENCH, settled: true })).toBe('409 bench')
})

it('hangs on topics of this tree, those in its trash too', async () => {
  expect(await unsaid(ines, begin('Where?', 'nowhere'))).toBe('404 no-topic')
  await ines.edit(id, [
    { op: 'add', topic: 'gone', parent: centre, order: 'a5', with: { title: 'Gone' } },
    { op: 'remove', topic: 'gone' },
  ])
  expect((await say(ines, begin('It was there', 'gone'))).status).toBe(200)
})

it('refuses what is too long, too heavy or no body at all, and says why', async () => {
  expect(await unsaid(ines, begin('x'.repeat(20_001)))).toBe('400 invalid')
  expect(await unsaid(ines, begin('x'.repeat(1_100_000)))).toBe('413 too-long')
  expect(await unsaid(ines, { ...begin('x'), body: '<img src=x onerror=alert(1)>' })).toBe('400 invalid')
  expect(await unsaid(ines, goOn('Who?', 'nobody'))).toBe('404 no-thread')
})

it('two hundred at once, from people with different rights, have one order without gaps; what is kept is what is told', async () => {
  const before = (await get<TalkOverview>('')).number
  const thread = begin('All together', 'lift')
  await say(ines, thread)
  const people = [ines, rana, commenter, viewer]
  const answers = await Promise.all(
    Array.from({ length: 200 }, (_, i) =>
      say(
        people[i % 4]!,
        i % 20 === 19
          ? { id: newId(), op: 'settle', thread: thread.thread, settled: i % 40 === 19 }
          : goOn(`Voice ${i}`, i % 3 === 0 ? BENCH : thread.thread),
      ),
    ),
  )
  const stored = answers.filter(({ status }) => status === 200)
  expect(answers.filter((_, i) => i % 4 === 3).every(({ status }) => status === 403)).toBe(true)
  expect(stored).toHaveLength(150)
  const { told } = await get<TalkNews>(`/news?since=${before}`)
  expect(told.map(({ number }) => number)).toEqual(Array.from({ length: 151 }, (_, i) => before + 1 + i))
  // Whoever only hears has what whoever asks is given: every thread of the tree from its first saying on.
  const threads = new Map<string, Thread>()
  for (const one of (await get<TalkNews>('/news?since=0')).told) {
    threads.set(one.thread, hear(threads.get(one.thread), one)!)
  }
  const given = await get<ThreadPage>('/threads?topic=lift')
  for (const one of given.threads) expect(threads.get(one.id)).toEqual(one)
  const { signs } = await get<TalkOverview>('')
  const sorted = (list: readonly string[]) => [...list].sort()
  const bare = ({ by, mentions, ...rest }: (typeof signs)[number]) => ({
    ...rest,
    by: sorted(by),
    mentions: sorted(mentions),
  })
  for (const sign of signs) expect(bare(sign)).toEqual(bare(signOf(threads.get(sign.id)!)))
})

it('is purged of a text with the tree, in its log too', async () => {
  const tree = await ines.makeTree('Purged')
  const { centre: middle } = (await ines.open(tree)).snapshot
  const one = begin('The code is "Rumpelstilz" & more', middle)
  await say(ines, one, tree)
  await say(
    ines,
    { id: newId(), op: 'reword', comment: one.comment, body: bodyOf('It is "Rumpelstilz", text and all') },
    tree,
  )
  expect((await ines.call('POST', `/api/trees/${tree}/purge`, { text: '"Rumpelstilz"' })).status).toBe(200)
  const all = JSON.stringify([
    (await ines.call('GET', `/api/trees/${tree}/talk/news?since=0`)).data,
    (await ines.call('GET', `/api/trees/${tree}/talk/threads`)).data,
  ])
  expect(all).not.toContain('Rumpelstilz')
  expect(all).toContain('text and all')
  expect((await ines.call<ThreadPage>('GET', `/api/trees/${tree}/talk/threads?text=Rumpelstilz`)).data.threads).toEqual(
    [],
  )
})

it('goes along in the tree’s JSON, and comes back as what whoever brings it says, with names', async () => {
  const tree = await ines.makeTree('Told')
  const { centre: middle } = (await ines.open(tree)).snapshot
  await bringIn(ines, tree, rana, 'editor')
  const one = begin('How wide is the gate?', middle)
  await say(rana, one, tree)
  await say(ines, goOn('88 cm', one.thread), tree)
  await say(ines, { id: newId(), op: 'settle', thread: one.thread, settled: true }, tree)
  await say(rana, goOn('Hello', BENCH), tree)
  const gone = begin('Not this', middle)
  await say(ines, gone, tree)
  await say(ines, { id: newId(), op: 'withdraw', comment: gone.comment }, tree)
  const text = (await ines.call<string>('GET', `/api/trees/${tree}/export/json`)).data
  const file = typeof text === 'string' ? text : JSON.stringify(text)
  expect(file).not.toContain('Not this')
  const { data: made } = await stranger.call<{ id: string }>('POST', '/api/trees/import', {
    format: 'json',
    name: 'x.json',
    text: file,
  })
  const { threads } = (await stranger.call<ThreadPage>('GET', `/api/trees/${made.id}/talk/threads`)).data
  expect(
    threads.map(({ settled, comments }) => [settled !== null, comments.map(({ by, body }) => [by, textOf(body!)])]),
  ).toEqual([
    [
      true,
      [
        [stranger.id, expect.stringMatching(/^Rana Tahiri, \d{4}-\d\d-\d\d:\nHow wide is the gate\?$/)],
        [stranger.id, expect.stringMatching(/^Ines Brandt, .*:\n88 cm$/)],
      ],
    ],
  ])
  const { comments } = (await stranger.call<BenchPage>('GET', `/api/trees/${made.id}/talk/bench`)).data
  expect(comments.map(({ body }) => textOf(body!))).toEqual([expect.stringMatching(/^Rana Tahiri.*\nHello$/)])
  // The sequence goes on from there.
  expect((await say(stranger, goOn('And now?', BENCH), made.id)).status).toBe(200)
})

it('goes with the tree when it is removed for good, and not to a copy of it', async () => {
  const tree = await ines.makeTree('Short')
  const { centre: middle } = (await ines.open(tree)).snapshot
  await say(ines, begin('Soon over', middle), tree)
  const { data: copy } = await ines.call<{ id: string }>('POST', `/api/trees/${tree}/duplicate`, {
    notes: true,
    people: true,
    dates: true,
    progress: true,
    shift: 0,
  })
  expect((await ines.call<TalkOverview>('GET', `/api/trees/${copy.id}/talk`)).data.signs).toEqual([])
  await ines.call('DELETE', `/api/trees/${tree}`)
  expect(await unsaid(ines, begin('In the trash', middle), tree)).toBe('409 trashed')
})
