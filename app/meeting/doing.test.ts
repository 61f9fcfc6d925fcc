import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { applyChanges, BLANK, type Change, childrenOf, emptyTree, topicOf, type Tree } from '../../core/tree'
import { briefOf, isMeeting } from '../../core/meeting/brief'
import { itemOf } from '../../core/meeting/agenda'
import type { Desk } from '~/desk/desk'

/* What people do with meetings from the tree, on a desk that makes each edit at once. */

let doing: typeof import('./doing')
let next: typeof import('./making-next')
let replies: typeof import('./replies')
beforeAll(async () => {
  // The desk's own module isn't needed here, only its way to make ids.
  vi.doMock('../tree/desk', () => {
    let made = 0
    return { newId: () => `n${made++}` }
  })
  vi.stubGlobal('dayInWords', (day: string) => day)
  vi.stubGlobal('callApi', vi.fn())
  doing = await import('./doing')
  next = await import('./making-next')
  replies = await import('./replies')
})
afterAll(() => vi.unstubAllGlobals())

let tree: Tree
let said: string[]
let selection: string[]
let mayEdit: boolean
let desk: Desk

beforeEach(() => {
  tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Coordination' })
  applyChanges(tree, [
    { op: 'add', topic: 'm', parent: 'c', order: 'a0', with: { title: 'Meeting 1' } },
    { op: 'add', topic: 'i', parent: 'm', order: 'a0', with: { title: 'Two offers' } },
    { op: 'add', topic: 'r', parent: 'i', order: 'a0', with: { title: 'Report' } },
    { op: 'add', topic: 'x', parent: 'c', order: 'a1', with: { title: 'Elsewhere' } },
  ])
  said = []
  selection = ['m']
  mayEdit = true
  desk = {
    get tree() {
      return tree
    },
    userId: 'ines',
    session: { serverNow: () => 1000, treeId: 't' },
    focus: {
      get value() {
        return selection[0]!
      },
    },
    selected: () => selection,
    select: (id: string) => {
      selection = [id]
    },
    say: (words: string) => {
      said.push(words)
    },
    guard: () => mayEdit,
    run: ({ changes }: { changes: readonly Change[] }) => {
      applyChanges(tree, changes)
      return changes.length > 0
    },
  } as unknown as Desk
})

describe('making a meeting of a topic', () => {
  it('puts whoever makes it in the chair, once', () => {
    expect(doing.makeMeetingOf(desk, 'm')).toBe(true)
    expect(briefOf(topicOf(tree, 'm')).people).toMatchObject([{ user: 'ines', role: 'chair', needed: true }])
    expect([doing.makeMeetingOf(desk, 'm'), briefOf(topicOf(tree, 'm')).people.length]).toEqual([false, 1])
  })
  it('isn’t done by somebody who may only read', () => {
    mayEdit = false
    expect([doing.makeMeetingOf(desk, 'm'), isMeeting(topicOf(tree, 'm'))]).toEqual([false, false])
  })
})

describe('agenda items', () => {
  it('are made of what stands under a meeting, and plain topics again; others are told why not', () => {
    selection = ['i']
    doing.toggleItem(desk)
    expect(said).toEqual(['An agenda item stands under a meeting. Make a topic above it a meeting first.'])
    doing.makeMeetingOf(desk, 'm')
    doing.toggleItem(desk)
    expect(itemOf(topicOf(tree, 'i')).intent).toBe('discuss')
    expect(topicOf(tree, 'i').item).toHaveLength(1)
    doing.toggleItem(desk)
    expect(topicOf(tree, 'i').item).toEqual([])
  })
  it('that are some already keep what they have when the rest become items', () => {
    doing.makeMeetingOf(desk, 'm')
    applyChanges(tree, [
      { op: 'put', topic: 'i', set: 'item', member: { id: 'minutes', kind: 'minutes', minutes: 20 } },
      { op: 'add', topic: 'j', parent: 'm', order: 'a1', with: { title: 'Neighbours' } },
    ])
    selection = ['i', 'j']
    doing.toggleItem(desk)
    expect([itemOf(topicOf(tree, 'i')).minutes, topicOf(tree, 'j').item.length]).toEqual([20, 1])
  })
  it('are the nearest above a topic within its meeting', () => {
    doing.makeMeetingOf(desk, 'm')
    selection = ['i']
    doing.toggleItem(desk)
    expect(['r', 'i', 'm', 'x', 'c'].map(id => doing.itemAbove(desk, id))).toEqual(['i', 'i', null, null, null])
  })
  it('are said to be ready from anywhere inside, and not ready again', () => {
    doing.makeMeetingOf(desk, 'm')
    selection = ['i']
    doing.toggleItem(desk)
    selection = ['r']
    doing.toggleReady(desk)
    expect([itemOf(topicOf(tree, 'i')).ready, said.at(-1)]).toEqual([true, '“Two offers” is ready. The lead sees it.'])
    expect(topicOf(tree, 'i').item.find(({ kind }) => kind === 'ready')).toMatchObject({ by: 'ines', at: 1000 })
    doing.toggleReady(desk)
    expect(itemOf(topicOf(tree, 'i')).ready).toBe(false)
    selection = ['x']
    doing.toggleReady(desk)
    expect(said.at(-1)).toBe('This topic belongs to no agenda item.')
  })
})

describe('the next meeting', () => {
  it('is laid out beside the one that the selection belongs to, and chosen; without a rule it asks for a day', () => {
    doing.makeMeetingOf(desk, 'm')
    selection = ['r']
    const made = next.makeNext(desk)!
    expect([topicOf(tree, made).title, selection, childrenOf(tree, 'c')]).toEqual([
      'Meeting 2',
      [made],
      ['m', made, 'x'],
    ])
    expect(said.at(-1)).toContain('It needs a day')
    const dated = next.makeNext(desk, 'm', '2027-03-09')
    expect(briefOf(topicOf(tree, dated!)).begins).toBeNull()
    applyChanges(tree, [
      {
        op: 'put',
        topic: 'm',
        set: 'meeting',
        member: { id: 'begins', kind: 'begins', day: '2027-03-02', time: '14:00', zone: 'UTC' },
      },
    ])
    const third = next.makeNext(desk, 'm', '2027-03-09')
    expect(briefOf(topicOf(tree, third!)).begins?.day).toBe('2027-03-09')
    expect(said.at(-1)).toContain('is laid out for 2027-03-09')
  })
  it('has nothing to go on from outside a meeting', () => {
    selection = ['x']
    expect([next.makeNext(desk), said]).toEqual([null, ['Go to a meeting first: the next one is made from it.']])
  })
})

describe('a file that is dropped', () => {
  const file = (text: string, name = 'reply.ics', type = 'text/calendar'): File => new File([text], name, { type })
  it('is an answer only when it’s a calendar file that says so', async () => {
    expect(await replies.isReply(file('BEGIN:VCALENDAR\r\nMETHOD:REPLY\r\nEND:VCALENDAR'))).toBe(true)
    expect(await replies.isReply(file('BEGIN:VCALENDAR\r\nMETHOD:REPLY\r\n', 'reply.ics', ''))).toBe(true)
    expect(await replies.isReply(file('BEGIN:VCALENDAR\r\nMETHOD:REQUEST\r\n'))).toBe(false)
    expect(await replies.isReply(file('METHOD:REPLY', 'notes.txt', 'text/plain'))).toBe(false)
    expect(await replies.isReply(file(`METHOD:REPLY\n${' '.repeat(600_000)}`))).toBe(false)
  })
  it('that is too large is refused before it’s read, and what the server says is said on', async () => {
    const call = vi.mocked(globalThis as unknown as { callApi: (...all: unknown[]) => Promise<unknown> })
      .callApi as ReturnType<typeof vi.fn>
    await replies.takeReply(desk, file(' '.repeat(600_000)))
    expect([said.at(-1), call.mock.calls.length]).toEqual([
      'This calendar file is larger than half a megabyte. Nothing was changed.',
      0,
    ])
    call.mockResolvedValueOnce([{ name: 'Tove Lind', answer: 'accepted' }])
    await replies.takeReply(desk, file('x'))
    expect(said.at(-1)).toBe('Tove Lind: comes.')
    call.mockRejectedValueOnce(new Error('This isn’t a calendar file, or it is broken. Nothing was changed.'))
    await replies.takeReply(desk, file('x'))
    expect(said.at(-1)).toContain('broken')
  })
})
