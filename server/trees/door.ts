import { isDeepStrictEqual } from 'node:util'
import { and, eq, gt, inArray, isNull, or, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { accountOf, actorOf, type EditSource, type NewsEdit, type Principal, type Role } from '#core/contract'
import { type Edit, Refused } from '#core/tree'
import { diskFull, Fault, unstorable } from '../access/fault'
import { bus } from '../bus'
import { database, databaseErrorCode, isPassing } from '../database/connect'
import { isDiskFull, isUnstorable } from '../database/error-code'
import { guestLinks } from '../database/schema'
import { commit } from './commit'
import { heldNow, holdTree, letGo, snapshotWhenDue } from './held'
import { type LiveTree, NotAllowed, type Staged } from './live-tree'
import { editsById } from './log'
import { notesToCheck, whyNotNotes } from './note-check'
import { log } from '../log'
import { hasRoom } from '../work/disk'
import { editsRefused, editsStored } from '../metrics'

/*
 * The one way in for edits: it keeps their order. Edits wait by tree. Those of all trees that nobody is storing just now go
 * together: staged in memory, each checked at its number, then stored in one transaction that checks again, under the rows'
 * locks, that every tree stood where it was thought to stand and everybody has the role that was counted on. Only after the
 * commit are the answers given and the news told. When the check fails, memory is rolled back, the facts are read, and what
 * can be made is made. Trees that aren't in memory are loaded apart, so that nobody else waits for them.
 */

/** What became of an edit. `again`: it was in already, so nobody is told of it now. */
export interface Outcome {
  readonly news: NewsEdit
  readonly again: boolean
}

/** `deed`: the id names what is done, so that whoever does it once more, and however it looks by then, has done it already. */
type SourcedEdit = Edit & { readonly source?: EditSource | undefined; readonly deed?: true }

interface Ask {
  readonly treeId: string
  readonly principal: Principal
  readonly edit: SourcedEdit
  readonly settle: (outcome: Outcome | Error) => void
  /** Whether nothing in it has to be looked at in a thread any more. */
  sound: boolean
}

/** One tree's edits in the order in which they came. */
interface Line {
  readonly treeId: string
  asks: Ask[]
  state: 'idle' | 'preparing' | 'storing'
}

const lines = new Map<string, Line>()
let groups = 0
let closed = false
const idle: (() => void)[] = []

/** Groups that are stored at the same time, and edits and changes in one; more would keep the first ones waiting. */
const MOST_GROUPS = 3
const MOST_EDITS = 250
const MOST_CHANGES = 30_000
const TRIES = 6

/** Makes an edit for somebody. Resolves when it's committed; rejects with a `Fault` that says why not. */
export function submit(treeId: string, principal: Principal | string, edit: SourcedEdit): Promise<Outcome> {
  return new Promise((resolve, reject) => {
    if (closed) {
      reject(new Fault(503, 'stopping', 'Sun Porch is stopping. Your edit waits and will be sent again.'))
      return
    }
    if (!hasRoom()) {
      reject(diskFull())
      return
    }
    const line = lines.get(treeId) ?? { treeId, asks: [], state: 'idle' }
    lines.set(treeId, line)
    line.asks.push({
      treeId,
      principal: typeof principal === 'string' ? { kind: 'account', id: principal } : principal,
      edit,
      sound: false,
      settle: outcome => (outcome instanceof Error ? reject(outcome) : resolve(outcome)),
    })
    pumpSoon()
  })
}

let isPumpDue = false
/** Whatever else arrives in this turn of the event loop, from whichever line, comes along. */
function pumpSoon(): void {
  if (isPumpDue) return
  isPumpDue = true
  setImmediate(() => {
    isPumpDue = false
    pump()
  })
}

/** Lets no more edits in and waits for those in hand. */
export async function closeDoor(): Promise<void> {
  closed = true
  while (lines.size > 0) await new Promise<void>(done => idle.push(done))
}

/** Whether all that an edit needs is in memory: the tree, and the role of whoever makes it; and whether its notes are sound. */
function isReady(ask: Ask): boolean {
  const { treeId, principal, edit } = ask
  const live = heldNow(treeId)
  const account = accountOf(principal)
  // What is stored under the same id has to be read, to be compared.
  if (live?.has(edit.id)) return false
  ask.sound ||= live !== undefined && notesToCheck(live.tree, edit.changes).length === 0
  if (!ask.sound) return false
  return live !== undefined && (account === null || principal.kind === 'app' || live.roles.has(account))
}

function pump(): void {
  for (const line of lines.values()) {
    if (line.asks.length === 0 && line.state === 'idle') lines.delete(line.treeId)
    else if (line.state === 'idle' && !line.asks.every(isReady)) void prepare(line)
  }
  while (groups < MOST_GROUPS) {
    const group = nextGroup()
    if (group.length === 0) break
    groups++
    void store(group).finally(() => {
      groups--
      // What came last goes last: a tree with many edits doesn't keep others waiting.
      for (const { treeId } of group) {
        const line = lines.get(treeId)
        if (!line) continue
        line.state = 'idle'
        lines.delete(treeId)
        lines.set(treeId, line)
      }
      pump()
    })
  }
  if (lines.size === 0) for (const done of idle.splice(0)) done()
}

/** Reads what isn't in memory yet. */
async function prepare(line: Line): Promise<void> {
  line.state = 'preparing'
  const asks = [...line.asks]
  try {
    const left = new Set(await withSoundNotes(await sift(asks)))
    line.asks = line.asks.filter(ask => left.has(ask) || !asks.includes(ask))
  } catch (error) {
    line.asks = line.asks.filter(ask => !asks.includes(ask))
    for (const ask of asks) ask.settle(unavailable(error))
  }
  line.state = 'idle'
  pump()
}

/** Looks at the notes of edits; answers those whose notes can't be taken, and returns the rest. */
async function withSoundNotes(asks: readonly Ask[]): Promise<Ask[]> {
  const left: Ask[] = []
  for (const ask of asks) {
    const live = heldNow(ask.treeId)
    const notes = ask.sound || !live ? [] : notesToCheck(live.tree, ask.edit.changes)
    const fault = notes.length === 0 ? null : await whyNotNotes(notes, actorOf(ask.principal).id)
    if (fault) {
      ask.settle(fault)
      editsRefused.inc({ code: fault.code })
    } else {
      ask.sound ||= live !== undefined
      left.push(ask)
    }
  }
  return left
}

/** Edits that can be stored together: of trees that nobody is storing, as many as fit. */
function nextGroup(): Ask[] {
  const group: Ask[] = []
  let changes = 0
  for (const line of lines.values()) {
    if (line.state !== 'idle' || line.asks.length === 0) continue
    let count = 0
    while (count < line.asks.length && group.length + count < MOST_EDITS) {
      const ask = line.asks[count]!
      if (!isReady(ask)) break
      if (group.length + count > 0 && changes + ask.edit.changes.length > MOST_CHANGES) break
      changes += ask.edit.changes.length
      count++
    }
    if (count === 0) continue
    group.push(...line.asks.splice(0, count))
    line.state = 'storing'
    if (group.length >= MOST_EDITS) break
  }
  return group
}

/** What was thought to be so isn't: the facts must be read. */
class Stale extends Error {}

async function store(asks: readonly Ask[]): Promise<void> {
  let left = asks
  for (let attempt = 1; left.length > 0; attempt++) {
    const staged: Staged[] = []
    try {
      if (attempt > 1) left = await sift(left)
      const at = new Date()
      const settled = stage(left, staged, at)
      if (staged.length > 0 && !(await commit(staged, at))) throw new Stale()
      for (const live of treesOf(staged)) live.commit()
      for (const [ask, outcome] of settled) ask.settle(outcome)
      editsStored.inc(staged.length)
      for (const outcome of settled.values()) if (outcome instanceof Fault) editsRefused.inc({ code: outcome.code })
      tell(staged)
      return
    } catch (error) {
      for (const live of treesOf(staged)) live.rollBack()
      const again = error instanceof Stale || isPassing(error) || databaseErrorCode(error) === 'ER_DUP_ENTRY'
      if (again && attempt < TRIES) continue
      if (left.length > 1) {
        // One of them may be what the database chokes on; alone, each gets its own answer.
        for (const ask of left) await store([ask])
        return
      }
      left[0]!.settle(unavailable(error))
      return
    }
  }
}

function unavailable(error: unknown): Fault {
  log.error({ error }, 'an edit could not be stored')
  if (isDiskFull(error)) return diskFull()
  if (isUnstorable(error)) return unstorable()
  return new Fault(503, 'unavailable', 'The database doesn’t answer. Your edit is kept here and will be sent again.')
}

const treesOf = (staged: readonly Staged[]): Set<LiveTree> => new Set(staged.map(({ live }) => live))

/** Makes the edits in memory. Returns what to answer once they are stored; fills `staged` with what has to be stored. */
function stage(asks: readonly Ask[], staged: Staged[], at: Date): Map<Ask, Outcome | Error> {
  const answers = new Map<Ask, Outcome | Error>()
  for (const ask of asks) {
    const { treeId, principal, edit } = ask
    const live = heldNow(treeId)
    if (!live || !isReady(ask)) throw new Stale()
    const twin = live.stagedAs(edit.id)
    if (twin) {
      answers.set(ask, answerAgain(twin, ask))
      continue
    }
    try {
      const one = live.stage(principal, edit, at)
      staged.push(one)
      answers.set(ask, { news: one.news, again: false })
    } catch (error) {
      if (error instanceof NotAllowed)
        answers.set(ask, principal.kind === 'link' ? notByLink() : notAllowed(error.role))
      else if (error instanceof Refused) answers.set(ask, new Fault(409, error.code, error.message))
      else throw error
    }
  }
  return answers
}

/**
 * What to say of an edit whose id was used before: the same once more is acknowledged and made once; other changes, or
 * somebody else's, under the same id are refused.
 */
function answerAgain(stored: NewsEdit, { principal, edit }: Ask): Outcome | Fault {
  const { kind, id } = actorOf(principal)
  const same =
    edit.deed ??
    (stored.user === id &&
      (stored.actor ?? 'account') === kind &&
      // As JSON has it: what is left out and what is undefined are one.
      isDeepStrictEqual(JSON.parse(JSON.stringify(stored.changes)), JSON.parse(JSON.stringify(edit.changes))))
  return same
    ? { news: stored, again: true }
    : new Fault(409, 'edit-id', 'Another edit has this id already. Nothing was changed.')
}

function notAllowed(role: Role | null): Fault {
  return role === null
    ? new Fault(404, 'no-tree', 'There is no such tree, or you have no role in it any more.')
    : new Fault(403, 'role', `As ${role} you can’t change this tree.`)
}

const notByLink = (): Fault => new Fault(403, 'role', 'This link doesn’t let you do that.')
const noLink = (): Fault => new Fault(404, 'no-link', 'This link was withdrawn, or its time is over.')

/** Which of these links still let a tree be edited. */
async function standing(asks: readonly Ask[]): Promise<ReadonlySet<string>> {
  const ids = [...new Set(asks.flatMap(({ principal }) => (principal.kind === 'link' ? principal.link : [])))]
  if (ids.length === 0) return new Set()
  const rows = await database()
    .select({ id: guestLinks.id, tree: guestLinks.treeId })
    .from(guestLinks)
    .where(
      and(
        inArray(guestLinks.id, ids),
        eq(guestLinks.may, 'edit'),
        or(isNull(guestLinks.until), gt(guestLinks.until, new Date())),
      ),
    )
  return new Set(rows.map(({ id, tree }) => `${tree}/${id}`))
}

interface Facts {
  id: string
  version: number
  epoch: string
  trashed_at: Date | null
  user_id: string | null
  role: Role | null
}

/**
 * Reads the facts: answers those who have no business here and what is in already, brings the trees up to date, and returns
 * the rest.
 */
async function sift(asks: readonly Ask[]): Promise<Ask[]> {
  const treeIds = [...new Set(asks.map(ask => ask.treeId))].sort()
  const accounts = [...new Set(asks.map(ask => accountOf(ask.principal) ?? ''))]
  const [facts] = (await database()
    .execute(sql`select t.id, t.version, t.epoch, t.trashed_at, m.user_id, m.role from trees t
    left join members m on m.tree_id = t.id and m.user_id in ${accounts} where t.id in ${treeIds}`)) as unknown as [
    Facts[],
  ]
  const known = await editsById(
    treeIds,
    asks.map(ask => ask.edit.id),
  )
  const links = await standing(asks)
  const left: Ask[] = []
  for (const ask of asks) {
    const { treeId, principal, edit } = ask
    const [fact, ...more] = facts.filter(row => row.id === treeId)
    const account = accountOf(principal)
    const role = [fact, ...more].find(row => row && row.user_id === account)?.role ?? null
    const stored = known.find(one => one.tree === treeId && one.id === edit.id)
    if (!fact || (account !== null && principal.kind !== 'app' && role === null)) ask.settle(notAllowed(null))
    else if (principal.kind === 'link' && !links.has(`${treeId}/${principal.link}`)) ask.settle(noLink())
    else if (fact.trashed_at)
      ask.settle(new Fault(409, 'trashed', 'This tree is in the trash. Bring it back to edit it.'))
    else if (stored) ask.settle(answerAgain(stored, ask))
    else {
      // It was thought to be stored, and isn't: what's in memory can't be trusted.
      if (heldNow(treeId)?.has(edit.id)) letGo(treeId)
      await bringUp(fact)
      const live = heldNow(treeId)
      if (!live) {
        // Else it would be asked for again and again.
        ask.settle(unavailable(new Error(`tree ${treeId} has no snapshot`)))
        continue
      }
      if (account !== null) live.roles.set(account, role)
      left.push(ask)
    }
  }
  return left
}

async function bringUp({ id, version, epoch }: Facts): Promise<void> {
  if (heldNow(id)?.epoch !== epoch) letGo(id)
  if (heldNow(id)?.version === version) return
  if (!(await holdTree(database(), id, version))) letGo(id)
}

function tell(staged: readonly Staged[]): void {
  const told = new Map<LiveTree, NewsEdit[]>()
  for (const { live, news } of staged) {
    const list = told.get(live)
    if (list) list.push(news)
    else told.set(live, [news])
  }
  for (const [live, edits] of told) {
    bus.tell({ about: 'edits', tree: live.id, edits })
    snapshotWhenDue(live).catch((error: unknown) => log.error({ error }, 'a snapshot could not be stored'))
  }
}

/** An edit id for edits that the server itself makes for a person. */
export const newEditId = (): string => nanoid(16)
