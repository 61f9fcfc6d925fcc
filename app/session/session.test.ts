import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { ClientMessage, NewsEdit, ServerMessage } from '#core/contract'
import { applyChanges, type Change, type Edit, emptyTree, newTopic, toSnapshot, topicOf, type Tree } from '#core/tree'
import { Line, type Socket } from './line'
import { ServerClock } from './server-clock'
import { Sync } from './sync'
import { UndoRecord } from './undo-record'

/** A socket that does what the test says. */
class FakeSocket {
  readyState = 0
  onopen: (() => void) | null = null
  onmessage: ((event: { data: string }) => void) | null = null
  onclose: (() => void) | null = null
  readonly sent: ClientMessage[] = []
  send(text: string): void {
    this.sent.push(JSON.parse(text) as ClientMessage)
  }
  close(): void {
    this.readyState = 3
    this.onclose?.()
  }
  open(): void {
    this.readyState = 1
    this.onopen?.()
  }
  say(message: ServerMessage): void {
    this.onmessage?.({ data: JSON.stringify(message) })
  }
}

function move(): Tree {
  const tree = emptyTree({ ...newTopic('c', null, 'a0'), title: 'Move' })
  applyChanges(tree, [{ op: 'add', topic: 't', parent: 'c', order: 'a0', with: { title: 'Lift' } }])
  return tree
}
const titled = (value: string): Change => ({ op: 'set', topic: 't', field: 'title', value })
const welcome = (version: number, epoch = ''): ServerMessage => ({
  type: 'welcome',
  client: 'x',
  version,
  epoch,
  role: 'editor',
  present: [],
  at: 0,
  talk: 0,
})
const numbered = (edit: Edit, number: number, user = 'ines'): NewsEdit => ({ ...edit, number, user, at: '' })

describe('the line', () => {
  beforeEach(() => vi.useFakeTimers())
  afterEach(() => vi.useRealTimers())

  function dialled() {
    const sockets: FakeSocket[] = []
    const heard: ServerMessage[] = []
    const counts = { opened: 0, lost: 0 }
    const line: Line = new Line(
      () => {
        sockets.push(new FakeSocket())
        return sockets.at(-1) as unknown as Socket
      },
      {
        opened: () => counts.opened++,
        heard: message => heard.push(message),
        lost: () => counts.lost++,
        beat: () => line.send({ type: 'ping' }),
      },
    )
    line.begin()
    return { line, sockets, heard, counts }
  }

  it('is taken up again after a break, later each time, and soon again once it was well', () => {
    const { line, sockets, counts } = dialled()
    const gaps: number[] = []
    for (let i = 0; i < 8; i++) {
      sockets.at(-1)!.close()
      const before = Date.now()
      const dialledBefore = sockets.length
      while (sockets.length === dialledBefore) vi.advanceTimersByTime(50)
      gaps.push(Date.now() - before)
    }
    expect(gaps[0]).toBeLessThanOrEqual(800)
    expect(Math.max(...gaps)).toBeGreaterThan(5000)
    expect(Math.max(...gaps)).toBeLessThanOrEqual(22_550)
    sockets.at(-1)!.open()
    line.settle()
    sockets.at(-1)!.close()
    vi.advanceTimersByTime(800)
    expect(sockets).toHaveLength(10)
    expect(counts).toEqual({ opened: 1, lost: 9 })
  })

  it('is dropped when the other end says nothing for long, and not while it does', () => {
    const { sockets } = dialled()
    sockets[0]!.open()
    for (let i = 0; i < 10; i++) {
      vi.advanceTimersByTime(15_000)
      sockets[0]!.say({ type: 'pong', at: 0 })
    }
    expect(sockets[0]!.sent.filter(one => one.type === 'ping')).toHaveLength(10)
    expect(sockets[0]!.readyState).toBe(1)
    vi.advanceTimersByTime(60_000)
    expect(sockets[0]!.readyState).toBe(3)
  })

  it('is gone at once when it’s dropped, though the other end never answers, and hears nothing of the old one', () => {
    const { line, sockets, heard, counts } = dialled()
    sockets[0]!.open()
    sockets[0]!.close = () => {}
    line.drop()
    expect(counts.lost).toBe(1)
    sockets[0]!.say({ type: 'pong', at: 0 })
    sockets[0]!.onclose?.()
    vi.advanceTimersByTime(800)
    expect([sockets.length, counts.lost, heard.length]).toEqual([2, 1, 0])
  })

  it('sends nothing where no socket stands, and is silent once it has ended', () => {
    const { line, sockets, counts } = dialled()
    line.send({ type: 'ping' })
    expect(sockets[0]!.sent).toEqual([])
    line.end()
    vi.advanceTimersByTime(100_000)
    expect([sockets.length, counts.lost]).toEqual([1, 0])
  })
})

it('the server’s clock is told by the quickest round trip', () => {
  let [now, steady] = [1000, 0]
  const clock = new ServerClock(
    () => now,
    () => steady,
  )
  clock.begin(6000)
  expect(clock.time).toBe(6000)
  clock.ask()
  steady = 200
  now = 1200
  clock.answer(6300)
  expect(clock.time).toBe(6400)
  clock.ask()
  steady = 1200
  now = 2200
  clock.answer(9999)
  expect(clock.time).toBe(7400)
})

describe('sync', () => {
  function opened(
    waiting: readonly Edit[] = [],
    epoch: string | undefined = '',
    forget: () => Promise<void> | undefined = () => undefined,
  ) {
    const said: string[] = []
    const sent: ClientMessage[] = []
    const kept = new Map<string, Edit>(waiting.map(edit => [edit.id, edit]))
    const replaced: (string | null)[] = []
    const counts = { caughtUp: 0, again: 0 }
    const sync: Sync = new Sync('ines', {
      send: message => sent.push(typeof message === 'string' ? (JSON.parse(message) as ClientMessage) : message),
      keep: edit => kept.set(edit.id, edit),
      drop: ids => {
        ids.forEach(id => kept.delete(id))
        return forget()
      },
      touched: () => {},
      replaced: because => replaced.push(because),
      news: () => {},
      caughtUp: () => counts.caughtUp++,
      said: message => said.push(message),
      again: () => counts.again++,
    })
    sync.open(toSnapshot(move()), 3, epoch, waiting)
    const edits = () => sent.flatMap(one => (one.type === 'edit' ? [one.edit.id] : []))
    return { sync, said, sent, kept, replaced, counts, edits }
  }
  const title = (sync: Sync): string => topicOf(sync.tree, 't').title

  it('sends what waited once everything missed is in, in order, and forgets it when it comes back numbered', () => {
    const waiting = ['e1', 'e2'].map(id => ({ id, changes: [titled(id)] }))
    const { sync, kept, edits, counts } = opened(waiting)
    expect(title(sync)).toBe('e2')
    sync.hear(welcome(5))
    expect(edits()).toEqual([])
    sync.hear({
      type: 'news',
      edits: [4, 5].map(n => numbered({ id: `o${n}`, changes: [titled(`o${n}`)] }, n, 'rana')),
    })
    expect([edits(), counts.caughtUp, title(sync)]).toEqual([['e1', 'e2'], 1, 'e2'])
    sync.hear({ type: 'news', edits: waiting.map((edit, i) => numbered(edit, 6 + i)) })
    expect([kept.size, sync.waitingCount, sync.replica.version]).toEqual([0, 0, 7])
  })

  it('asks for what is missing when a number is left out', () => {
    const { sync, sent } = opened()
    sync.hear(welcome(3))
    sync.hear({ type: 'news', edits: [numbered({ id: 'o', changes: [titled('o')] }, 9, 'rana')] })
    expect(sent.at(-1)).toEqual({ type: 'hello', since: 3, epoch: '' })
    expect(title(sync)).toBe('Lift')
  })

  it('says in words what was refused for good, and keeps what only has to wait', () => {
    const { sync, said, kept, counts } = opened()
    sync.hear(welcome(3))
    const item = sync.put([titled('Lamps')])!
    sync.hear({ type: 'refused', edit: item.edit.id, code: 'unavailable', message: 'Later.' })
    expect([counts.again, kept.size, said]).toEqual([1, 1, []])
    sync.hear({ type: 'refused', edit: item.edit.id, code: 'role', message: 'As viewer you can’t change this tree.' })
    expect([kept.size, title(sync)]).toEqual([0, 'Lift'])
    expect(said).toEqual(['Not kept: the title “Lamps”. As viewer you can’t change this tree.'])
  })

  it('says that something was refused when the browser has forgotten it, and not before', async () => {
    let forgotten = (): void => {}
    const { sync, said } = opened([], '', () => new Promise<void>(done => (forgotten = done)))
    sync.hear(welcome(3))
    const item = sync.put([titled('Lamps')])!
    sync.hear({ type: 'refused', edit: item.edit.id, code: 'role', message: 'No.' })
    await Promise.resolve()
    expect([title(sync), said]).toEqual(['Lift', []])
    forgotten()
    await vi.waitFor(() => expect(said).toEqual(['Not kept: the title “Lamps”. No.']))
  })

  it('holds what is being typed: nobody hears of it, and dropped it leaves no trace', () => {
    const { sync, kept, edits } = opened()
    sync.hear(welcome(3))
    sync.hold([titled('La')])
    sync.hold([titled('Lamp')])
    expect([title(sync), sync.waitingCount, kept.size, edits()]).toEqual(['Lamp', 0, 0, []])
    sync.dropHeld()
    expect(title(sync)).toBe('Lift')
  })

  it('after a restore takes the tree anew and puts on what wasn’t stored, saying so', () => {
    const { sync, replaced, edits } = opened([{ id: 'e1', changes: [titled('Mine')] }], 'spring')
    sync.hello()
    sync.hear(welcome(1, 'autumn'))
    // Numbers of the new epoch mustn't be taken for the old one's.
    sync.hear({ type: 'news', edits: [numbered({ id: 'o', changes: [titled('wrong')] }, 4, 'rana')] })
    expect(edits()).toEqual([])
    const restored = move()
    applyChanges(restored, [{ op: 'set', topic: 't', field: 'done', value: 40 }])
    sync.hear({ type: 'tree', version: 1, snapshot: toSnapshot(restored) })
    expect(topicOf(sync.tree, 't')).toMatchObject({ title: 'Mine', done: 40 })
    expect([edits(), sync.currentEpoch]).toEqual([['e1'], 'autumn'])
    expect(replaced).toEqual([expect.stringContaining('restored from a backup')])
  })

  it('an undo record turns one’s own edits, the last first, and never others’', () => {
    const { sync } = opened()
    sync.hear(welcome(3))
    const record = new UndoRecord(
      () => sync.tree,
      changes => sync.put(changes),
    )
    for (const words of ['Lamps', 'Doors']) record.add(sync.put([titled(words)])!)
    expect(record.undo().topics).toEqual(['t'])
    expect(title(sync)).toBe('Lamps')
    record.redo()
    expect(title(sync)).toBe('Doors')
    const last = record.last!
    expect(record.canTakeBack(last)).toBe(true)
    record.takeBack(last)
    expect([title(sync), record.canTakeBack(last)]).toEqual(['Lamps', false])
    record.clear()
    expect([record.canUndo, record.canRedo]).toEqual([false, false])
  })
})
