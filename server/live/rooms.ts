import { eq, max, sql } from 'drizzle-orm'
import { peopleOf } from '../trees/store'
import {
  allows,
  type ClientMessage,
  clientMessage,
  nestsDeeper,
  type NewsEdit,
  type Role,
  type ServerMessage,
} from '#core/contract'
import { isWhole, Part, type Sight } from '#core/access/sees'
import { LIMITS } from '#core/tree'
import { type Account, principalOf, whoIs } from '../access/accounts'
import { roleOn } from '../access/roles'
import { bus } from '../bus'
import { database } from '../database/connect'
import { edits, talks, trees } from '../database/schema'
import { say } from '../talk/door'
import { submit } from '../trees/door'
import { heldNow, readTree } from '../trees/held'
import type { LiveTree } from '../trees/live-tree'
import { readLog } from '../trees/log'
import { mostBytes, nearness } from '../trees/weights'
import { log } from '../log'
import { editIdOf, faultOf, upgraded } from './heard'
import { type Line, Seat } from './seat'
import { watchersOf, watchNone, watchOthers } from './watchers'

/** Edits sent one by one to a client that was away; beyond that the whole tree is cheaper. */
const MOST_CATCH_UP = 1000
const RECHECK_MS = 20_000

const rooms = new Map<string, Set<Seat>>()

function others(seat: Seat): Seat[] {
  return [...(rooms.get(seat.treeId) ?? [])].filter(other => other !== seat && other.said)
}

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
  seat.gone()
  watchNone(seat)
  if (room.size === 0) rooms.delete(seat.treeId)
  bus.tell({ about: 'left', tree: seat.treeId, client: seat.client })
}

/** Hears one message. Whatever is wrong with it, it's refused in words and changes nothing. */
export function hear(seat: Seat, text: string): void {
  // Counted before anything else is done with it, that it's refused included.
  if (!seat.spend(text.length)) {
    const edit = /^\{"type":"edit","edit":\{"id":"([\w-]{1,40})"/.exec(text.slice(0, 120))?.[1] ?? null
    seat.say({ type: 'refused', edit, code: 'slowed', message: 'Too many messages at once. Wait a moment.' })
    return
  }
  if (Buffer.byteLength(text) > LIMITS.message) {
    const message = 'A message holds 2 MB at most. Nothing was changed.'
    seat.say({ type: 'refused', edit: null, code: 'too-long', message })
    return
  }
  let raw: unknown
  try {
    if (nestsDeeper(text)) throw new RangeError()
    raw = JSON.parse(text)
  } catch {
    seat.say({ type: 'refused', edit: null, code: 'not-json', message: 'That message isn’t JSON.' })
    return
  }
  const editId = editIdOf(raw)
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

function act(seat: Seat, message: ClientMessage): void {
  switch (message.type) {
    case 'ping':
      seat.say({ type: 'pong', at: Date.now() })
      return
    case 'hello':
      if (!seat.spendHello()) return
      if (seat.greeting) {
        seat.next = message
        return
      }
      welcome(seat, message.since, message.epoch).catch((error: unknown) => {
        log.error({ error }, 'a client could not be welcomed')
        seat.line.close(1013, 'try again')
      })
      return
    case 'presence':
      seat.move(message.selected, message.typing, message.presents ?? false)
      return
    case 'look':
      if (!allows(seat.role, 'commenter')) return
      if (seat.maySpendLook()) {
        const { id, name } = seat.present
        bus.tell({ about: 'look', tree: seat.treeId, client: seat.client, by: { id, name }, topic: message.topic })
      } else
        seat.say({
          type: 'refused',
          edit: null,
          code: 'slowed',
          message: 'You have asked them just now. Give them a moment.',
        })
      return
    case 'watch':
      watchOthers(seat, message.trees).catch(() => {
        /* the database is away; the tab asks again on its next line */
      })
      return
    case 'say':
      say(seat.treeId, principalOf(seat.account), message.saying).then(
        ({ told, again }) => {
          if (again) seat.say({ type: 'said', told: [told] })
        },
        (error: unknown) => {
          const { code, message: why } = faultOf(error)
          seat.say({ type: 'unsaid', saying: message.saying.id, code, message: why })
        },
      )
      return
    case 'edit':
      submit(seat.treeId, principalOf(seat.account), message.edit).then(
        ({ news, again }) => {
          // An edit that was in already isn't told again to the room; its sender still hears that it counts.
          if (again) seat.say({ type: 'news', edits: [news] })
        },
        (error: unknown) => {
          const { code, message: why } = faultOf(error)
          seat.say({ type: 'refused', edit: message.edit.id, code, message: why })
        },
      )
  }
}

async function welcome(seat: Seat, since: number | null, epoch?: string): Promise<void> {
  seat.greeting = true
  try {
    // Asked here again, with the seat in its room: whatever right goes from now on is heard of, and none went unheard before.
    await recheckRights(seat)
    for (let at: Seat['next'] = { since, epoch }; at && rooms.get(seat.treeId)?.has(seat); at = seat.next) {
      seat.next = null
      await greet(seat, at.since, at.epoch)
    }
  } finally {
    seat.greeting = false
    seat.tellTalk(seat.unheard.splice(0))
  }
}

async function greet(seat: Seat, since: number | null, epoch?: string): Promise<void> {
  seat.held = []
  const db = database()
  const [row] = await db
    .select({ version: trees.version, epoch: trees.epoch, talk: talks.number })
    .from(trees)
    .leftJoin(talks, eq(talks.treeId, trees.id))
    .where(eq(trees.id, seat.treeId))
  const version = row?.version ?? 0
  seat.sentTalk = row?.talk ?? 0
  seat.say({
    type: 'welcome',
    client: seat.client,
    version,
    epoch: row?.epoch ?? '',
    role: seat.role,
    present: others(seat).map(other => other.present),
    at: Date.now(),
    talk: row?.talk ?? 0,
  })
  seat.knowsWho = true
  const sight = seat.sight
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
  tellWeight(seat)
  seat.tellPresence()
}

function sendTree(seat: Seat, live: LiveTree, sight: Sight): void {
  seat.sentVersion = live.version
  if (isWhole(sight)) {
    seat.part = null
    // A large tree is written down once for all who come.
    seat.sendText(`{"type":"tree","version":${live.version},"snapshot":`, live.snapshotBytes(), '}')
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
    seat.sendText(
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
    case 'said':
      // Whoever has a part of a tree hears nothing of what is said elsewhere in it.
      for (const seat of rooms.get(word.tree) ?? []) if (isWhole(seat.sight)) seat.tellTalk(word.told)
      break
    case 'look':
      for (const seat of rooms.get(word.tree) ?? [])
        if (seat.knowsWho && seat.client !== word.client && isWhole(seat.sight))
          seat.say({ type: 'look', by: word.by, topic: word.topic })
      break
    case 'here':
    case 'left':
      for (const seat of rooms.get(word.tree) ?? []) {
        if (!seat.knowsWho) continue
        if (word.about === 'left') seat.say({ type: 'left', client: word.client })
        else if (word.present.client !== seat.client) seat.say({ type: 'presence', present: word.present })
      }
      break
    case 'rights':
      Promise.all([recheck(word.tree), tellPeople(word.tree)]).catch(() => {
        /* the database is away; the next round looks again */
      })
      break
    case 'replaced':
      for (const seat of rooms.get(word.tree) ?? [])
        if (seat.said)
          welcome(seat, null).catch(() => {
            seat.line.close(1013, 'try again')
          })
      break
    case 'votes':
    case 'read':
      for (const seat of rooms.get(word.tree) ?? [])
        if (seat.said && isWhole(seat.sight)) seat.say({ type: word.about })
      break
    case 'told':
      for (const room of rooms.values())
        for (const seat of room) if (seat.said && word.people.includes(seat.account.id)) seat.say({ type: 'told' })
      break
    case 'signed-out':
      for (const room of [...rooms.values()])
        for (const seat of [...room])
          if (seat.account.session === word.session) expel(seat, 'signed-out', 'You have been signed out.')
  }
})

function hearEdits(treeId: string, news: readonly NewsEdit[]): void {
  for (const seat of watchersOf(treeId)) seat.say({ type: 'elsewhere', tree: treeId })
  const room = rooms.get(treeId)
  if (!room) return
  const text = JSON.stringify({ type: 'news', edits: news } satisfies ServerMessage)
  // An edit that was made here may be larger than the tree is.
  const live = text.length > LIMITS.message ? heldNow(treeId) : undefined
  const near = nearness(heldNow(treeId)?.weight ?? 0)
  for (const seat of room) {
    if (near > seat.nearness) tellWeight(seat)
    if (live && seat.said && !seat.held) sendTree(seat, live, seat.sight)
    else if (seat.held) seat.held.push(...news)
    else if (seat.said) tell(seat, news, text)
  }
}

/** Says that a tree comes near to what it may weigh, once a share. */
function tellWeight(seat: Seat): void {
  const live = heldNow(seat.treeId)
  if (!live || !seat.said) return
  const near = nearness(live.weight)
  if (near > seat.nearness) seat.say({ type: 'weight', bytes: live.weight, most: mostBytes() })
  seat.nearness = near
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
    .select({
      newest: max(edits.number),
      talk: sql<number | null>`(select number from talks where tree_id = ${treeId})`,
    })
    .from(edits)
    .where(eq(edits.treeId, treeId))
  for (const seat of room)
    if (
      seat.said &&
      !seat.held &&
      !seat.greeting &&
      ((row?.newest ?? 0) > seat.sentVersion || (row?.talk ?? 0) > seat.sentTalk)
    )
      await welcome(seat, seat.sentVersion)
}

/** Tells everybody that the server stops, so that their browsers come back by themselves. */
export function closeRooms(): void {
  clearInterval(watch)
  for (const room of rooms.values()) for (const seat of room) seat.line.close(1012, 'restarting')
}
