import { eq, max } from 'drizzle-orm'
import { peopleOf } from '../trees/store'
import { nanoid } from 'nanoid'
import {
  type ClientMessage,
  clientMessage,
  type NewsEdit,
  type Present,
  type Role,
  type ServerMessage,
} from '#core/contract'
import { Part, isWhole, sees, type Sight } from '#core/access/sees'
import { LIMITS, upgradeEdit } from '#core/tree'
import { type Account, whoIs } from '../access/accounts'
import { Fault } from '../access/fault'
import { roleOn } from '../access/roles'
import { bus } from '../bus'
import { database, databaseErrorCode } from '../database/connect'
import { edits, trees } from '../database/schema'
import { submit } from '../trees/door'
import { heldNow, readTree } from '../trees/held'
import type { LiveTree } from '../trees/live-tree'
import { readLog } from '../trees/log'

/** The line to one browser tab, however the socket is made. */
export interface Line {
  send(text: string): void
  close(code: number, reason: string): void
}

/** Edits sent one by one to a client that was away; beyond that the whole tree is cheaper. */
const MOST_CATCH_UP = 1000
/** Messages a second that a line may send in the long run, and at once. */
const STEADY = 100
const BURST = 1000
const RECHECK_MS = 20_000

/** One browser tab in one tree. */
class Seat {
  readonly client = nanoid(10)
  present: Present
  said = false
  /** News that came while the missed edits were being read. */
  held: NewsEdit[] | null = null
  sentVersion = 0
  /** What of the tree it may have, where that isn't all of it. */
  part: Part | null = null
  /** Other trees whose changes this tab wants to hear of. */
  watched: ReadonlySet<string> = new Set()
  private tokens = BURST
  private refilled = Date.now()

  constructor(
    readonly line: Line,
    readonly treeId: string,
    readonly account: Account,
    public role: Role,
    readonly request: Request,
  ) {
    this.present = { id: account.id, name: account.name, client: this.client, selected: [], typing: null }
  }

  say(message: ServerMessage): void {
    this.line.send(JSON.stringify(message))
  }

  /** Whether one more message is within what a line may send. */
  spend(): boolean {
    const now = Date.now()
    this.tokens = Math.min(BURST, this.tokens + ((now - this.refilled) / 1000) * STEADY)
    this.refilled = now
    if (this.tokens < 1) return false
    this.tokens--
    return true
  }
}

const rooms = new Map<string, Set<Seat>>()

function others(seat: Seat): Seat[] {
  return [...(rooms.get(seat.treeId) ?? [])].filter(other => other !== seat && other.said)
}

/** What somebody may have of a tree; a role that shows nothing has no seat. */
const sightOf = (seat: Seat): Sight => sees({ kind: 'account', id: seat.account.id }, seat.role)!

/** Lets a checked person in. Nothing is sent before the client's hello. */
export function enter(line: Line, treeId: string, account: Account, role: Role, request: Request): Seat {
  const seat = new Seat(line, treeId, account, role, request)
  const room = rooms.get(treeId) ?? new Set()
  rooms.set(treeId, room.add(seat))
  return seat
}

export function leave(seat: Seat): void {
  const room = rooms.get(seat.treeId)
  if (!room?.delete(seat)) return
  if (room.size === 0) rooms.delete(seat.treeId)
  bus.tell({ about: 'left', tree: seat.treeId, client: seat.client })
}

/** Hears one message. Whatever is wrong with it, it's refused in words and changes nothing. */
export function hear(seat: Seat, text: string): void {
  if (Buffer.byteLength(text) > LIMITS.message) {
    seat.say({
      type: 'refused',
      edit: null,
      code: 'too-long',
      message: 'A message holds 2 MB at most. Nothing was changed.',
    })
    return
  }
  let raw: unknown
  try {
    raw = JSON.parse(text)
  } catch {
    seat.say({ type: 'refused', edit: null, code: 'not-json', message: 'That message isn’t JSON.' })
    return
  }
  const editId = editIdOf(raw)
  if (!seat.spend()) {
    seat.say({ type: 'refused', edit: editId, code: 'slowed', message: 'Too many messages at once. Wait a moment.' })
    return
  }
  const parsed = clientMessage.safeParse(upgraded(raw))
  if (!parsed.success) {
    const issue = parsed.error.issues[0]
    seat.say({
      type: 'refused',
      edit: editId,
      code: 'invalid',
      message: `${issue?.path.join('.') || 'message'}: ${issue?.message ?? 'not understood'}`,
    })
    return
  }
  act(seat, parsed.data)
}

/** Edits that waited in a browser may have been written in an older format. */
function upgraded(raw: unknown): unknown {
  const { edit } = (raw ?? {}) as { edit?: unknown }
  try {
    return edit === undefined ? raw : { ...(raw as object), edit: upgradeEdit(edit) }
  } catch {
    // A format that this version doesn't know: left for the schema to refuse.
    return raw
  }
}

function editIdOf(raw: unknown): string | null {
  const id = (raw as { edit?: { id?: unknown } } | null)?.edit?.id
  return typeof id === 'string' ? id.slice(0, 40) : null
}

function act(seat: Seat, message: ClientMessage): void {
  switch (message.type) {
    case 'ping':
      seat.say({ type: 'pong', at: Date.now() })
      return
    case 'hello':
      welcome(seat, message.since, message.epoch).catch((error: unknown) => {
        console.error('A client could not be welcomed:', databaseErrorCode(error) || (error as Error).message)
        seat.line.close(1013, 'try again')
      })
      return
    case 'presence':
      seat.present = { ...seat.present, selected: message.selected, typing: message.typing }
      bus.tell({ about: 'here', tree: seat.treeId, present: seat.present })
      return
    case 'watch':
      watchOthers(seat, message.trees).catch(() => {
        /* the database is away; the tab asks again on its next line */
      })
      return
    case 'edit':
      submit(seat.treeId, seat.account.id, message.edit).then(
        ({ news, again }) => {
          // An edit that was in already isn't told again to the room; its sender still hears that it counts.
          if (again) seat.say({ type: 'news', edits: [news] })
        },
        (error: unknown) => {
          const fault =
            error instanceof Fault
              ? error
              : new Fault(500, 'unforeseen', 'Something went wrong here. Nothing was changed.')
          seat.say({ type: 'refused', edit: message.edit.id, code: fault.code, message: fault.message })
        },
      )
  }
}

/** Only trees that the person has a role in are watched; what they show is asked for, and checked, anew each time. */
async function watchOthers(seat: Seat, trees: readonly string[]): Promise<void> {
  const roles = await Promise.all(trees.map(id => roleOn(id, seat.account.id)))
  seat.watched = new Set(trees.filter((id, i) => id !== seat.treeId && roles[i] !== null))
}

async function welcome(seat: Seat, since: number | null, epoch?: string): Promise<void> {
  seat.held = []
  const db = database()
  const [row] = await db
    .select({ version: trees.version, epoch: trees.epoch })
    .from(trees)
    .where(eq(trees.id, seat.treeId))
  const version = row?.version ?? 0
  seat.say({
    type: 'welcome',
    client: seat.client,
    version,
    epoch: row?.epoch ?? '',
    role: seat.role,
    present: others(seat).map(other => other.present),
    at: Date.now(),
  })
  const sight = sightOf(seat)
  const another = epoch !== undefined && epoch !== (row?.epoch ?? '')
  if (since === null || another || since > version || version - since > MOST_CATCH_UP || !isWhole(sight)) {
    const live = await readTree(seat.treeId, version, row?.epoch)
    if (!live) throw new Error('no snapshot')
    sendTree(seat, live, sight)
  } else {
    const missed = await readLog(db, seat.treeId, since)
    seat.sentVersion = since
    tell(seat, missed)
  }
  const waiting = seat.held
  seat.held = null
  tell(seat, waiting)
  seat.said = true
  bus.tell({ about: 'here', tree: seat.treeId, present: seat.present })
}

function sendTree(seat: Seat, live: LiveTree, sight: Sight): void {
  seat.sentVersion = live.version
  if (isWhole(sight)) {
    seat.part = null
    // Put together as text, so that a large tree is written down once for all who come.
    seat.line.send(`{"type":"tree","version":${live.version},"snapshot":${live.snapshotText()}}`)
    return
  }
  seat.part = new Part(live.tree, sight)
  seat.say({ type: 'tree', version: live.version, snapshot: seat.part.snapshot() })
}

function tell(seat: Seat, news: readonly NewsEdit[], text?: string): void {
  const fresh = news.filter(edit => edit.number > seat.sentVersion)
  if (fresh.length === 0) return
  seat.sentVersion = fresh.at(-1)!.number
  if (!seat.part) {
    seat.line.send(
      text && fresh.length === news.length
        ? text
        : JSON.stringify({ type: 'news', edits: fresh } satisfies ServerMessage),
    )
    return
  }
  const edits = fresh.map(edit => ({ edit, changes: seat.part!.news(edit.changes) }))
  if (edits.some(({ changes }) => changes === null))
    seat.say({ type: 'tree', version: seat.sentVersion, snapshot: seat.part.snapshot() })
  else seat.say({ type: 'news', edits: edits.map(({ edit, changes }) => ({ ...edit, changes: changes! })) })
}

bus.hear(word => {
  switch (word.about) {
    case 'edits':
      hearEdits(word.tree, word.edits)
      break
    case 'here':
    case 'left':
      for (const seat of rooms.get(word.tree) ?? []) {
        if (!seat.said) continue
        if (word.about === 'left') seat.say({ type: 'left', client: word.client })
        else if (word.present.client !== seat.client) seat.say({ type: 'presence', present: word.present })
      }
      break
    case 'rights':
      Promise.all([recheck(word.tree), tellPeople(word.tree)]).catch(() => {
        /* the database is away; the next round looks again */
      })
      break
    case 'signed-out':
      for (const room of [...rooms.values()])
        for (const seat of [...room])
          if (seat.account.id === word.account) expel(seat, 'signed-out', 'You have been signed out.')
  }
})

function hearEdits(treeId: string, news: readonly NewsEdit[]): void {
  for (const others of rooms.values())
    for (const seat of others) if (seat.watched.has(treeId)) seat.say({ type: 'elsewhere', tree: treeId })
  const room = rooms.get(treeId)
  if (!room) return
  const text = JSON.stringify({ type: 'news', edits: news } satisfies ServerMessage)
  // An edit that was made here may be larger than the tree is.
  const live = text.length > LIMITS.message ? heldNow(treeId) : undefined
  for (const seat of room) {
    if (live && seat.said && !seat.held) sendTree(seat, live, sightOf(seat))
    else if (seat.held) seat.held.push(...news)
    else if (seat.said) tell(seat, news, text)
  }
}

/** Looks again at what the people in a tree may do, and acts on it at once. */
async function recheck(treeId: string): Promise<void> {
  await Promise.all([...(rooms.get(treeId) ?? [])].map(recheckSeat))
}

async function recheckSeat(seat: Seat): Promise<void> {
  // Until it's known what somebody may have, they are told nothing; news waits.
  const waiting: NewsEdit[] = []
  if (seat.said && !seat.held) seat.held = waiting
  try {
    await recheckRights(seat)
  } finally {
    if (seat.held === waiting) {
      seat.held = null
      if (rooms.get(seat.treeId)?.has(seat)) tell(seat, waiting)
    }
  }
}

async function recheckRights(seat: Seat): Promise<void> {
  const [account, found] = await Promise.all([whoIs(seat.request), roleOn(seat.treeId, seat.account.id)])
  if (!account) expel(seat, 'signed-out', 'You have been signed out.')
  else if (!found) expel(seat, 'no-role', 'You have no role in this tree any more.')
  else if (found.trashed) expel(seat, 'trashed', 'This tree has been moved to the trash.')
  else if (found.role !== seat.role) {
    seat.role = found.role
    seat.say({ type: 'role', role: found.role })
  }
}

/** Tells every open browser of a tree who has a role in it now. */
async function tellPeople(treeId: string): Promise<void> {
  const room = rooms.get(treeId)
  if (!room) return
  const people = await peopleOf(treeId)
  for (const seat of room) seat.say({ type: 'people', people })
}

function expel(seat: Seat, code: string, message: string): void {
  seat.say({ type: 'gone', code, message })
  leave(seat)
  seat.line.close(4003, code)
}

/** Another process may have taken a right away, or made edits that this one never heard of. */
const watch = setInterval(() => {
  for (const treeId of rooms.keys()) {
    recheck(treeId)
      .then(() => catchUpRoom(treeId))
      .catch(() => {
        /* the database is away; the next round looks again */
      })
  }
}, RECHECK_MS)
watch.unref()

async function catchUpRoom(treeId: string): Promise<void> {
  const room = rooms.get(treeId)
  if (!room) return
  const [row] = await database()
    .select({ newest: max(edits.number) })
    .from(edits)
    .where(eq(edits.treeId, treeId))
  for (const seat of room)
    if (seat.said && !seat.held && (row?.newest ?? 0) > seat.sentVersion) await welcome(seat, seat.sentVersion)
}

/** Tells everybody that the server stops, so that their browsers come back by themselves. */
export function closeRooms(): void {
  clearInterval(watch)
  for (const room of rooms.values()) for (const seat of room) seat.line.close(1012, 'restarting')
}
