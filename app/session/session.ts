import type { NewsEdit, Present, Role, ServerMessage } from '#core/contract'
import type { Saying } from '#core/talk/saying'
import { may } from '#core/access/may'
import { allows } from '#core/access/roles'
import {
  type Change,
  type Replica,
  toSnapshot,
  type TopicId,
  type Tree,
  type Waiting,
  withBranchHues,
  withSplits,
} from '#core/tree'
import type { SentTree } from './offline'
import { dial, Line } from './line'
import { isSignedOut, whyRefused } from './refused'
import type { LineState, SessionEvents, TreePerson } from './events'
import { OfflineCopy, titleOf } from './offline-copy'
import { ServerClock } from './server-clock'
import { Sync } from './sync'
import { type Turned, UndoRecord } from './undo-record'
import { weightInWords } from './words'

export type { LineState, SessionEvents, TreePerson } from './events'
export type { Turned } from './undo-record'

/** How long a tree that was left still sends what waits. */
const LEAVING_MS = 60_000

const NOTHING_TURNED: Turned = { topics: [], stays: [] }
/** Whoever may set this may change everything of the tree. */
const ANYTHING: Change = { op: 'tree', field: 'description', value: '' }

/** One open tree in this browser: who is here, and line, copy, way back and offline copy put together. */
export class TreeSession {
  role: Role = 'viewer'
  /** An edit that the server made for one just before this tree was opened: undo takes it back too. */
  arrivedWith: number | null = null
  people: readonly TreePerson[] = []
  present = new Map<string, Present>()
  state: LineState = 'opening'
  goneWhy = ''
  /** Bytes that one file may have. */
  fileLimit = 25 * 1024 * 1024
  /** The number up to which one had seen the tree when it was opened; null where that isn't known. */
  seenBefore: number | null = null
  lastChange: { user: string; at: string } | null = null
  readonly undoRecord: UndoRecord
  /** While somebody looks on, no branch changes its side by itself. */
  holdsSides = false
  protected readonly sync: Sync
  private readonly line: Line
  private readonly clock = new ServerClock()
  private readonly copy: OfflineCopy
  /** What was last shown to others; said again on each new line. */
  private shown = ''
  /** Whether one has left and nothing waits any more. */
  private isLeft = (): boolean => false
  private leaving: ReturnType<typeof setTimeout> | undefined

  constructor(
    readonly treeId: string,
    private readonly userId: string,
    private readonly events: SessionEvents,
  ) {
    this.copy = new OfflineCopy(treeId, userId, () => ({
      version: this.replica.version,
      role: this.role,
      people: this.people.map(({ id, name }) => ({ id, name })),
      snapshot: this.replica.confirmed(toSnapshot),
      ...(this.sync.currentEpoch === undefined ? {} : { epoch: this.sync.currentEpoch }),
    }))
    this.sync = new Sync(userId, {
      send: message => this.line.send(message),
      keep: edit =>
        void this.copy
          .keepEdit(edit)
          .catch(() => events.said('This browser can’t keep edits while offline. Stay online, or make room for it.')),
      drop: ids => this.copy.dropEdits(ids),
      touched: ids => {
        this.copy.touch()
        events.touched(ids)
      },
      replaced: because => {
        this.undoRecord.clear()
        this.copy.touch()
        events.replaced()
        if (because !== null) events.said(because)
      },
      news: edits => this.hearNews(edits),
      caughtUp: () => this.caughtUp(),
      said: events.said,
      again: () => void setTimeout(this.line.drop, 1000),
    })
    this.undoRecord = new UndoRecord(
      () => this.tree,
      changes => this.put(changes),
    )
    this.line = new Line(() => dial(treeId, userId), {
      opened: () => this.sync.hello(),
      heard: message => this.hear(message),
      lost: refused => this.lost(refused),
      beat: () => this.ping(),
    })
  }

  get replica(): Replica {
    return this.sync.replica
  }

  get tree(): Tree {
    return this.sync.tree
  }

  get canEdit(): boolean {
    return this.state !== 'gone' && may({ kind: 'account', id: this.userId }, this.role, ANYTHING, this.tree)
  }

  /** Loads the tree, from the server or else from what this browser kept, puts waiting edits on, and connects. */
  async open(): Promise<void> {
    let sent: SentTree
    try {
      const text = await callApi<string>(`/api/trees/${this.treeId}`, { responseType: 'text' })
      sent = JSON.parse(text) as SentTree
      if (sent.fileLimit) this.fileLimit = sent.fileLimit
      this.seenBefore = sent.seen ?? null
      const title = titleOf(sent)
      requestIdleCallback(() => void this.copy.keepText(text, title), { timeout: 10_000 })
    } catch (error) {
      if (error instanceof ApiError && error.status >= 400 && error.status < 500) throw error
      const kept = await this.copy.kept()
      if (!kept) throw error
      sent = kept
      this.state = 'offline'
    }
    this.role = sent.role
    this.people = sent.people
    this.sync.open(sent.snapshot, sent.version, sent.epoch, await this.copy.waiting())
    this.line.begin()
    this.copy.begin()
    window.addEventListener('online', this.line.hurry)
    window.addEventListener('offline', this.line.drop)
    document.addEventListener('visibilitychange', this.onVisibility)
  }

  /**
   * Leaves the tree. What the server hasn't acknowledged still goes out: until then, and for a minute at most, the line stays.
   * `waiting`: how many messages still wait.
   */
  close(waiting: () => number = () => this.waitingCount): void {
    this.isLeft = () => waiting() === 0 || this.state === 'gone'
    if (this.isLeft()) this.end()
    else this.leaving = setTimeout(() => this.end(), LEAVING_MS)
  }

  private end(): void {
    this.isLeft = () => false
    clearTimeout(this.leaving)
    window.removeEventListener('online', this.line.hurry)
    window.removeEventListener('offline', this.line.drop)
    document.removeEventListener('visibilitychange', this.onVisibility)
    this.line.end()
    if (this.replica) this.copy.end()
  }

  private readonly onVisibility = (): void => {
    if (document.visibilityState === 'hidden') void this.copy.keep()
    else this.line.hurry()
  }

  /** The server's clock, as far as this browser can tell: ms since 1970 UTC. */
  serverNow(): number {
    return this.clock.time
  }

  private ping(): void {
    this.clock.ask()
    this.line.send({ type: 'ping' })
  }

  private hear(message: ServerMessage): void {
    switch (message.type) {
      case 'welcome':
        this.role = message.role
        this.clock.begin(message.at)
        this.ping()
        this.present = new Map(message.present.map(person => [person.client, person]))
        break
      case 'presence':
        this.present.set(message.present.client, message.present)
        break
      case 'look':
        this.events.look(message.by, message.topic)
        break
      case 'left':
        this.present.delete(message.client)
        break
      case 'role':
        this.role = message.role
        this.events.said(`You are ${message.role} of this tree now.`)
        break
      case 'people':
        this.people = message.people
        break
      case 'weight':
        this.events.said(weightInWords(message.bytes, message.most))
        break
      case 'gone':
        // Whoever signs in again goes on where they were: what they do meanwhile waits, as without a line.
        if (message.code === 'signed-out') return isSignedOut(this.line)
        this.state = 'gone'
        this.goneWhy = message.message
        this.present.clear()
        this.sync.lost()
        this.line.end()
        break
      case 'elsewhere':
        this.events.elsewhere(message.tree)
        return
      case 'votes':
        this.events.votes()
        return
      case 'told':
      case 'read':
        window.dispatchEvent(new Event(message.type))
        return
      case 'pong':
        this.clock.answer(message.at)
        return
      case 'said':
      case 'unsaid':
        this.events.talk(message)
        if (this.isLeft()) this.end()
        return
    }
    this.sync.hear(message)
    if (message.type === 'welcome') this.events.talk(message)
    this.events.status()
    if (this.isLeft()) this.end()
  }

  private hearNews(edits: readonly NewsEdit[]): void {
    const last = edits.at(-1)
    if (last) this.lastChange = { user: last.behalf ?? last.user, at: last.at }
    this.undoRecord.hear(edits, this.userId)
    this.events.news(edits)
  }

  private caughtUp(): void {
    this.state = 'live'
    this.line.settle()
    if (this.shown) this.line.send(this.shown)
    this.events.caughtUp()
  }

  private lost(refused: boolean): void {
    if (refused && navigator.onLine)
      void whyRefused(this.treeId, this.userId).then(gone => gone && this.state === 'offline' && this.hear(gone))
    this.sync.lost()
    this.present.clear()
    this.state = 'offline'
    this.events.status()
  }

  /**
   * Makes one edit: at once here, then for everybody. `silent` keeps it out of undo.
   * Returns false when it can't be made, after saying why.
   */
  make(wanted: readonly Change[], how: { silent?: boolean } = {}): boolean {
    const changes = this.authored(wanted)
    if (changes.length === 0) return false
    const item = this.put(changes)
    if (item && !how.silent) this.undoRecord.add(item)
    return item !== null
  }

  /** What goes along with changes that somebody makes here: colours of new main branches, sides that stay even. */
  private authored(changes: readonly Change[]): readonly Change[] {
    const coloured = withBranchHues(this.tree, changes)
    return this.holdsSides ? coloured : withSplits(this.tree, coloured)
  }

  private put(changes: readonly Change[]): Waiting | null {
    const item = this.canEdit ? this.sync.put(changes) : null
    if (item) this.events.status()
    return item
  }

  /** Makes an edit that nobody hears of yet (see `Sync.hold`). */
  hold(changes: readonly Change[]): boolean {
    return this.sync.hold(this.authored(changes))
  }

  /** Adds to what is held, which stays held. */
  holdMore(changes: readonly Change[]): boolean {
    return this.sync.hold([...this.sync.heldChanges, ...changes])
  }

  /** Makes what was held for good, with what has been typed since, as one edit. */
  release(changes: readonly Change[]): boolean {
    const whole = [...this.sync.heldChanges, ...changes]
    const touched = this.sync.dropHeld()
    const made = this.make(whole)
    this.events.touched(touched)
    return made
  }

  /** Takes back what was held. */
  letGo(): void {
    this.events.touched(this.sync.dropHeld())
  }

  /** Edits that the server hasn't acknowledged. */
  get waitingCount(): number {
    return this.sync.waitingCount
  }

  get canUndo(): boolean {
    return this.undoRecord.canUndo || this.arrivedWith !== null
  }

  get canRedo(): boolean {
    return this.undoRecord.canRedo
  }

  /** The number of an edit of one's own that the server made and that one came here with, while nothing else was made since. */
  takeArrived(): number | null {
    if (this.undoRecord.canUndo || !this.canEdit) return null
    const number = this.arrivedWith
    this.arrivedWith = null
    return number
  }

  /** The last thing that one made here, to be taken back by itself. */
  get lastMade(): Waiting | null {
    return this.undoRecord.last
  }

  undo(): Turned {
    return this.canEdit ? this.undoRecord.undo() : NOTHING_TURNED
  }

  redo(): Turned {
    return this.canEdit ? this.undoRecord.redo() : NOTHING_TURNED
  }

  canTakeBack(item: Waiting): boolean {
    return this.canEdit && this.undoRecord.canTakeBack(item)
  }

  takeBack(item: Waiting): Turned {
    return this.canEdit ? this.undoRecord.takeBack(item) : NOTHING_TURNED
  }

  /** Changes that redo makes next: what was dropped while typing. */
  offerRedo(changes: readonly Change[]): void {
    this.undoRecord.offer(changes)
    this.events.status()
  }

  /** Tells the others what is selected here, and whether it's presented. */
  showPresence(selected: readonly TopicId[], typing: TopicId | null, presents: boolean): void {
    this.shown = JSON.stringify({ type: 'presence', selected: selected.slice(0, 50), typing, presents })
    if (this.sync.isLive) this.line.send(this.shown)
  }

  /** Asks all who are here to look at a topic. False when no line stands. */
  askToLook(topic: TopicId): boolean {
    if (this.sync.isLive) this.line.send({ type: 'look', topic })
    return this.sync.isLive
  }

  /** Says something in the tree's talk. False when no line stands. */
  say(saying: Saying): boolean {
    if (this.sync.isLive) this.line.send({ type: 'say', saying })
    return this.sync.isLive
  }

  /** The tree's epoch as the server said it last. */
  get epoch(): string | undefined {
    return this.sync.currentEpoch
  }

  get canComment(): boolean {
    return this.state !== 'gone' && this.state !== 'then' && allows(this.role, 'commenter')
  }

  /** Asks to hear of changes in other trees. */
  watchTrees(trees: readonly string[]): void {
    if (this.sync.isLive && trees.length > 0) this.line.send({ type: 'watch', trees: trees.slice(0, 100) })
  }

  async refreshPeople(): Promise<void> {
    this.people = await callApi<TreePerson[]>(`/api/trees/${this.treeId}/members`)
    this.events.status()
  }
}
