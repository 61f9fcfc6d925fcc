import { nanoid } from 'nanoid'
import { editInWords } from '#core/compare/edit-words'
import type { ClientMessage, NewsEdit, ServerMessage } from '#core/contract'
import {
  type Change,
  type Edit,
  EDIT_FORMAT,
  fromSnapshot,
  LIMITS,
  Refused,
  Replica,
  type Snapshot,
  type Touched,
  type Tree,
  type Waiting,
} from '#core/tree'

/** Refusals that pass: the edit is kept and sent again. */
const PASSING = ['slowed', 'unavailable', 'stopping', 'disk-full']

export interface SyncEvents {
  send(message: ClientMessage | string): void
  /** An edit of one's own that must outlive the tab. */
  keep(edit: Edit): void
  /** Edits that are stored, or were refused for good. Settles when they wouldn't come back with the next opening; nothing where that's at once. */
  drop(ids: ReadonlySet<string>): Promise<void> | void
  touched(ids: Touched): void
  /** Another tree object took the old one's place. `because` says why, where it needs saying. */
  replaced(because: string | null): void
  news(edits: readonly NewsEdit[]): void
  /** Everything missed is in. */
  caughtUp(): void
  said(message: string): void
  /** The line is to be dropped and taken up again. */
  again(): void
}

/** One copy of a tree and how it's kept the same as the server's: what is known, what waits, what is held. */
export class Sync {
  replica!: Replica
  private epoch: string | undefined
  private target = 0
  private isCaughtUp = false
  private held: Waiting | null = null
  private replacing: string | null = null

  constructor(
    private readonly userId: string,
    private readonly events: SyncEvents,
  ) {}

  get tree(): Tree {
    return this.replica.tree
  }

  /** The tree as it was fetched or kept. `epoch`: as the server said it then. */
  open(snapshot: Snapshot, version: number, epoch: string | undefined, waiting: readonly Edit[]): void {
    this.replica = new Replica(fromSnapshot(snapshot), version)
    this.epoch = epoch
    for (const edit of waiting) this.replica.takeUp(edit)
  }

  get currentEpoch(): string | undefined {
    return this.epoch
  }

  /** The first word on a new line. */
  hello(): void {
    this.events.send({
      type: 'hello',
      since: this.replica.version,
      ...(this.epoch === undefined ? {} : { epoch: this.epoch }),
    })
  }

  /** The line is gone: edits wait from now on. */
  lost(): void {
    this.isCaughtUp = false
  }

  get isLive(): boolean {
    return this.isCaughtUp
  }

  hear(message: ServerMessage): void {
    switch (message.type) {
      case 'welcome':
        this.target = message.version
        // A browser that waited through a restore must not go on from numbers that mean other edits now.
        if (this.epoch !== undefined && this.epoch !== message.epoch) {
          this.replacing =
            'This tree was restored from a backup, or a text was taken out of it for good. What you did and wasn’t stored yet has been put on again.'
          this.target = Infinity
        }
        this.epoch = message.epoch
        this.catchUp()
        break
      case 'tree':
        this.replace(message.snapshot, message.version)
        this.target = Math.min(this.target, message.version)
        this.catchUp()
        break
      case 'news':
        this.receive(message.edits)
        break
      case 'refused':
        this.refused(message.edit, message.code, message.message)
    }
  }

  private receive(edits: readonly NewsEdit[]): void {
    // Until the tree has been sent anew, numbers mean nothing.
    if (this.replacing !== null) return
    const touched = this.replica.receive(edits)
    if (touched === false) {
      this.hello()
      return
    }
    this.events.drop(new Set(edits.filter(edit => edit.user === this.userId).map(edit => edit.id)))
    this.events.touched(touched)
    this.events.news(edits)
    this.catchUp()
  }

  private refused(editId: string | null, code: string, message: string): void {
    if (editId === null) this.events.said(message)
    else if (PASSING.includes(code)) this.events.again()
    else {
      const refused = this.replica.waiting.find(item => item.edit.id === editId)
      const what = refused ? editInWords(this.tree, refused.edit.changes) : ''
      this.events.touched(this.replica.drop(editId))
      const say = (): void => this.events.said(what ? `Not kept: ${what}. ${message}` : message)
      const dropped = this.events.drop(new Set([editId]))
      // What is said to be over is over: a page that is opened anew just then doesn't send it once more.
      if (dropped) void dropped.then(say, say)
      else say()
    }
  }

  /** Once everything missed is in, sends what waits, in order. */
  private catchUp(): void {
    if (this.isCaughtUp || this.replica.version < this.target) return
    this.isCaughtUp = true
    this.events.caughtUp()
    for (const item of this.replica.waiting)
      if (item !== this.held)
        this.events.send(JSON.stringify({ type: 'edit', edit: { ...item.edit, format: EDIT_FORMAT } }))
  }

  private replace(snapshot: Snapshot, version: number): void {
    const waiting = this.replica.waiting.filter(item => item !== this.held).map(item => item.edit)
    this.held = null
    this.replica = new Replica(fromSnapshot(snapshot), version)
    for (const edit of waiting) this.replica.takeUp(edit)
    const because = this.replacing
    this.replacing = null
    this.events.replaced(because)
  }

  /** Makes an edit: at once here, then for everybody. Null when it can't be made, after saying why. */
  put(changes: readonly Change[]): Waiting | null {
    const edit = { id: nanoid(16), changes }
    const message = JSON.stringify({ type: 'edit', edit: { ...edit, format: EDIT_FORMAT } })
    // Said here, since the server can't even read whose edit it is when a message is too long.
    if (message.length * 3 > LIMITS.message && new Blob([message]).size > LIMITS.message) {
      this.events.said('That is more than fits in one step (2 MB). Do it in parts; nothing was changed.')
      return null
    }
    try {
      const { item, touched } = this.replica.make(edit)
      this.events.keep(edit)
      if (this.isCaughtUp) this.events.send(message)
      this.events.touched(touched)
      return item
    } catch (error) {
      this.sayRefused(error)
      return null
    }
  }

  /**
   * Makes an edit that nobody hears of yet: a topic whose title is still being typed. Until it is released it's neither
   * sent nor kept; dropped, it leaves no trace. Held again, it takes the place of the one before.
   */
  hold(changes: readonly Change[]): boolean {
    const touched = new Set(this.dropHeld())
    try {
      const made = this.replica.make({ id: nanoid(16), changes })
      this.held = made.item
      for (const id of made.touched) touched.add(id)
    } catch (error) {
      this.sayRefused(error)
    }
    this.events.touched(touched)
    return this.held !== null
  }

  /** What is held, for holding more or for making it. */
  get heldChanges(): readonly Change[] {
    return this.held?.edit.changes ?? []
  }

  dropHeld(): Touched {
    const held = this.held
    this.held = null
    return held ? this.replica.drop(held.edit.id) : new Set()
  }

  /** Edits that the server hasn't acknowledged. */
  get waitingCount(): number {
    return this.replica ? this.replica.waiting.length - (this.held ? 1 : 0) : 0
  }

  private sayRefused(error: unknown): void {
    if (!(error instanceof Refused)) throw error
    this.events.said(error.message)
  }
}
