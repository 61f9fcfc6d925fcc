import { nanoid } from 'nanoid'
import { editInWords } from '#core/compare/edit-words'
import { allows, type NewsEdit, type Present, type Role, type ServerMessage } from '#core/contract'
import {
  type Change,
  fromSnapshot,
  invertOver,
  isTreeChange,
  LIMITS,
  Refused,
  Replica,
  type Snapshot,
  type Stays,
  toSnapshot,
  type Touched,
  type Tree,
  type TopicId,
  type Waiting,
} from '#core/tree'
import { dropWaiting, keepTree, keepWaiting, keptTree, type SentTree, waitingEdits } from './offline'

export interface TreePerson {
  readonly id: string
  readonly name: string
  readonly email?: string
  readonly role?: Role
}

/** 'live': the line stands and all is told. 'offline': no line; edits wait. 'gone': one may not be here any more. */
export type LineState = 'opening' | 'live' | 'offline' | 'gone'

export interface SessionEvents {
  touched(ids: Touched): void
  /** Another tree object took the old one's place. */
  replaced(): void
  /** The line, the role, the people here or the count of waiting edits changed. */
  status(): void
  /** Something the person should know, in words. */
  said(message: string): void
  /** What others, or oneself, did and the server has stored. */
  news(edits: readonly NewsEdit[]): void
  /** Another tree that this one refers to has changed. */
  elsewhere(tree: string): void
  /** A line stands and everything missed is in. */
  caughtUp(): void
}

const FIRST_RETRY_MS = 500
const LONGEST_RETRY_MS = 15_000
const PING_MS = 15_000
/** A line that says nothing for this long is taken for dead. */
const SILENCE_MS = 40_000
/** How often the tree is kept for opening it offline; waiting edits are kept at once. */
const KEEP_MS = 45_000

/** What undo or redo turns: an edit whose inverse is made, or changes that are made as they are. */
type Turnable = Waiting | { readonly redo: readonly Change[] }
/** What came of an undo or redo. */
export interface Turned {
  readonly topics: readonly TopicId[]
  readonly stays: readonly Stays[]
}
const NOTHING_TURNED: Turned = { topics: [], stays: [] }

/** One open tree in this browser: its copy, its line to the server, what waits, and the way back. */
export class TreeSession {
  replica!: Replica
  role: Role = 'viewer'
  people: readonly TreePerson[] = []
  present = new Map<string, Present>()
  state: LineState = 'opening'
  goneWhy = ''
  /** Bytes that one file may have. */
  fileLimit = 25 * 1024 * 1024
  lastChange: { user: string; at: string } | null = null
  /** What was last shown to others; said again on each new line. */
  private shown = ''
  private socket: WebSocket | null = null
  private target = 0
  private caughtUp = false
  private retry = FIRST_RETRY_MS
  private retryTimer = 0
  private pingTimer = 0
  private heardAt = 0
  private closed = false
  private undone: Turnable[] = []
  private made: Turnable[] = []
  /** Topics that others have put work into while this tree was open here. */
  private readonly foreign = new Set<TopicId>()
  private held: Waiting | null = null
  private changedSinceKept = false
  private keepTimer = 0

  constructor(
    readonly treeId: string,
    private readonly userId: string,
    private readonly events: SessionEvents,
  ) {}

  get tree(): Tree {
    return this.replica.tree
  }

  get canEdit(): boolean {
    return this.state !== 'gone' && allows(this.role, 'editor')
  }

  /** Loads the tree, from the server or else from what this browser kept, puts waiting edits on, and connects. */
  async open(): Promise<void> {
    try {
      const text = await callApi<string>(`/api/trees/${this.treeId}`, { responseType: 'text' })
      const got = JSON.parse(text) as SentTree
      this.replica = new Replica(fromSnapshot(got.snapshot), got.version)
      this.role = got.role
      this.people = got.people
      if (got.fileLimit) this.fileLimit = got.fileLimit
      requestIdleCallback(
        () =>
          void keepTree(this.treeId, this.userId, text).catch(() => {
            /* see keep() */
          }),
        { timeout: 10_000 },
      )
    } catch (error) {
      if (error instanceof ApiError && error.status >= 400 && error.status < 500) throw error
      const kept = await keptTree(this.treeId, this.userId).catch(() => undefined)
      if (!kept) throw error
      this.replica = new Replica(fromSnapshot(kept.snapshot), kept.version)
      this.role = kept.role
      this.people = kept.people
      this.state = 'offline'
    }
    for (const edit of await waitingEdits(this.treeId, this.userId).catch(() => [])) this.replica.takeUp(edit)
    this.connect()
    this.pingTimer = window.setInterval(() => this.beat(), PING_MS)
    this.keepTimer = window.setInterval(() => requestIdleCallback(() => void this.keep(), { timeout: 20_000 }), KEEP_MS)
    window.addEventListener('online', this.hurry)
    window.addEventListener('offline', this.dropLine)
    document.addEventListener('visibilitychange', this.onVisibility)
  }

  close(): void {
    this.closed = true
    clearInterval(this.pingTimer)
    clearInterval(this.keepTimer)
    clearTimeout(this.retryTimer)
    window.removeEventListener('online', this.hurry)
    window.removeEventListener('offline', this.dropLine)
    document.removeEventListener('visibilitychange', this.onVisibility)
    this.socket?.close()
    void this.keep()
  }

  private readonly onVisibility = (): void => {
    if (document.visibilityState === 'hidden') void this.keep()
    else this.hurry()
  }

  private readonly hurry = (): void => {
    this.retry = FIRST_RETRY_MS
    if (!this.socket) this.connect()
  }

  private readonly dropLine = (): void => {
    this.socket?.close()
  }

  /** Keeps the tree as the server has it, so that it opens without a line. */
  private async keep(): Promise<void> {
    if (!this.changedSinceKept || !this.replica) return
    this.changedSinceKept = false
    const sent: SentTree = {
      version: this.replica.version,
      role: this.role,
      people: this.people.map(({ id, name }) => ({ id, name })),
      snapshot: this.replica.confirmed(toSnapshot),
    }
    await keepTree(this.treeId, this.userId, JSON.stringify(sent)).catch(() => {
      /* a full or private store: the tree just won't open offline */
    })
  }

  private connect(): void {
    if (this.closed || this.state === 'gone') return
    clearTimeout(this.retryTimer)
    const socket = new WebSocket(`${location.origin.replace(/^http/, 'ws')}/api/trees/${this.treeId}/live`)
    this.socket = socket
    socket.onopen = () => {
      this.heardAt = Date.now()
      socket.send(JSON.stringify({ type: 'hello', since: this.replica.version }))
    }
    socket.onmessage = event => {
      this.heardAt = Date.now()
      if (socket === this.socket) this.hear(JSON.parse(event.data as string) as ServerMessage)
    }
    socket.onclose = () => {
      if (socket !== this.socket) return
      this.socket = null
      this.caughtUp = false
      this.present.clear()
      if (this.closed || this.state === 'gone') return
      this.state = 'offline'
      this.events.status()
      // Many browsers come back after a restart; they shouldn't all knock at once.
      this.retryTimer = window.setTimeout(() => this.connect(), this.retry * (0.5 + Math.random()))
      this.retry = Math.min(LONGEST_RETRY_MS, this.retry * 2)
    }
  }

  private offBy = 0
  private quickest = Infinity
  private pinged = 0

  /**
   * The server's clock, as far as this browser can tell: ms since 1970 UTC. Off by half the quickest round trip at
   * most.
   */
  serverNow(): number {
    return Math.round(Date.now() + this.offBy)
  }

  /** Takes the server's word for what time it is. `trip`: ms between asking and hearing. */
  private setClock(at: number, trip: number): void {
    if (trip > this.quickest) return
    this.quickest = trip
    this.offBy = at + trip / 2 - Date.now()
  }

  private ping(): void {
    this.pinged = performance.now()
    this.socket?.send(JSON.stringify({ type: 'ping' }))
  }

  private beat(): void {
    if (this.socket?.readyState !== WebSocket.OPEN) return
    if (Date.now() - this.heardAt > SILENCE_MS) this.socket.close()
    else this.ping()
  }

  private hear(message: ServerMessage): void {
    switch (message.type) {
      case 'welcome':
        this.role = message.role
        this.target = message.version
        // Until the first round trip has been timed, the welcome's own word has to do.
        if (this.quickest === Infinity) this.offBy = message.at - Date.now()
        this.quickest = Infinity
        this.ping()
        this.present = new Map(message.present.map(person => [person.client, person]))
        this.catchUp()
        break
      case 'tree':
        this.replace(message.snapshot, message.version)
        this.catchUp()
        break
      case 'news': {
        const touched = this.replica.receive(message.edits)
        if (touched === false) {
          this.socket?.send(JSON.stringify({ type: 'hello', since: this.replica.version }))
          return
        }
        void dropWaiting(
          this.treeId,
          this.userId,
          new Set(message.edits.filter(edit => edit.user === this.userId).map(edit => edit.id)),
        ).catch(() => {})
        const last = message.edits.at(-1)
        if (last) this.lastChange = { user: last.user, at: last.at }
        for (const edit of message.edits)
          if (edit.user !== this.userId)
            for (const change of edit.changes)
              if (!isTreeChange(change) && change.op !== 'remove') this.foreign.add(change.topic)
        this.changedSinceKept = true
        this.events.touched(touched)
        this.events.news(message.edits)
        this.catchUp()
        break
      }
      case 'refused':
        if (message.edit && !['slowed', 'unavailable', 'stopping'].includes(message.code)) {
          const refused = this.replica.waiting.find(item => item.edit.id === message.edit)
          const what = refused ? editInWords(this.tree, refused.edit.changes) : ''
          this.events.touched(this.replica.drop(message.edit))
          void dropWaiting(this.treeId, this.userId, new Set([message.edit])).catch(() => {})
          this.events.said(what ? `Not kept: ${what}. ${message.message}` : message.message)
        } else if (message.edit) window.setTimeout(() => this.socket?.close(), 1000)
        else this.events.said(message.message)
        break
      case 'presence':
        this.present.set(message.present.client, message.present)
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
      case 'gone':
        this.state = 'gone'
        this.goneWhy = message.message
        break
      case 'elsewhere':
        this.events.elsewhere(message.tree)
        return
      case 'pong':
        this.setClock(message.at, performance.now() - this.pinged)
        return
    }
    this.events.status()
  }

  /** Once everything missed is in, sends what waits, in order. */
  private catchUp(): void {
    if (this.caughtUp || this.replica.version < this.target) return
    this.caughtUp = true
    this.state = 'live'
    this.retry = FIRST_RETRY_MS
    if (this.shown) this.socket?.send(this.shown)
    this.events.caughtUp()
    for (const item of this.replica.waiting)
      if (item !== this.held) this.socket?.send(JSON.stringify({ type: 'edit', edit: item.edit }))
  }

  private replace(snapshot: Snapshot, version: number): void {
    const waiting = this.replica.waiting.filter(item => item !== this.held).map(item => item.edit)
    this.held = null
    this.replica = new Replica(fromSnapshot(snapshot), version)
    for (const edit of waiting) this.replica.takeUp(edit)
    this.made = []
    this.undone = []
    this.changedSinceKept = true
    this.events.replaced()
  }

  /**
   * Makes one edit: at once here, then for everybody. `silent` keeps it out of undo.
   * Returns false when it can't be made, after saying why.
   */
  make(changes: readonly Change[], how: { silent?: boolean } = {}): boolean {
    if (changes.length === 0 || !this.canEdit) return false
    const item = this.put(changes)
    if (!item) return false
    if (!how.silent) {
      this.made.push(item)
      this.undone = []
    }
    return true
  }

  /**
   * Makes an edit that nobody hears of yet: a topic whose title is still being typed. Until it is released it's neither
   * sent nor kept; dropped, it leaves no trace. Held again, it takes the place of the one before.
   */
  hold(changes: readonly Change[]): boolean {
    const touched = new Set(this.dropHeld())
    const edit = { id: nanoid(16), changes }
    try {
      const made = this.replica.make(edit)
      this.held = made.item
      for (const id of made.touched) touched.add(id)
    } catch (error) {
      if (!(error instanceof Refused)) throw error
      this.events.said(error.message)
    }
    this.events.touched(touched)
    return this.held !== null
  }

  /** Adds to what is held, which stays held. */
  holdMore(changes: readonly Change[]): boolean {
    return this.hold([...(this.held?.edit.changes ?? []), ...changes])
  }

  /** Makes what was held for good, with what has been typed since, as one edit. */
  release(changes: readonly Change[]): boolean {
    const whole = [...(this.held?.edit.changes ?? []), ...changes]
    const touched = this.dropHeld()
    const made = this.make(whole)
    this.events.touched(touched)
    return made
  }

  /** Takes back what was held. */
  letGo(): void {
    this.events.touched(this.dropHeld())
  }

  private dropHeld(): Touched {
    const held = this.held
    this.held = null
    return held ? this.replica.drop(held.edit.id) : new Set()
  }

  private put(changes: readonly Change[]): Waiting | null {
    const edit = { id: nanoid(16), changes }
    const message = JSON.stringify({ type: 'edit', edit })
    // Said here, since the server can't even read whose edit it is when a message is too long.
    if (message.length * 3 > LIMITS.message && new Blob([message]).size > LIMITS.message) {
      this.events.said('That is more than fits in one step (2 MB). Do it in parts; nothing was changed.')
      return null
    }
    try {
      const { item, touched } = this.replica.make(edit)
      void keepWaiting(this.treeId, this.userId, edit).catch(() =>
        this.events.said('This browser can’t keep edits while offline. Stay online, or make room for it.'),
      )
      if (this.caughtUp) this.socket?.send(message)
      this.changedSinceKept = true
      this.events.touched(touched)
      this.events.status()
      return item
    } catch (error) {
      if (!(error instanceof Refused)) throw error
      this.events.said(error.message)
      return null
    }
  }

  /** Edits that the server hasn't acknowledged. */
  get waitingCount(): number {
    return this.replica ? this.replica.waiting.length - (this.held ? 1 : 0) : 0
  }

  get canUndo(): boolean {
    return this.made.length > 0
  }

  get canRedo(): boolean {
    return this.undone.length > 0
  }

  /** The last thing that one made here, to be taken back by itself. */
  get lastMade(): Waiting | null {
    const last = this.made.at(-1)
    return last && 'edit' in last ? last : null
  }

  /** Takes back one's own last action, as far as nobody has worked on since. */
  undo(): Turned {
    return this.turn(this.made, this.undone)
  }

  redo(): Turned {
    return this.turn(this.undone, this.made)
  }

  /** Whether this very action can still be taken back. */
  canTakeBack(item: Waiting): boolean {
    return (
      this.canEdit &&
      this.made.includes(item) &&
      item.patches !== null &&
      invertOver(this.tree, item.edit.changes, item.patches, this.isForeign).changes.length > 0
    )
  }

  /** Takes back this very action, over whatever has been done since. */
  takeBack(item: Waiting): Turned {
    const at = this.made.indexOf(item)
    if (at < 0) return NOTHING_TURNED
    const [taken] = this.made.splice(at, 1)
    return this.turn([taken!], this.undone)
  }

  /** Changes that redo makes next: what was dropped while typing. */
  offerRedo(changes: readonly Change[]): void {
    if (changes.length === 0) return
    this.undone.push({ redo: changes })
    this.events.status()
  }

  private readonly isForeign = (id: TopicId): boolean => this.foreign.has(id)

  private turn(from: Turnable[], to: Turnable[]): Turned {
    while (from.length > 0 && this.canEdit) {
      const item = from.pop()!
      if ('redo' in item ? false : !item.patches) continue
      const { changes, stays } =
        'redo' in item
          ? { changes: item.redo, stays: [] }
          : invertOver(this.tree, item.edit.changes, item.patches!, this.isForeign)
      const made = changes.length > 0 ? this.put(changes) : null
      if (made) to.push(made)
      // What stays is said; going on to the step before would take back what nobody asked for.
      else if (stays.length === 0) continue
      return { topics: changes.flatMap(change => (isTreeChange(change) ? [] : [change.topic])), stays }
    }
    return NOTHING_TURNED
  }

  /** Tells the others what is selected here. */
  showPresence(selected: readonly TopicId[], typing: TopicId | null): void {
    this.shown = JSON.stringify({ type: 'presence', selected: selected.slice(0, 50), typing })
    if (this.caughtUp) this.socket?.send(this.shown)
  }

  /** Asks to hear of changes in other trees. */
  watchTrees(trees: readonly string[]): void {
    if (this.caughtUp && trees.length > 0)
      this.socket?.send(JSON.stringify({ type: 'watch', trees: trees.slice(0, 100) }))
  }

  async refreshPeople(): Promise<void> {
    this.people = await callApi<TreePerson[]>(`/api/trees/${this.treeId}/members`)
    this.events.status()
  }
}
